"""The tests. Properties are held to what they say, not to a time: a slow machine fails none of them."""

from hypothesis import HealthCheck, settings

settings.register_profile("suite", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("suite")
