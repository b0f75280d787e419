"""The task that the queue wakes: it works runs off until none is left."""

from django_tasks import task

from zygon_server.nesting.runs import claim, reclaim
from zygon_server.nesting.searching import work

__all__ = ["work_runs"]


@task()
def work_runs(quick: bool | None = None) -> int:
    """How many runs were worked: quick ones, searches, or all."""
    reclaim()
    done = 0
    while (run := claim(quick=quick)) is not None:
        work(run)
        done += 1
    return done
