"""How many sheets and bars there are is no longer said within a stock, but beside it; 0 was any number, which is not counted now."""

from django.db import migrations

import zygon_server.ordered_json

#: The largest number that is kept.
MOST = 10_000


def beside(apps, _):
    """Takes the counts out of the stocks."""
    stocks = apps.get_model("workshop", "Stock")
    for row in stocks.objects.all():
        for group in ("sheets", "lengths"):
            for size, sold in (row.data.get(group) or {}).items():
                count = sold.pop("count", 0)
                if isinstance(count, int) and 0 < count <= MOST:
                    row.on_hand[size] = count
        row.save(update_fields=["data", "on_hand"])


class Migration(migrations.Migration):
    """One column."""

    dependencies = [("workshop", "0004_stocks_that_bend")]
    operations = [
        migrations.AddField("stock", "on_hand", zygon_server.ordered_json.OrderedJSON(default=dict)),
        migrations.RunPython(beside, migrations.RunPython.noop),
    ]
