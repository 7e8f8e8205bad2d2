"""The impact of a plan over the values one of its figures could have."""

from collections.abc import Sequence
from contextlib import suppress

from yellow_abacus.core.forecast.forecast import Forecaster
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.offers.gifts import TooMuchPutInError


def impact_curve(forecaster: Forecaster, variants: Sequence[Plan | None]) -> list[float | None]:
    """Plan minus today of each variant, minor units; None for what makes no sense."""
    try:
        with suppress(TooMuchPutInError):  # which is told variant by variant
            forecaster.find_together([plan for plan in variants if plan is not None])
        return [None if plan is None else _impact(forecaster, plan) for plan in variants]
    finally:
        forecaster.outlook.forget_together()


def _impact(forecaster: Forecaster, plan: Plan) -> float | None:
    try:
        return forecaster.impact(plan)
    except TooMuchPutInError:
        return None
