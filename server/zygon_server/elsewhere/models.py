"""Orders to outside cutters, with the drawings as they left."""

import uuid

from django.conf import settings
from django.db import models

from zygon_server.designs.models import Design
from zygon_server.ordered_json import OrderedJSON


class OutsideOrder(models.Model):
    """What was asked of an outside cutter: parts and drawings of one revision, which stay as they were. ``received`` counts pieces by part."""

    class State(models.TextChoices):
        #: it has its price
        ASKED = "asked"
        #: it is on its way to the cutter, or was not answered for
        SENDING = "sending"
        ORDERED = "ordered"
        RECEIVED = "received"
        DROPPED = "dropped"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    design = models.ForeignKey(Design, on_delete=models.CASCADE, related_name="outside_orders")
    cutter = models.SlugField(max_length=40)
    called = models.CharField(max_length=80, help_text="the outside cutter")
    name = models.CharField(max_length=80, help_text="of the design")
    revision = models.PositiveIntegerField()
    lines = models.CharField(max_length=60, help_text="what the drawings are, in words")
    items = OrderedJSON()
    received = OrderedJSON(default=dict)
    data = models.BinaryField()
    price = models.FloatField()
    currency = models.CharField(max_length=3)
    days = models.PositiveIntegerField()
    state = models.CharField(max_length=8, choices=State, default=State.ASKED)
    reference = models.CharField(max_length=40, default="", help_text="the cutter's own")
    author = models.CharField(max_length=150)
    made = models.DateTimeField(auto_now_add=True)
    ordered = models.DateTimeField(null=True)
    ended = models.DateTimeField(null=True)

    class Meta:
        ordering = ("-made",)
