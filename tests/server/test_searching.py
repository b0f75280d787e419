"""What a run does while it searches, with a search that says at once what it is told to say: what is asked, told, traced and kept."""

from dataclasses import replace
from datetime import timedelta

import pytest
from django.db.models import QuerySet
from django.utils import timezone
from zygon_server.designs import service as designs
from zygon_server.errors import NotFound, Refused
from zygon_server.nesting import api as nest_api
from zygon_server.nesting import batches, by_hand, layouts, runs, searching, state
from zygon_server.nesting.models import Batch, NestLayout, NestRun

from tests.server.test_arranging import arrangement
from zygon.nest.bottom_left import first_layout
from zygon.nest.design import StockNest, plans, reckoned
from zygon.screen.design import nest_data

Status = NestRun.Status


_FIRST = {}


def first(document, plan):
    """The first layout of a plan, without a search; the same for all tests."""
    if plan.digest not in _FIRST:
        _FIRST[plan.digest] = first_layout(plan.task)
    return reckoned(document, StockNest(plan, replace(_FIRST[plan.digest]), ()))


class Search:
    """Takes ``lay_out``'s place: tells the shares that it is given, each with a layout, and gives the first one back."""

    def __init__(self, monkeypatch, *shares, fresh=True):
        self.shares, self.fresh, self.asked, self.going = shares, fresh, [], []
        monkeypatch.setattr(searching, "lay_out", self)
        monkeypatch.setattr(searching, "BEAT", timedelta(0))

    def __call__(self, document, plan, **asked):
        self.asked.append((plan.stock, asked))
        found = first(document, plan)
        for share in self.shares:
            told = replace(found, layout=replace(found.layout)) if self.fresh else found
            self.going.append(asked["progress"](share, told))
        return found


def worked(subject, **asked):
    run = runs.ask(subject, **asked)
    searching.work(runs.claim("w"))
    run.refresh_from_db()
    return run


def test_a_run_s_share_is_that_of_all_its_stocks(design, monkeypatch):
    search = Search(monkeypatch, 0.25, 0.5)
    seen = []
    own = searching.keep_layout

    def keep(subject, revision, data):
        run = NestRun.objects.get()
        seen.append((run.progress, run.best, len(run.trace), revision))
        assert run.status == "done" or run.lease_until > timezone.now() + timedelta(seconds=15)
        return own(subject, revision, data)

    monkeypatch.setattr(searching, "keep_layout", keep)
    run = worked(design, quick=False, seconds=7.0)
    assert search.going == [True] * 4 and run.status == Status.DONE
    # kept before it is told: twice while each of two stocks is searched, and once in its end
    assert [s[0] for s in seen] == pytest.approx([0.0, 0.125, 0.25, 0.25, 0.625, 0.75])
    assert {s[3] for s in seen} == {1}
    kept = {r.stock: r.data for r in design.layouts.all()}
    assert seen[1][1] == {"stock": "ply12", "sheets": len(kept["ply12"]["sheets"]), "share": pytest.approx(kept["ply12"]["share"])}
    assert [t["stock"] for t in run.trace] == ["ply12"] * 3 + ["ply6"] * 3
    for t in run.trace:
        assert t["sheets"] == len(kept[t["stock"]]["sheets"]) and t["cost"] == pytest.approx(kept[t["stock"]]["sheet_cost"])
        assert 0 < t["tightness"] <= 1 and t["at"] >= 0


@pytest.mark.parametrize(
    ("asked", "cores", "said", "workers"),
    [
        ({}, 6, 0, 1),  # what shows while editing has one
        ({"quick": False, "seconds": 2.9}, 6, 0, 1),  # what is over before others have begun too
        ({"quick": False, "seconds": 3.0}, 6, 0, 6),
        ({"quick": False, "seconds": 20.0}, 6, 2, 2),
    ],
)
def test_a_search_has_the_machine_s_cores_or_as_many_as_are_set(design, monkeypatch, settings, asked, cores, said, workers):
    search = Search(monkeypatch)
    monkeypatch.setattr(searching, "cores", lambda: cores)
    settings.SEARCH_WORKERS = said
    worked(design, **asked)
    assert {a["workers"] for _, a in search.asked} == {workers}


