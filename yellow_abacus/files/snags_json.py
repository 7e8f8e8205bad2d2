"""Snags of a plan as JSON: what is the matter, where, what is at stake, and the offer as it would be mended."""

from collections.abc import Sequence

from pydantic import BaseModel

from yellow_abacus.core.advice.snag import Mend, Snag
from yellow_abacus.core.ground.money import shown
from yellow_abacus.core.offers import Terms
from yellow_abacus.files.plan_json import PlanDoc, terms_of
from yellow_abacus.files.words import sentence


class SnagMendDoc(BaseModel):
    """label: what it does. terms: the offer's, mended."""

    label: str
    terms: Terms


class SnagDoc(BaseModel):
    """key: which snag it is. offer: whose, by id; empty for the plan's own. pointer: of the clause, within the plan.

    stake: minor units over the plan's days; orders: over them; null where nothing can be told. set_aside: why it is
    let be, null where it is not.
    """

    key: str
    offer: str
    pointer: str
    text: str
    stake: int | None
    orders: float | None
    mend: SnagMendDoc | None
    set_aside: str | None


class SnagsDoc(BaseModel):
    """Those with most at stake first."""

    snags: list[SnagDoc]


def snags_doc(found: Sequence[tuple[str, Snag]], plan: PlanDoc, currency: str, minor_digits: int) -> SnagsDoc:
    places = {offer.id: at for at, offer in enumerate(plan.offers)}
    aside = {(one.snag, one.offer): one.why for one in plan.set_aside}

    def told(parts: tuple[object, ...]) -> str:
        return sentence(parts, currency, minor_digits, whole=False)  # type: ignore[arg-type]

    def mended(mend: Mend | None) -> SnagMendDoc | None:
        return None if mend is None else SnagMendDoc(label=told(mend.label), terms=terms_of(mend.offer))

    docs = []
    for key, snag in found:
        offer = "" if snag.offer is None else plan.in_force[snag.offer].id
        if offer and offer not in places:
            continue  # it runs already, plan or not
        inside = ("offers", places[offer], "terms") if offer else ()
        docs.append(
            SnagDoc(
                key=key,
                offer=offer,
                pointer="".join(f"/{step}" for step in (*inside, *snag.path)),
                text=told(snag.text),
                stake=None if snag.stake is None else shown(snag.stake),
                orders=snag.orders,
                mend=mended(snag.mend),
                set_aside=aside.get((key, offer)),
            )
        )
    return SnagsDoc(snags=docs)
