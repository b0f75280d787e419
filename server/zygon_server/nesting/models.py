"""Nest runs and the layouts that they found."""

import uuid

from django.conf import settings
from django.db import models

from zygon_server.designs.models import Design
from zygon_server.ordered_json import OrderedJSON


class Batch(models.Model):
    """Several designs that are cut together."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=80)
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ("-updated",)


class BatchItem(models.Model):
    """One design of a batch, and how often it is made."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="items")
    design = models.ForeignKey(Design, on_delete=models.CASCADE)
    quantity = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ("pk",)
        constraints = (models.UniqueConstraint(fields=("batch", "design"), name="a_design_once_a_batch"),)


class NestRun(models.Model):
    """One search, of a design or of a batch. ``document`` and ``good`` are what it is made from; a lease that ran out means that its worker is gone."""

    class Status(models.TextChoices):
        QUEUED = "queued"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    design = models.ForeignKey(Design, on_delete=models.CASCADE, null=True, related_name="nest_runs")
    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, null=True, related_name="nest_runs")
    revision = models.PositiveIntegerField()
    document = OrderedJSON()
    good = OrderedJSON(default=dict)
    made_from = models.CharField(max_length=64, help_text="hash of the plans that it lays out")
    quick = models.BooleanField(default=True)
    stock = models.CharField(max_length=40, default="", blank=True, help_text="the one stock that is searched; empty for all")
    trace = OrderedJSON(default=list, help_text="what was found when")
    seconds = models.FloatField()
    status = models.CharField(max_length=9, choices=Status, default=Status.QUEUED)
    progress = models.FloatField(default=0.0)
    best = OrderedJSON(null=True, help_text="the best layout so far, by stock")
    error = models.TextField(default="")
    cancel = models.BooleanField(default=False)
    attempts = models.PositiveSmallIntegerField(default=0)
    worker = models.CharField(max_length=64, default="")
    claimed = models.DateTimeField(null=True, help_text="when a worker took it up last")
    heartbeat = models.DateTimeField(null=True)
    lease_until = models.DateTimeField(null=True)
    created = models.DateTimeField(auto_now_add=True)
    finished = models.DateTimeField(null=True)

    class Meta:
        ordering = ("-created",)


class NestLayout(models.Model):
    """The best layout found of one stock of a design or a batch, under the hash of its plan."""

    design = models.ForeignKey(Design, on_delete=models.CASCADE, null=True, related_name="layouts")
    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, null=True, related_name="layouts")
    stock = models.CharField(max_length=40)
    digest = models.CharField(max_length=64)
    data = OrderedJSON()
    revision = models.PositiveIntegerField(default=0, help_text="of the design that it was first made for")
    hand = models.BooleanField(default=False, help_text="laid by hand, not found by a search")
    made = models.DateTimeField(auto_now=True)
    summary = OrderedJSON(default=dict, help_text="what lists tell of it, so that they need not load it: sheets, share, cost, flats")

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=("design", "digest"), name="one_layout_a_plan"),
            models.UniqueConstraint(fields=("batch", "digest"), name="one_layout_a_plan_of_a_batch"),
        )
        ordering = ("-made",)


class Beat(models.Model):
    """When a process in the background was last heard of."""

    name = models.CharField(max_length=40, primary_key=True)
    at = models.DateTimeField()


#: Whose sheets are laid out.
Subject = Design | Batch
