"""A hand that counts what it does, and finds its way over the picture as a maker's eye would."""

from playwright.sync_api import Page, expect

from tests.browser.test_main_job import live


class Counted:
    """Counts what a maker does: a press, a drag, a finished entry or choice, a key."""

    def __init__(self, page: Page):
        self.page, self.actions = page, 0

    def press(self, target):
        target.click()
        self.actions += 1

    def key(self, key):
        self.page.keyboard.press(key)
        self.actions += 1

    def type(self, text):
        """Figures typed while something is in hand: one entry."""
        self.page.keyboard.type(text)
        self.actions += 1

    def entry(self, label, text):
        field = self.page.get_by_label(label, exact=True)
        field.fill(text)
        field.press("Enter")
        field.blur()
        self.actions += 1

    def choose(self, label, option):
        self.page.get_by_role("combobox", name=label, exact=True).click()
        self.page.get_by_role("option", name=option, exact=True).click()
        self.actions += 1

    def press_at(self, x, y):
        self.page.mouse.click(x, y)
        self.actions += 1


class KeysAlone(Counted):
    """The same hand without a mouse: what is pressed has the focus, and Enter presses it."""

    def press(self, target):
        target.focus()
        self.key("Enter")

    def entry(self, label, text):
        field = self.page.get_by_label(label, exact=True)
        field.focus()
        self.page.keyboard.press("Control+a")
        self.page.keyboard.type(text)
        self.page.keyboard.press("Tab")
        self.actions += 1

    def choose(self, label, option):
        field = self.page.get_by_role("combobox", name=label, exact=True)
        field.focus()
        self.page.keyboard.type(option)
        found = self.page.get_by_role("option", name=option, exact=True)
        # the first that fits is taken by Enter
        expect(found).to_have_attribute("data-combobox-selected", "true")
        self.page.keyboard.press("Enter")
        try:
            expect(found).to_be_hidden(timeout=5_000)
        except AssertionError:  # on a busy machine the list may have come anew just then: whoever sees it still open presses again
            field.focus()
            self.page.keyboard.press("Enter")
            expect(found).to_be_hidden()
        self.actions += 1

    def press_at(self, x, y):
        raise AssertionError("there is no mouse")


def begun(page: Page, name: str, starter: str) -> Counted:
    """A new design from a starter, and a hand that has done nothing yet."""
    page.get_by_role("button", name="New design").click()
    page.get_by_label("Name").fill(name)
    page.get_by_role("button", name=starter, exact=True).click()
    page.get_by_role("button", name="Begin").click()
    expect(live(page, "build")).to_be_visible()
    return Counted(page)


def document_of(page: Page) -> dict:
    """The open design as the server keeps it."""
    name = page.url.split("/designs/")[1].split("/")[0].split("?")[0]
    return page.request.get(f"/api/designs/{name}").json()["document"]


def find_face(page: Page, face: str, along: str = "", *, steps: int = 15) -> tuple[float, float]:
    """A place of the picture where a board in hand hangs before a face ('floor top'), near to one of its edges or to none; looking is no action."""
    area = page.get_by_test_id("scene").bounding_box()
    ghost = page.get_by_test_id("ghost")
    # what the pointer does is shown with the frame after the next; beside the design the board hangs where it was
    now_shown = """(e) => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(
        () => setTimeout(() => r(e.dataset.over ? [e.dataset.before, e.dataset.along] : ["", ""])))))"""
    seen: dict[tuple[int, int], tuple[str, str]] = {}

    def at(row: int, column: int) -> tuple[float, float]:
        return area["x"] + area["width"] * column / steps, area["y"] + area["height"] * row / steps

    def there(row: int, column: int) -> bool:
        if not (0 < row < steps and 0 < column < steps):
            return False
        if (row, column) not in seen:
            page.mouse.move(*at(row, column))
            seen[row, column] = tuple(ghost.evaluate(now_shown))
        return seen[row, column] == (face, along)

    # far apart first, then between: a place costs two frames
    every = [(row, column) for row in range(1, steps) for column in range(1, steps)]
    order = sorted(every, key=lambda p: next(n for n, far in enumerate((4, 2, 1)) if not (p[0] % far or p[1] % far)))
    hit = next((p for p in order if there(*p)), None)
    assert hit, (face, along, sorted(set(seen.values())))
    # the one round which most others are too
    beside = [(0, 1), (1, 0), (0, -1), (-1, 0)]
    found = [hit, *(p for p in ((hit[0] + r, hit[1] + c) for r, c in beside) if there(*p))]
    place = at(*max(found, key=lambda p: sum(there(p[0] + r, p[1] + c) for r, c in beside)))
    page.mouse.move(*place)
    assert tuple(ghost.evaluate(now_shown)) == (face, along)
    return place
