"""Offers in and out of files, beside the Counting board: JSON with a schema, and lists of codes from CSV."""

from typing import Any

from pydantic import BaseModel, ConfigDict

from yellow_abacus.files.codes import read_codes
from yellow_abacus.files.offers_json import OffersFile, offers_schema, with_new_ids
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import ApiError, FieldProblem
from yellow_abacus.web.routes import Routes
from yellow_abacus.web.sent_file import SentFile

api = Routes("offers", __name__, "Offers")


class CodesForm(BaseModel):
    model_config = ConfigDict(arbitrary_types_allowed=True)

    file: SentFile


class CodesDoc(BaseModel):
    codes: list[str]


class SchemaDoc(BaseModel):
    model_config = ConfigDict(extra="allow")


@api.post("/offers/read", responses={200: OffersFile})
def post_offers(body: OffersFile):
    """Take the offers of a file: their shape is checked here, their sense with the plan they join."""
    currency = context().room.current().loaded.currency
    if body.currency and body.currency != currency:
        told = FieldProblem(
            pointer="/currency",
            message=f"The offers are in {body.currency}, the shop counts in {currency}.",
            mend="Change the amounts and the currency in the file.",
        )
        raise ApiError(422, "Another currency", f"{told.message} {told.mend}", [told])
    return OffersFile(currency=currency, offers=with_new_ids(body.offers)).model_dump(mode="json")


@api.get("/offers/schema", responses={200: SchemaDoc})
def get_schema() -> dict[str, Any]:
    """The JSON Schema of a file of offers."""
    return offers_schema()


@api.post("/codes/read", responses={200: CodesDoc})
def post_codes(form: CodesForm):
    """The codes of a CSV file."""
    return CodesDoc(codes=read_codes(form.file.read())).model_dump()
