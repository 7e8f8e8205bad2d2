"""The impact of a plan over the values one of its figures could have."""

from collections.abc import Sequence

from yellow_abacus.core.forecast import Forecaster
from yellow_abacus.core.plan import Plan


def impact_curve(forecaster: Forecaster, variants: Sequence[Plan | None]) -> list[float | None]:
    """Plan minus today of each variant, minor units; None stays None."""
    return [None if plan is None else forecaster.impact(plan) for plan in variants]
