"""How the properties are tried, wherever a room's tests draw their cases: the same each time."""

from hypothesis import HealthCheck, settings

# the first draw reads the constants of every module of the house, which takes seconds
settings.register_profile(
    "cambrel", deadline=None, derandomize=True, max_examples=60, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("cambrel")
