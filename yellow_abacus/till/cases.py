"""Cases of a plan: carts kept with what they are to come to, rung up again at every change."""

from yellow_abacus.files.plan_json import CaseDoc
from yellow_abacus.files.till_json import CaseTold
from yellow_abacus.files.words import money
from yellow_abacus.ringing_up import UnsoundCartsError
from yellow_abacus.till.ringing import Beside, Till


def check_cases(till: Till) -> list[CaseTold]:
    """In the order of the plan's cases."""
    cases = till.doc.cases
    try:
        return [_told(till, case, beside) for case, beside in zip(cases, _rung(till, cases), strict=True)]
    except UnsoundCartsError:
        return [_alone(till, case) for case in cases]


def _rung(till: Till, cases: list[CaseDoc]) -> list[Beside]:
    return till.likeliest([case.cart for case in cases])


def _alone(till: Till, case: CaseDoc) -> CaseTold:
    """A case beside others that cannot be rung up any more."""
    try:
        return _told(till, case, *_rung(till, [case]))
    except UnsoundCartsError as error:
        first = error.problems[0]
        return CaseTold(name=case.name, holds=False, says=f"{first.message} {first.mend}", pays=None, applies=[])


def _told(till: Till, case: CaseDoc, beside: Beside) -> CaseTold:
    plan, loaded = beside.plan, till.room.loaded
    applies = [one.offer for one in plan.reasons if one.reason == "applied"]
    says = []
    if plan.total != case.pays:
        pays, meant = (money(amount, loaded.currency, loaded.minor_digits) for amount in (plan.total, case.pays))
        says.append(f"pays {pays}, not {meant}")
    known = {one.id for one in till.offers}
    for offer in case.applies:
        if offer not in applies:
            says.append(f"{till.names.get(offer, 'an offer that is gone')} does not apply")
    says += [f"{till.names[offer]} applies too" for offer in applies if offer not in case.applies and offer in known]
    return CaseTold(name=case.name, holds=not says, says="; ".join(says), pays=plan.total, applies=applies)
