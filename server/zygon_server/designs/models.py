"""Designs, stored whole with a revision, and the edits that made them."""

import uuid
from datetime import timedelta

from django.conf import settings
from django.db import models

from zygon_server.ordered_json import OrderedJSON

#: How long what was deleted can be brought back.
DELETED = timedelta(days=30)


class Design(models.Model):
    """A maker's design at its head. ``good`` are the last good values of its entries, for what is broken now."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=80)
    document = OrderedJSON()
    good = OrderedJSON(default=dict)
    parts = models.PositiveIntegerField(default=0)  # of the head, for the list of designs
    problems = models.PositiveIntegerField(default=0)
    revision = models.PositiveIntegerField(default=1)
    created = models.DateTimeField(auto_now_add=True)
    updated = models.DateTimeField(auto_now=True)
    deleted = models.DateTimeField(null=True, blank=True, db_index=True)  # it can be brought back until it is pruned
    drawing = models.TextField(default="")  # its small picture, of the revision ``drawn``
    drawn = models.PositiveIntegerField(default=0)

    class Meta:
        ordering = ("-updated",)


class Edit(models.Model):
    """One edit: a JSON Patch, its inverse, and a label that a person would read. ``revision`` is what it led to."""

    class Kind(models.TextChoices):
        EDIT = "edit"
        UNDO = "undo"
        REDO = "redo"

    class State(models.TextChoices):
        DONE = "done"
        UNDONE = "undone"
        DROPPED = "dropped"  # undone, and another edit was made after

    design = models.ForeignKey(Design, on_delete=models.CASCADE, related_name="edits")
    revision = models.PositiveIntegerField()
    kind = models.CharField(max_length=4, choices=Kind, default=Kind.EDIT)
    state = models.CharField(max_length=7, choices=State, default=State.DONE)
    label = models.CharField(max_length=200)
    schema = models.PositiveSmallIntegerField(default=5)  # of the document that patch and inverse speak of
    patch = OrderedJSON()
    inverse = OrderedJSON()
    token = models.CharField(max_length=32, default="", help_text="the edit's own name, given by whoever made it; empty for none")
    author = models.CharField(max_length=150)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("revision",)
        constraints = (
            models.UniqueConstraint(fields=("design", "revision"), name="one_edit_a_revision"),
            models.UniqueConstraint(fields=("design", "token"), condition=~models.Q(token=""), name="an_edit_is_made_once"),
        )


class Picture(models.Model):
    """A picture that lies behind drawings of a design, by the digest that its document names it by; it goes with the design."""

    design = models.ForeignKey(Design, on_delete=models.CASCADE, related_name="pictures")
    digest = models.CharField(max_length=64)
    media = models.CharField(max_length=10)
    data = models.BinaryField()

    class Meta:
        constraints = (models.UniqueConstraint(fields=("design", "digest"), name="one_picture_a_digest"),)


class IssuedSet(models.Model):
    """A set of papers as it was issued: the PDF under its revision, never changed; ``number`` is the design's revision that it shows."""

    design = models.ForeignKey(Design, on_delete=models.CASCADE, related_name="issued")
    revision = models.CharField(max_length=10)
    number = models.PositiveIntegerField()
    sheets = models.PositiveIntegerField()
    author = models.CharField(max_length=150)
    at = models.DateTimeField(auto_now_add=True)
    data = models.BinaryField()

    class Meta:
        ordering = ("-at", "-pk")
        constraints = (models.UniqueConstraint(fields=("design", "revision"), name="a_revision_is_issued_once"),)


class RangeTries(models.Model):
    """At which values of its sizes a design was tried, and what broke there; of the design as its ``digest`` tells."""

    design = models.OneToOneField(Design, on_delete=models.CASCADE, related_name="range_tries")
    digest = models.CharField(max_length=32)
    tries = OrderedJSON(default=dict)
    made = models.DateTimeField(auto_now=True)
