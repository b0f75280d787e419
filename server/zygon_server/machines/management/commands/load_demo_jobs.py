"""Loads what the demo's machines have done: a sheet that is cut, one that the power left half done, and one that waits. Run again, it changes nothing."""

from __future__ import annotations

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand

from zygon.design.examples import example
from zygon.machine.journal import Journal
from zygon.machine.simulated import Simulated
from zygon.program.timed import Machine
from zygon_server.accounts.service import DEMO_USER
from zygon_server.designs.models import Design
from zygon_server.designs.service import create
from zygon_server.local import VAR
from zygon_server.machines.finishing import finish, mark
from zygon_server.machines.models import Job, JobRun
from zygon_server.machines.running import claim, take_over_end
from zygon_server.machines.sending import send
from zygon_server.nesting.runs import ask
from zygon_server.nesting.tasks import work_runs

#: The demo's laser, as it is started (``zygon_supervisor.processes``).
LASER = Machine(350.0, 3000.0, (1300.0, 1250.0))
NAME = "Brood box, second run"
#: How much of the sheet was cut when the power went.
HALF = 0.45


class Command(BaseCommand):
    """load_demo_jobs"""

    help = "Load what the demo's machines have done."

    def handle(self, **_) -> None:
        """Runs the command."""
        user = get_user_model().objects.get(username=DEMO_USER)
        if Job.objects.filter(owner=user).exists() or Design.objects.filter(owner=user, name=NAME).exists():
            return
        document = example("brood-box")
        box = create(user, document.model_copy(update={"name": NAME}))
        floor = Design.objects.filter(owner=user, name=example("hive-floor").name).first()
        for design in filter(None, (box, floor)):
            ask(design)
            work_runs.func()
        journal = Journal(VAR / "machines" / "laser.jsonl")
        journal.path.parent.mkdir(parents=True, exist_ok=True)
        laser = Simulated(LASER, journal, "Laser")
        laser.home()
        (done,) = send(user, box, "ply12", [1], "laser", None)
        run = self.given(done, laser)
        laser.advance(1e6)
        take_over_end(done, run)
        for p in done.pieces:
            mark(done, p["key"], p["number"], "off")
        finish(done, DEMO_USER, "rack by the door, slot 2")
        box.refresh_from_db()
        (half,) = send(user, box, "ply6", [1], "laser", None)
        self.given(half, laser)
        laser.advance(HALF * laser.status()["of"])
        if floor:
            floor.refresh_from_db()
            send(user, floor, "ply18", [1], "router", None)
        self.stdout.write("The demo's machines have been busy.")

    def given(self, job: Job, laser: Simulated) -> JobRun:
        """The job's program, begun on the machine."""
        side = job.sides.get(number=0)
        run = claim(job, (Job.State.QUEUED,), side.text, side, DEMO_USER)[1]
        lines = side.text.splitlines()
        laser.take(run.name, len(lines))
        for n, line in enumerate(lines, 1):
            laser.line(n, line)
        laser.start(run.name)
        Job.objects.filter(pk=job.pk).update(state=Job.State.RUNNING)
        job.refresh_from_db()
        return run