def test_what_is_asked_of_a_search_and_what_it_goes_on_from(design, monkeypatch):
    search = Search(monkeypatch)
    worked(design)
    assert [(s, a["seconds"], a["search"], a["known"], a["before"]) for s, a in search.asked] == [
        ("ply12", runs.QUICK_SECONDS / 2, False, None, None),
        ("ply6", runs.QUICK_SECONDS / 2, False, None, None),
    ]
    search.asked.clear()
    worked(design, quick=False, seconds=7.0)
    for stock, asked in search.asked:
        row = design.layouts.get(stock=stock)
        assert (asked["seconds"], asked["search"]) == (7.0, True)
        assert asked["known"].plan.stock == stock and len(asked["known"].layout.sheets) == len(row.data["sheets"])
        assert asked["before"].cost == row.data["sheet_cost"] and asked["before"].few
    search.asked.clear()
    worked(design, quick=False, seconds=3.0, stock="ply6")
    assert [s for s, _ in search.asked] == ["ply6"]
    design.layouts.filter(stock="ply6").delete()
    search.asked.clear()
    worked(design)
    assert [(s, a["seconds"]) for s, a in search.asked] == [("ply6", runs.QUICK_SECONDS)]


def test_the_same_layout_is_traced_and_kept_once_and_the_last_ones_stay_in_the_trace(box, monkeypatch):
    kept = []
    own = searching.keep_layout
    monkeypatch.setattr(searching, "keep_layout", lambda s, r, d: (kept.append(d), own(s, r, d))[1])
    Search(monkeypatch, 0.1, 0.2, 0.3, fresh=False)
    run = worked(box, quick=False, seconds=7.0)
    assert len(run.trace) == 1 and len(kept) == 2  # while it goes on, and in its end
    monkeypatch.setattr(searching, "MOST_TRACED", 3)
    Search(monkeypatch, *[k / 10 for k in range(8)])
    run = worked(box, quick=False, seconds=8.0)
    assert len(run.trace) == 3 and [t["at"] for t in run.trace] == sorted(t["at"] for t in run.trace)


def test_between_two_beats_nothing_is_written_but_the_first_layout_is(box, monkeypatch):
    kept = []
    own = searching.keep_layout
    monkeypatch.setattr(searching, "keep_layout", lambda s, r, d: (kept.append(NestRun.objects.get().progress), own(s, r, d))[1])
    search = Search(monkeypatch, 0.1, 0.2, 0.3)
    monkeypatch.setattr(searching, "BEAT", timedelta(hours=1))
    worked(box, quick=False, seconds=7.0)
    assert search.going == [True] * 3 and len(kept) == 2
    assert kept == [0.0, pytest.approx(0.1)]  # told at once, since nothing was shown yet, and not again


def test_nothing_is_shown_of_a_search_that_has_no_layout_yet(box, monkeypatch):
    def empty(document, plan, **asked):
        found = first(document, plan)
        bare = replace(found, layout=replace(found.layout, sheets=()), reckonings=())
        assert asked["progress"](0.3, bare) is True
        run = NestRun.objects.get()
        assert run.progress == pytest.approx(0.3) and run.trace == [] and not box.layouts.exists()
        assert run.best == {"stock": plan.stock, "sheets": 0, "share": found.layout.share}

    Search(monkeypatch)
    monkeypatch.setattr(searching, "lay_out", empty)
    run = worked(box, quick=False, seconds=7.0)
    assert run.status == Status.DONE and not box.layouts.exists()


@pytest.mark.parametrize("way", ["cancelled", "taken"])
def test_a_search_that_is_stopped_or_taken_by_another_is_told_so(design, monkeypatch, way):
    search = Search(monkeypatch, 0.5)

    def stop(subject, revision, data, own=searching.keep_layout):
        NestRun.objects.update(**({"cancel": True} if way == "cancelled" else {"worker": "another"}))
        return own(subject, revision, data)

    monkeypatch.setattr(searching, "keep_layout", stop)
    run = worked(design, quick=False, seconds=7.0)
    assert search.going == [False] and [s for s, _ in search.asked] == ["ply12"]  # the second stock is not begun
    assert run.status == (Status.CANCELLED if way == "cancelled" else Status.RUNNING)
    assert design.layouts.count() == 1


# asking


def test_a_run_that_is_being_stopped_is_not_the_one_that_is_asked_for(box):
    one = runs.ask(box, quick=False, seconds=5.0)
    assert runs.claim("w").pk == one.pk
    assert runs.ask(box, quick=False, seconds=5.0).pk == one.pk
    runs.cancel(box, str(one.pk))
    two = runs.ask(box, quick=False, seconds=5.0)
    assert two.pk != one.pk
    one.refresh_from_db()
    assert (one.status, one.cancel, two.status, two.cancel) == ("running", True, "queued", False)


def test_where_nothing_is_left_to_do_a_quick_run_that_waits_is_cancelled_and_a_search_is_not(design, monkeypatch):
    Search(monkeypatch)
    worked(design)
    search = runs.ask(design, quick=False, seconds=5.0)
    waits = NestRun.objects.create(design=design, revision=1, document={}, made_from="x", quick=True, seconds=1.0)
    assert runs.ask(design) is None
    search.refresh_from_db(), waits.refresh_from_db()
    assert (search.status, waits.status) == ("queued", "cancelled")


