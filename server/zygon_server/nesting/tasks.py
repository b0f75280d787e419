"""The task that the queue wakes: it works runs off until none is left."""

from django_tasks import task

from zygon_server.nesting.service import claim, reclaim, work

__all__ = ["work_runs"]


@task()
def work_runs() -> int:
    """How many runs were worked."""
    reclaim()
    done = 0
    while (run := claim()) is not None:
        work(run)
        done += 1
    return done
