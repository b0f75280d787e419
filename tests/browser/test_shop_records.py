"""What the shop has: a stock comes from the shelf with what belongs to it and goes again; tools and layers are changed in their tables."""

from playwright.sync_api import expect

from tests.browser.test_joints import saved


def test_a_stock_comes_from_the_shelf_and_goes_again_and_tables_are_typed_into(brood):
    page = brood
    page.keyboard.press("1")
    page.get_by_role("tab", name="Stock", exact=True).click()
    page.get_by_role("button", name="From the workshop's shelf").click()
    page.get_by_role("menuitem", name="Galvanised steel 20 ga").click()
    saved(page, 2)
    stocks = page.get_by_role("table", name="Stock")
    expect(stocks.get_by_text("Galvanised steel 20 ga")).to_be_visible()
    # a sheet that is bent brought a brake, and the laser's speeds in it
    page.get_by_role("tab", name="Press brake").click()
    least = page.get_by_label("Least flange of V 8", exact=True)
    expect(least).to_have_attribute("placeholder", "by V")
    least.fill("7.5")
    least.press("Enter")
    saved(page, 3)
    least.fill("")
    least.press("Enter")
    saved(page, 4)
    expect(least).to_have_value("")
    page.get_by_role("button", name="Keep on the shelf").click()
    expect(page.get_by_text("Kept on the shelf.")).to_be_visible()
    page.get_by_role("tab", name="Cutter and fits").click()
    expect(page.get_by_label("Cutting in Galvanised steel 20 ga")).to_be_visible()
    # what cannot be is refused with the entry and the rule, and what was there stands
    layer = page.get_by_label("Layer name of Marks")
    layer.fill("A/B")
    layer.press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("layers/mark/name")
    page.get_by_label("Close the message").click()
    page.get_by_role("tab", name="Stock", exact=True).click()
    row = stocks.get_by_role("row").filter(has_text="Galvanised steel 20 ga")
    row.get_by_role("button", name="Change").click()
    page.get_by_role("button", name="Remove", exact=True).click()
    saved(page, 5)
    expect(stocks.get_by_text("Galvanised steel 20 ga")).to_have_count(0)
    page.get_by_role("tab", name="Cutter and fits").click()
    expect(page.get_by_label("Cutting in Galvanised steel 20 ga")).to_have_count(0)