def test_a_run_that_another_took_first_is_not_taken(box, monkeypatch):
    run = runs.ask(box)
    read = QuerySet.first

    def taken_meanwhile(found):
        before = read(found)
        NestRun.objects.filter(pk=run.pk).update(status=Status.RUNNING, worker="another")
        return before

    monkeypatch.setattr(QuerySet, "first", taken_meanwhile)
    assert runs.claim("w") is None
    run.refresh_from_db()
    assert run.worker == "another"


@pytest.mark.parametrize("quick", [True, False])
def test_what_is_asked_on_the_way_in_arrives(api, box, monkeypatch, quick):
    asked = []
    monkeypatch.setattr(runs, "ask", lambda subject, **more: asked.append((subject, more)))
    batch = api.post("/batches", {"name": "B", "items": [{"design": str(box.pk), "quantity": 2}]})[1]
    body = {"quick": quick, "seconds": 500, "stock": "ply12"}
    assert api.post(f"/designs/{box.pk}/nest", body)[0] == 200
    assert api.post(f"/batches/{batch['id']}/nest", body)[0] == 200
    assert [a[1] for a in asked] == [{"quick": quick, "seconds": 120.0, "stock": "ply12"}] * 2
    assert [type(a[0]).__name__ for a in asked] == ["Design", "Batch"]
    assert nest_api.runs is runs


def test_a_batch_takes_just_so_many_designs_and_so_often(maker, box, design, monkeypatch):
    monkeypatch.setattr(batches, "MOST_ITEMS", 2)
    made = batches.store(maker, None, "  two  ", [(str(box.pk), 1), (str(design.pk), batches.MOST_TIMES)])
    assert made.name == "two" and [i.quantity for i in made.items.all()] == [1, 200]
    again = batches.store(maker, made, " ", [(str(design.pk), 3)])
    assert (again.pk, again.name, [i.quantity for i in again.items.all()], Batch.objects.count()) == (made.pk, "Cut together", [3], 1)
    for items, entry, value, rule in (
        ([(str(box.pk), 1)] * 3, "items", 3, "at most 50"),
        ([(str(box.pk), 0)], box.name, 0, "1 to 200 times"),
        ([(str(box.pk), 201)], box.name, 201, "1 to 200 times"),
        ([(str(box.pk), 2), (str(box.pk), 3)], box.name, 3, "each design once"),
    ):
        with pytest.raises(Refused) as refused:
            batches.store(maker, made, "x", items)
        assert (refused.value.more["entry"], refused.value.more["value"], refused.value.more["rule"]) == (entry, value, rule)
    made.refresh_from_db()
    assert made.name == "Cut together"


# what is kept


def row(design, digest, stock="ply12", cost=5.0, used=100.0, unplaced=0, hand=False):
    data = {
        "digest": digest,
        "stock": stock,
        "sheets": [{"used_length": used}],
        "share": 0.5,
        "sheet_cost": cost,
        "unplaced": {"a": unplaced},
        "hand": hand,
        "flats": {"a": "f"},
    }
    return searching.keep_layout(design, 7, data)


def test_the_better_layout_of_a_plan_is_kept(box):
    kept = row(box, "d")
    assert (kept.revision, kept.summary) == (7, {"sheets": 1, "share": 0.5, "cost": 5.0, "flats": {"a": "f"}})
    for worse in ({"cost": 5.1}, {"used": 100.1}, {"unplaced": 1, "cost": 1.0}):
        assert row(box, "d", **worse).data == kept.data
    for n, better in enumerate(({"used": 99.9}, {"cost": 4.9, "used": 500.0})):
        again = row(box, "d", **better)
        assert again.pk == kept.pk and again.data != kept.data, n
    assert box.layouts.count() == 1


def test_of_each_stock_the_newest_are_kept_those_by_hand_apart(box, design, monkeypatch):
    monkeypatch.setattr(layouts, "KEPT_BY_HAND", 2)
    monkeypatch.setattr(layouts, "KEPT_LAYOUTS", 3)
    row(design, "other's")
    row(box, "other stock", stock="ply6")
    for n in range(5):
        row(box, f"found {n}")
        row(box, f"hand {n}", hand=True)
    kept = {r.digest for r in NestLayout.objects.all()}
    assert kept == {"other's", "other stock", "found 2", "found 3", "found 4", "hand 3", "hand 4"}


# sheets by hand, without a search


