"""Every snag that is looked for. A new one is a module with a `find`, and a line here."""

from collections.abc import Callable, Iterator
from dataclasses import replace
from types import ModuleType

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag
from yellow_abacus.core.advice.snags import (
    below_cost_alone,
    below_cost_together,
    beyond_the_shop,
    both_announced,
    cannot_hold,
    carriage_eats_it,
    code_without_limit,
    codes_alike,
    exactly_at_bound,
    frees_the_dearest,
    gift_cards_discounted,
    gift_cards_earn,
    gift_outlasts_returns,
    gift_runs_short,
    guessable_code,
    more_anyway_than_come,
    more_costs_less,
    more_than_a_unit_keeps,
    never_applied,
    no_end_of_its_own,
    no_minimum_spend,
    no_reduction,
    no_take_up,
    on_quantity_prices,
    on_reduced_prices,
    option_few_choose,
    place_in_plan,
    reaches_nobody,
    repeats_without_limit,
    shopper_pays_more,
    smaller_set,
    speaks_of_first_orders,
    strangers_escape,
    thin_margins,
    threshold_changes_nothing,
    time_past,
    told_twice,
    under_least_advertised,
    unequal_gifts,
    zone_known_late,
    zone_left_out,
)

MODULES: tuple[ModuleType, ...] = (
    repeats_without_limit,
    code_without_limit,
    no_end_of_its_own,
    guessable_code,
    codes_alike,
    speaks_of_first_orders,
    strangers_escape,
    below_cost_alone,
    below_cost_together,
    no_minimum_spend,
    more_than_a_unit_keeps,
    thin_margins,
    on_reduced_prices,
    on_quantity_prices,
    frees_the_dearest,
    gift_runs_short,
    unequal_gifts,
    gift_outlasts_returns,
    no_take_up,
    more_anyway_than_come,
    threshold_changes_nothing,
    more_costs_less,
    shopper_pays_more,
    smaller_set,
    place_in_plan,
    carriage_eats_it,
    zone_left_out,
    option_few_choose,
    gift_cards_earn,
    gift_cards_discounted,
    reaches_nobody,
    never_applied,
    cannot_hold,
    told_twice,
    both_announced,
    exactly_at_bound,
    beyond_the_shop,
    no_reduction,
    under_least_advertised,
    zone_known_late,
    time_past,
)
"""In the order they are told where nothing is at stake."""

Find = Callable[[Scene], Iterator[Snag]]
SNAGS: dict[str, Find] = {module.__name__.rpartition(".")[2]: module.find for module in MODULES}
"""By key."""


LEAST_STAKE, LEAST_ORDERS = 100.0, 0.5
"""Minor units, and orders, over the plan's days: less is no snag."""


def snags_of(scene: Scene) -> list[tuple[str, Snag]]:
    """All snags of a plan with their keys, those with most at stake first."""
    found = [(key, _as_planned(scene, snag)) for key, find in SNAGS.items() for snag in find(scene) if _matters(snag)]
    return sorted(found, key=lambda one: -(one[1].stake or 0.0))


def _matters(snag: Snag) -> bool:
    """Whether more than a trifle is at stake, where that can be told."""
    return (snag.stake is None or snag.stake >= LEAST_STAKE) and (snag.orders is None or snag.orders >= LEAST_ORDERS)


def _as_planned(scene: Scene, snag: Snag) -> Snag:
    """With a mend that leaves the offer's days as they are, where those are not what it mends."""
    if snag.mend is None or snag.offer is None or snag.path[:1] == ("when",):
        return snag
    mended = replace(snag.mend.offer, when=scene.plan.offers[snag.offer].when)
    return replace(snag, mend=replace(snag.mend, offer=mended))
