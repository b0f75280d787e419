"""What a maker's shelf becomes when the application is brought up to date."""

from importlib import import_module

from django.apps import apps
from zygon_server.workshop.models import Stock


def test_sheet_metal_on_the_shelf_says_that_it_bends(maker):
    kept = {"steel": {"hatch": "metal", "name": "Steel"}, "ply": {"hatch": "ply"}, "told": {"hatch": "metal", "bends": False}}
    for key, data in kept.items():
        Stock.objects.create(owner=maker, key=f"old-{key}", data=data)
    import_module("zygon_server.workshop.migrations.0004_stocks_that_bend").say(apps, None)
    found = {s.key.removeprefix("old-"): s.data for s in Stock.objects.filter(owner=maker, key__startswith="old-")}
    assert found == {"steel": {"hatch": "metal", "name": "Steel", "bends": True}, "ply": kept["ply"], "told": kept["told"]}
