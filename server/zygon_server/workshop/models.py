"""Stock, cutters, fits and press brakes of a maker's workshop. Each holds a record of the core's, checked by the core."""

from django.conf import settings
from django.db import models


class _Shelf(models.Model):
    """One record under the key that designs use for it."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    key = models.SlugField(max_length=40)
    data = models.JSONField()

    class Meta:
        abstract = True
        ordering = ("key",)


class Stock(_Shelf):
    """A sheet stock (``zygon.stock.sheet.SheetStock``)."""

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
