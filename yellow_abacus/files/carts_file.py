"""A file of carts to be priced. docs/files.md, "Carts to price"."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.files.cart_json import CartDoc
from yellow_abacus.files.plan_json import OfferDoc, PlanDoc

MOST_CARTS = 10_000


class CartsFile(BaseModel):
    """Carts, and the plan or the bare offers to price them under where they are not a plan of the shop."""

    model_config = ConfigDict(extra="forbid")

    carts: Annotated[list[CartDoc], Field(min_length=1, max_length=MOST_CARTS)]
    plan: PlanDoc | None = None
    offers: list[OfferDoc] | None = None