@pytest.fixture
def laid(api, design):
    """A design of which one stock lies on two sheets by hand, the first of them cut."""
    built = designs.head(design).built
    plan = next(p for p in plans(built) if p.stock == "ply12")
    hand = arrangement(nest_data(built.document, first(built.document, plan)))
    placed = hand["sheets"]["s0"]["placed"]
    moved = dict(list(placed.items())[::2])
    hand["sheets"]["s0"]["placed"] = {k: v for k, v in placed.items() if k not in moved}
    last = len(hand["sheets"])
    hand["sheets"][f"s{last}"] = {"size": hand["sheets"]["s0"]["size"], "order": last, "placed": moved}
    hand["sheets"]["s0"]["cut"] = True
    assert api.edit(design, 1, {"op": "add", "path": "/nest/arranged/ply12", "value": hand})[0] == 200
    design.refresh_from_db()
    return plan, hand


def test_a_part_has_room_where_it_lies_but_none_on_a_sheet_that_is_cut(design, laid):
    import shapely

    plan, hand = laid
    last = f"s{len(hand['sheets']) - 1}"
    one = next(iter(hand["sheets"][last]["placed"].values()))
    found = by_hand.room(design, "ply12", one["part"], one["number"], one["angle"], one["mirrored"])
    assert found["rooms"][0] == [] and len(found["rooms"]) == len(hand["sheets"]) + 1

    def within(rooms):
        return any(shapely.Polygon(r[0], r[1:]).buffer(0.01).covers(shapely.Point(one["x"], one["y"])) for r in rooms)

    assert within(found["rooms"][-2])
    # another copy's place is not free
    other = next((p for p in hand["sheets"][last]["placed"].values() if p["part"] != one["part"]), None)
    if other:
        beside = by_hand.room(design, "ply12", other["part"], other["number"], other["angle"], other["mirrored"])
        assert beside["rooms"][-2] != found["rooms"][-2]
    shape = plan.task.shapes[plan.parts.index(one["part"])]
    outer = shape.region.outer.moved(0.0, 0.0, by_hand.math.radians(one["angle"]), one["mirrored"])
    assert found["box"] == pytest.approx(list(outer.bounds))
    assert found["fresh"] == {"size": plan.task.sheet.name, "length": plan.task.sheet.length, "width": plan.task.sheet.width}
    assert found["turns"] == pytest.approx([by_hand.math.degrees(t) for t in shape.turns]) and (found["free"], found["mirror"]) == (
        shape.free,
        shape.mirror,
    )
    with pytest.raises(Refused) as refused:
        by_hand.room(design, "ply12", one["part"], one["number"], 37.0, False)
    assert (refused.value.more["entry"], refused.value.more["value"]) == ("angle", 37.0)
    with pytest.raises(Refused) as refused:
        by_hand.room(design, "nothing", one["part"], one["number"], 0.0, False)
    assert (refused.value.more["entry"], refused.value.more["value"], refused.value.more["rule"]) == ("stock", "nothing", "a layout")
    with pytest.raises(NotFound):
        by_hand.room(design, "ply12", "nobody", 0, 0.0, False)


def test_only_a_sheet_that_was_cut_gives_its_rests_and_says_where_they_are_from(maker, design, laid):
    plan, hand = laid
    for stock, number in (("ply12", 0), ("ply12", len(hand["sheets"]) + 1), ("ply6", 1), ("nothing", 1)):
        with pytest.raises(NotFound):
            by_hand.finished(maker, design, stock, number, "")
    with pytest.raises(Refused) as refused:
        by_hand.finished(maker, design, "ply12", len(hand["sheets"]), "rack")
    assert (refused.value.more["entry"], refused.value.more["value"], refused.value.more["rule"]) == (
        "number",
        len(hand["sheets"]),
        "a sheet that has been cut",
    )
    made = by_hand.finished(maker, design, "ply12", 1, "rack 3")
    assert made and all(o["origin"] == f"{design.name}, sheet 1" and o["place"] == "rack 3" for o in made)
    assert all(o["thickness"] == pytest.approx(plan.flats[0].thickness) for o in made)
    assert {o["stock"] for o in made} == {"ply12"}


def test_what_lies_by_hand_is_shown_and_not_kept_until_it_is_asked_for(design, laid):
    stock = next(s for s in state.state(design)["stocks"] if s["stock"] == "ply12")
    assert (stock["current"], stock["by_hand"], stock["revision"], stock["found"], stock["found_revision"]) == (True, True, 2, None, 0)
    assert not design.layouts.exists()
    runs.ask(design)
    assert [(r.stock, r.hand, r.revision) for r in design.layouts.all()] == [("ply12", True, 2)]
