"""The checks of Potrel. `./run test` runs them all; docs/CONTRIBUTING.md says how to run one."""

from hypothesis import HealthCheck, settings

# The same examples in every run, however slow the machine.
settings.register_profile(
    "potrel", deadline=None, derandomize=True, database=None, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("potrel")
