"""Settings and fixtures that all tests share."""

from hypothesis import HealthCheck, settings

settings.register_profile("zygon", deadline=None, max_examples=60, suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large])
settings.load_profile("zygon")
