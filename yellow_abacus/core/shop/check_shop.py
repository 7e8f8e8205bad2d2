"""What is wrong with how a shop delivers, taxes, is paid and surcharges: every problem, with its path and mend."""

from collections import Counter
from collections.abc import Iterable, Iterator

from yellow_abacus.core.delivery.parcels import HEAVIEST, Carries
from yellow_abacus.core.delivery.zones import Option, Preferred
from yellow_abacus.core.ground.money import LARGEST_CART
from yellow_abacus.core.ground.naming import LONGEST_NAME, folded, unfit
from yellow_abacus.core.ground.problem import Path, Problem, amount_between, rate_between
from yellow_abacus.core.shop.shop import Shop

HIGHEST_TAX_BP = 5_000
MOST_TAX_CLASSES = 20


def check_shop(shop: Shop) -> list[Problem]:
    """Every problem of the shop's settings; none means it can be priced and costed."""
    found = [*_taxes(shop), *_payments(shop), *_tariffs(shop), *_zones(shop), *_surcharges(shop)]
    return found


def names(path: Path, what: str, told: Iterable[str]) -> Iterator[Problem]:
    """Names that are empty, too long, or there twice (case aside)."""
    counted: Counter[str] = Counter()
    for at, name in enumerate(told):
        counted[folded(name)] += 1
        if not name.strip():
            yield Problem((*path, at, "name"), f"{what} has no name.", "Give it one.")
        elif wrong := unfit(name):
            yield Problem((*path, at, "name"), f"{what}'s name {wrong}.", f"Use up to {LONGEST_NAME} letters.")
        elif counted[folded(name)] == 2:
            yield Problem((*path, at, "name"), f"There are two of the name “{name}”.", "Give each its own name.")


def _taxes(shop: Shop) -> Iterator[Problem]:
    taxes = shop.taxes
    if not taxes.classes:
        yield Problem(("tax_classes",), "There is no tax class.", "Add one; its rate may be 0.")
    yield from names(("tax_classes",), "A tax class", (one.name for one in taxes.classes))
    for at, one in enumerate(taxes.classes):
        path: Path = ("tax_classes", at)
        yield from (
            problem.inside(*path) for problem in rate_between("rate_bp", "The tax", one.rate_bp, 0, HIGHEST_TAX_BP)
        )
        for number, rate in enumerate(one.zones):
            found = rate_between("rate_bp", "The tax", rate.rate_bp, 0, HIGHEST_TAX_BP)
            yield from (problem.inside(*path, "zones", number) for problem in found)
            if rate.zone not in shop.zone_names:
                yield _unknown((*path, "zones", number, "zone"), "zone", rate.zone)
    known = {one.name for one in taxes.classes}
    if taxes.delivery is not None and taxes.delivery not in known:
        yield _unknown(("delivery_tax_class",), "tax class", taxes.delivery)


def _payments(shop: Shop) -> Iterator[Problem]:
    yield from names(("payments",), "A way to pay", (one.name for one in shop.payments))
    for at, one in enumerate(shop.payments):
        for found in (
            rate_between("cost_bp", "The payment cost", one.cost_bp, 0),
            amount_between("fixed", "The fixed cost", int(one.fixed), 0),
            rate_between("share_bp", "The share", one.share_bp, 0),
            rate_between("refused_bp", "The share cancelled or refused", one.refused_bp, 0),
        ):
            yield from (problem.inside("payments", at) for problem in found)
    if shop.payments and not sum(one.share_bp for one in shop.payments):
        yield Problem(("payments",), "Nobody pays in any of these ways.", "Give one of them a share above 0.")


def _tariffs(shop: Shop) -> Iterator[Problem]:
    yield from names(("tariffs",), "A tariff", (one.name for one in shop.tariffs))
    for at, tariff in enumerate(shop.tariffs):
        yield from (problem.inside("tariffs", at) for problem in tariff.problems())
        yield from _room(("tariffs", at), tariff.limits, shop)


def _room(path: Path, carries: Carries, shop: Shop) -> Iterator[Problem]:
    if carries.heaviest is not None and carries.heaviest <= shop.settings.packaging_weight:
        message = "A parcel's packaging is as heavy as the heaviest parcel."
        yield Problem((*path, "carries", "heaviest"), message, "Raise it, or make the packaging lighter.")


def _zones(shop: Shop) -> Iterator[Problem]:
    yield from names(("zones",), "A zone", shop.zone_names)
    tariffs = {one.name for one in shop.tariffs}
    taken: dict[str, str] = {folded(zone.name): zone.name for zone in shop.zones}
    for at, zone in enumerate(shop.zones):
        for number, place in enumerate(zone.places):
            other = taken.setdefault(folded(place), zone.name)
            if other != zone.name:
                yield Problem(
                    ("zones", at, "places", number), f"“{place}” is part of {other} too.", "Name it in one."
                )
        yield from names(("zones", at, "options"), "An option", (option.name for option in zone.options))
        for number, option in enumerate(zone.options):
            found = _option(option, shop, tariffs)
            yield from (problem.inside("zones", at, "options", number) for problem in found)


def _option(option: Option, shop: Shop, tariffs: set[str]) -> Iterator[Problem]:
    """tariffs: by name, that the shop has."""
    yield from (problem.inside("charge") for problem in option.charge.problems())
    yield from (problem.inside("carries") for problem in option.carries.problems())
    yield from _room((), option.carries, shop)
    yield from rate_between("share_bp", "The share", option.share_bp, 0)
    if option.from_weight is not None:
        yield from amount_between("from_weight", "The weight", option.from_weight, 1, HEAVIEST)
    if option.free_from is not None:
        yield from amount_between("free_from", "The value", option.free_from, 1, LARGEST_CART)
    for at, name in enumerate(option.tariffs):
        if name not in tariffs:
            yield _unknown(("tariffs", at), "tariff", name)
    for at, rule in enumerate(option.preferred):
        yield from (problem.inside("preferred", at) for problem in _preferred(rule))
        if rule.tariff not in option.tariffs:
            yield Problem(
                ("preferred", at, "tariff"),
                f"It prefers “{rule.tariff}”, which the option does not go by.",
                "Add that tariff to the option.",
            )


def _preferred(rule: Preferred) -> Iterator[Problem]:
    if rule.from_weight is not None:
        yield from amount_between("from_weight", "The weight", rule.from_weight, 1, HEAVIEST)
    if rule.from_value is not None:
        yield from amount_between("from_value", "The value", rule.from_value, 1, LARGEST_CART)
    if rule == Preferred(rule.tariff):
        message = f"It does not say which orders go by “{rule.tariff}”."
        yield Problem(("of",), message, "Name goods, a weight or a value.")


def _surcharges(shop: Shop) -> Iterator[Problem]:
    yield from names(("surcharges",), "A surcharge", (one.name for one in shop.surcharges))
    classes = {one.name for one in shop.taxes.classes}
    for at, one in enumerate(shop.surcharges):
        yield from (problem.inside("surcharges", at) for problem in one.problems())
        if one.tax_class is not None and one.tax_class not in classes:
            yield _unknown(("surcharges", at, "tax_class"), "tax class", one.tax_class)
        for clause in ("zones", "except_zones"):
            for zone in getattr(one.where, clause):
                if zone not in shop.zone_names:
                    yield _unknown(("surcharges", at, "where", clause), "zone", zone)


def _unknown(path: Path, what: str, name: str) -> Problem:
    return Problem(path, f"There is no {what} “{name}”.", f"Choose a {what} the shop has.")
