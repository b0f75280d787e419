"""Settings that all tests share."""

import gc

from hypothesis import HealthCheck, Phase, settings
from hypothesis.internal.conjecture import providers
from zygon_server.local import prepare

from tests.explore import EXPLORE, drawn

# the server's tests keep their database there
prepare()

# the same examples every time, so that a red run is a change's doing
settings.register_profile(
    "zygon",
    deadline=None,
    max_examples=drawn(60),
    derandomize=not EXPLORE,
    phases=tuple(p for p in Phase if EXPLORE or p not in (Phase.shrink, Phase.explain)),
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large],
)
settings.load_profile("zygon")
if not EXPLORE:
    # otherwise the constants of every module that happens to be loaded are drawn too, and one test alone draws other examples than among all
    providers._get_local_constants = lambda: providers._local_constants


def pytest_collection_finish():
    """What stays for the whole run (tests, tables, compiled code) is not gone through at each collection of garbage."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 50)
