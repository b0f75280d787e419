"""Stocks on the shelf say by themselves whether they are sheet metal that is bent, no longer by how they are hatched."""

from django.db import migrations


def say(apps, _):
    """Sets ``bends`` of every sheet metal."""
    stocks = apps.get_model("workshop", "Stock")
    for row in stocks.objects.all():
        if row.data.get("hatch") == "metal" and "bends" not in row.data:
            row.data["bends"] = True
            row.save(update_fields=["data"])


class Migration(migrations.Migration):
    """No change of tables."""

    dependencies = [("workshop", "0003_offcuts")]
    operations = [migrations.RunPython(say, migrations.RunPython.noop)]
