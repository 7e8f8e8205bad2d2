"""Bringing in JSON: shop settings with zones, and plans."""

from dataclasses import replace
from typing import Any

from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.counting import CountingRoom, UnsoundPlanError
from yellow_abacus.files.plan_json import OfferDoc, PlanDoc, PlansFile
from yellow_abacus.files.shop_json import SettingsDoc, ShopFileDoc, terms_of
from yellow_abacus.store.models import PastOfferRow, PlanRow, RunningOfferRow
from yellow_abacus.store.plans import add_plan, plan_named, save_plan
from yellow_abacus.store.settings import check_settings, save_settings, save_surcharges, save_tariffs, save_zones
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.store.survived import survived
from yellow_abacus.store.told_offers import ToldOffer, save_told


def settings_values(doc: SettingsDoc) -> dict[str, Any]:
    return doc.model_dump(mode="json") | {"minor_digits": doc.minor_digits}


PLAIN = {"name", "note", "first_day", "last_day", "apply", "mix"}
"""What of a plan has columns of its own; the rest is kept as JSON."""


def plan_values(doc: PlanDoc) -> dict[str, Any]:
    return doc.model_dump(include=PLAIN) | doc.model_dump(mode="json", exclude=PLAIN)


def plan_of(row: PlanRow) -> PlanDoc:
    """A plan as it is kept."""
    return PlanDoc.model_validate(survived({name: getattr(row, name) for name in PlanDoc.model_fields}))


def told_offer(doc: OfferDoc) -> ToldOffer:
    return ToldOffer(doc.id, doc.name, doc.note, doc.terms)


def bring_in_shop(shop_file: ShopFile, doc: ShopFileDoc) -> None:
    """Raises SettingsError."""
    with shop_file.changing("Bring in shop settings") as session:
        save_settings(session, settings_values(doc.settings))
        save_tariffs(session, [terms_of(tariff) for tariff in doc.tariffs])
        save_zones(session, [zone.plain() for zone in doc.zones])
        save_surcharges(session, [terms_of(surcharge) for surcharge in doc.surcharges])
        check_settings(session)
        if doc.running is not None:
            save_told(session, RunningOfferRow, [told_offer(one) for one in doc.running])
        if doc.past is not None:
            save_told(session, PastOfferRow, [told_offer(one) for one in doc.past])


def bring_in_plans(shop_file: ShopFile, room: CountingRoom, doc: PlansFile) -> None:
    """All of the plans or none; a plan of the same name is replaced. Raises UnsoundPlanError, paths being of the
    file."""
    currency = room.current().loaded.currency
    if doc.currency and doc.currency != currency:
        message = f"The plans are in {doc.currency}, the shop counts in {currency}."
        raise UnsoundPlanError([Problem(("currency",), message, "Change the amounts and the currency in the file.")])
    for number, plan in enumerate(doc.plans):
        try:
            room.check(plan)
        except UnsoundPlanError as error:
            told = [one.inside("plans", number) for one in error.problems]
            raise UnsoundPlanError([replace(one, message=f"{plan.name}: {one.message}") for one in told]) from error
    with shop_file.changing(f"Bring in {len(doc.plans)} plans") as session:
        for plan in doc.plans:
            known = plan_named(session, plan.name)
            if known is None:
                add_plan(session, plan_values(plan))
            else:
                save_plan(session, known, plan_values(plan), known.revision)
