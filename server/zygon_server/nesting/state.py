"""What a screen is told of the layouts of a design or a batch, and of the run that is on."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, Max

from zygon.memo import digest
from zygon.nest.design import StockPlan
from zygon_server.nesting.layouts import KEPT_BY_HAND, KEPT_LAYOUTS, revision_of, row_of, summed
from zygon_server.nesting.models import NestLayout, NestRun, Subject
from zygon_server.nesting.times import told
from zygon_server.nesting.work import work_of

__all__ = ["state", "token"]

#: Earlier layouts that are offered.
EARLIER = 8


def token(subject: Subject) -> str:
    """What changes whenever the state would: the head's revision, the newest layout and how far the run is. Two short queries."""
    layouts = subject.layouts.aggregate(newest=Max("made"), last=Max("pk"), count=Count("pk"))
    run = subject.nest_runs.values_list("pk", "status", "progress", "heartbeat", "cancel").first()
    return digest(revision_of(subject), sorted(layouts.items(), key=str), run)


def state(subject: Subject) -> dict[str, Any]:
    """Layouts of a design's head or a batch by stock (the last one where the head's is not there yet, marked so), and the run that is on.

    Beside what is laid by hand stands what a search has ``found`` around its locked parts; ``earlier`` ones can be looked at and kept again.
    """
    stocks = []
    for document, plan in work_of(subject):
        layout = row_of(subject, document, plan, keep=False)
        old = layout or subject.layouts.filter(stock=plan.stock).first()
        found = subject.layouts.filter(digest=plan.loose).first() if plan.hand is not None else None
        shown = {r.pk for r in (old, found) if r}
        rows = subject.layouts.filter(stock=plan.stock).defer("data")[: KEPT_LAYOUTS + KEPT_BY_HAND]
        earlier = [_summary(plan, r) for r in rows if r.pk not in shown]
        stocks.append(
            {
                "stock": plan.stock,
                "digest": plan.digest,
                "current": layout is not None,
                "layout": (told(document, old.data) if layout else old.data) if old else None,
                "revision": old.revision if old else 0,
                "by_hand": plan.hand is not None,
                "found": found.data if found else None,
                "found_revision": found.revision if found else 0,
                "earlier": earlier[:EARLIER],
            }
        )
    run = subject.nest_runs.first()
    return {"stocks": stocks, "run": _run_data(run) if run else None}


def _summary(plan: StockPlan, row: NestLayout) -> dict[str, Any]:
    """What a list tells of an earlier layout, and whether its flats are those of now."""
    flats = {part: flat.digest for part, flat in zip(plan.parts, plan.flats, strict=True)}
    told = row.summary or summed(row.data)  # layouts of before they had one
    return {
        "id": row.pk,
        "revision": row.revision,
        "made": row.made.isoformat(),
        "sheets": told["sheets"],
        "share": told["share"],
        "cost": told["cost"],
        "hand": row.hand,
        "stale": told["flats"] != flats,
    }


def _run_data(run: NestRun) -> dict[str, Any]:
    return {
        "id": str(run.pk),
        "status": run.status,
        "quick": run.quick,
        "progress": run.progress,
        "best": run.best,
        "error": run.error,
        "revision": run.revision,
        "stock": run.stock,
        "seconds": run.seconds,
        "trace": run.trace,
    }
