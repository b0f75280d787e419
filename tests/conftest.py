"""Settings that all tests share."""

import os

from hypothesis import HealthCheck, settings
from zygon_server.local import prepare

# the server's tests keep their database there
prepare()

# the same examples every time, so that a red run is a change's doing; ZYGON_EXPLORE=1 draws new ones
settings.register_profile(
    "zygon",
    deadline=None,
    max_examples=60,
    derandomize=os.environ.get("ZYGON_EXPLORE") != "1",
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large],
)
settings.load_profile("zygon")
