"""What the core's tests share."""

import pytest

from zygon.design import workshop
from zygon.design.plain import copied

TABLES = {name: getattr(workshop, name) for name in ("STOCKS", "BARS", "CUTTERS", "FITS", "BRAKES")}
KEPT = copied(TABLES)


@pytest.fixture(autouse=True)
def _the_workshop_stays_as_it_is():
    """A test that changed the tables which all designs are drafted from would change every test after it."""
    yield
    if TABLES != KEPT:
        changed = [name for name in TABLES if TABLES[name] != KEPT[name]]
        for name in changed:
            TABLES[name].clear()
            TABLES[name].update(copied(KEPT[name]))
        pytest.fail(f"zygon.design.workshop is not what it was: {', '.join(changed)}")
