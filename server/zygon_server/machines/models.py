"""Sheets that are sent to a machine, as they were when they were sent, and what came of them."""

import uuid

from django.conf import settings
from django.db import models

from zygon_server.designs.models import Design
from zygon_server.ordered_json import OrderedJSON


class Job(models.Model):
    """A sheet for a machine. Layout, paths and revision stay what they were when it was sent; ``pieces`` are in the order in which they come off.

    ``marks`` tell what became of pieces (``off``, ``spoiled``), by key and copy; ``rests`` what the sheet gives back, as rings in mm; ``locked`` are the
    pieces that were held in the design's layout because of it.
    """

    class State(models.TextChoices):
        QUEUED = "queued"
        #: its program is on the way, or is not answered for
        STARTING = "starting"
        RUNNING = "running"
        HELD = "held"
        #: it stopped before its end
        INTERRUPTED = "interrupted"
        #: one side is done, the sheet has to be turned
        TURN = "turn"
        #: all is cut, pieces lie on the bed
        CUT = "cut"
        DONE = "done"
        REMOVED = "removed"

    #: What lies on a bed.
    ON_BED = (State.STARTING, State.RUNNING, State.HELD, State.INTERRUPTED, State.TURN, State.CUT)
    OPEN = (State.QUEUED, *ON_BED)

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    machine = models.SlugField(max_length=40)
    design = models.ForeignKey(Design, on_delete=models.SET_NULL, null=True, related_name="jobs")
    batch = models.ForeignKey(
        "nesting.Batch", on_delete=models.SET_NULL, null=True, related_name="jobs", help_text="of designs cut together"
    )
    name = models.CharField(max_length=80, help_text="of the design, or of the batch")
    revision = models.PositiveIntegerField(help_text="of the design; 0 of a batch")
    stock = models.CharField(max_length=40)
    stock_name = models.CharField(max_length=80)
    tint = models.CharField(max_length=20, default="")
    thickness = models.FloatField(help_text="mm")
    display = models.CharField(max_length=8, default="mm", help_text="what its lengths are shown in")
    number = models.PositiveIntegerField()
    of = models.PositiveIntegerField()
    sheet = OrderedJSON(help_text="as it is shown")
    pieces = OrderedJSON(default=list)
    marks = OrderedJSON(default=dict)
    rests = OrderedJSON(default=list)
    locked = OrderedJSON(default=list)
    state = models.CharField(max_length=11, choices=State, default=State.QUEUED)
    side = models.PositiveSmallIntegerField(default=0, help_text="which of its sides is next, or is cut")
    said = models.TextField(default="", help_text="what went otherwise, as sentences")
    order = models.FloatField(default=0.0)
    due = models.DateField(null=True)
    author = models.CharField(max_length=150)
    made = models.DateTimeField(auto_now_add=True)
    began = models.DateTimeField(null=True)
    ended = models.DateTimeField(null=True)

    class Meta:
        ordering = ("machine", "order", "made")
        constraints = (
            models.UniqueConstraint(
                fields=("machine",),
                condition=models.Q(state__in=["starting", "running", "held", "interrupted", "turn", "cut"]),
                name="one_sheet_a_bed",
            ),
        )


class JobSide(models.Model):
    """A program of a job's: for the face that lies up, or before it for the one that lies down. ``overlap`` is how far (mm) it is begun again before where it broke off."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="sides")
    number = models.PositiveSmallIntegerField()
    under = models.BooleanField(default=False)
    text = models.TextField()
    shown = OrderedJSON(help_text="what plays it")
    moves = models.PositiveIntegerField()
    waits = models.CharField(max_length=2, default="s")
    overlap = models.FloatField()

    class Meta:
        ordering = ("number",)
        constraints = (models.UniqueConstraint(fields=("job", "number"), name="one_program_a_side"),)


class JobRun(models.Model):
    """A program that was given to the machine under a name that is used once: a side's, or its rest. ``move`` and ``share`` are how far it came, in its own moves."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="runs")
    side = models.PositiveSmallIntegerField()
    number = models.PositiveSmallIntegerField()
    name = models.CharField(max_length=40, unique=True)
    text = models.TextField()
    moves = models.PositiveIntegerField()
    begun = models.BooleanField(default=False)
    move = models.PositiveIntegerField(default=0)
    share = models.FloatField(default=0.0)
    seconds = models.FloatField(default=0.0, help_text="done of it, as the machine reckons")
    of = models.FloatField(default=0.0, help_text="that it takes in all, as the machine reckons")
    author = models.CharField(max_length=150)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("made", "number")
