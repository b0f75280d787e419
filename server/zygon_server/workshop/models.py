"""Stock, cutters, fits and press brakes of a maker's workshop. Each holds a record of the core's, checked by the core."""

from django.conf import settings
from django.db import models

from zygon_server.ordered_json import OrderedJSON


class _Shelf(models.Model):
    """One record under the key that designs use for it."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    key = models.SlugField(max_length=40)
    data = OrderedJSON()

    class Meta:
        abstract = True
        ordering = ("key",)


class Stock(_Shelf):
    """A stock of any kind (``zygon.stock.kinds.Stock``); how many there are of the sizes it is sold in, where they are counted."""

    on_hand = OrderedJSON(default=dict)

    class Meta(_Shelf.Meta):
        constraints = (models.UniqueConstraint(fields=("owner", "key"), name="one_stock_a_key"),)


class Cutter(_Shelf):
    """A cutter (``zygon.stock.cutter.Cutter``)."""

    class Meta(_Shelf.Meta):
        constraints = (models.UniqueConstraint(fields=("owner", "key"), name="one_cutter_a_key"),)


class Fit(_Shelf):
    """A fit table (``zygon.stock.fit.FitTable``)."""

    class Meta(_Shelf.Meta):
        constraints = (models.UniqueConstraint(fields=("owner", "key"), name="one_fit_a_key"),)


class Brake(_Shelf):
    """A press brake with its tools (``zygon.stock.brake.Brake``)."""

    class Meta(_Shelf.Meta):
        constraints = (models.UniqueConstraint(fields=("owner", "key"), name="one_brake_a_key"),)


class PaperTemplate(_Shelf):
    """How a workshop's papers look (``zygon.design.papers.PaperTemplate``), with its logo's file; ``media`` is '' where it has none."""

    media = models.CharField(max_length=10, default="", blank=True)
    logo = models.BinaryField(default=bytes, blank=True)

    class Meta(_Shelf.Meta):
        constraints = (models.UniqueConstraint(fields=("owner", "key"), name="one_template_a_key"),)


class Offcut(models.Model):
    """What a finished sheet gave back: ``outline`` holds its corners and its holes' in mm, its low corner at 0, 0."""

    class State(models.TextChoices):
        SHELF = "shelf"
        USED = "used"
        GONE = "gone"

    PREFIX = "R"

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    number = models.PositiveIntegerField()
    stock = models.CharField(max_length=40)
    stock_name = models.CharField(max_length=80)
    thickness = models.FloatField(help_text="mm, nominal")
    outline = OrderedJSON()
    area = models.FloatField(help_text="mm²")
    place = models.CharField(max_length=80, default="", blank=True)
    origin = models.CharField(max_length=120, default="", blank=True)
    state = models.CharField(max_length=5, choices=State, default=State.SHELF)
    reserved = models.ForeignKey("designs.Design", null=True, on_delete=models.SET_NULL, related_name="offcuts")
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("stock", "-area", "number")
        constraints = (models.UniqueConstraint(fields=("owner", "number"), name="one_offcut_a_number"),)

    @property
    def label(self) -> str:
        """What is written on it."""
        return f"{self.PREFIX}{self.number}"
