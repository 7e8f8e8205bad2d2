"""Plans out and in as files, and the whole shop out and in as one."""

import tempfile
from pathlib import Path
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.bring_in_json import bring_in_plans, plan_of
from yellow_abacus.files.plan_json import PlansFile
from yellow_abacus.files.writing import write_table
from yellow_abacus.reduced import reduced_table
from yellow_abacus.store.faults import NotAShopFileError
from yellow_abacus.store.models import PlanRow
from yellow_abacus.store.plans import all_plans
from yellow_abacus.store.settings import shop_row
from yellow_abacus.web.attachments import attachment
from yellow_abacus.web.context import context
from yellow_abacus.web.counting_board import LARGEST_ID
from yellow_abacus.web.description import file_of
from yellow_abacus.web.problems import ApiError, FieldProblem, missing
from yellow_abacus.web.routes import Routes
from yellow_abacus.web.sent_file import SentFile

MOST_LETTERS = 120
"""Of a file's name as it is told."""

api = Routes("whole_files", __name__, "Whole files")


class PlansQuery(BaseModel):
    """plan: its id; all of them without it."""

    plan: Annotated[int, Field(ge=1, le=LARGEST_ID)] | None = None


class BroughtInDoc(BaseModel):
    plans: int


@api.get("/plans/file", responses={200: PlansFile})
def get_plans_file(query: PlansQuery):
    """Plans as a file that can be brought into this shop again, or another."""
    with context().shop_file.reading() as session:
        rows = all_plans(session) if query.plan is None else [session.get(PlanRow, query.plan)]
        if None in rows:
            raise missing("The plan")
        told = PlansFile(currency=shop_row(session).currency, plans=[plan_of(row) for row in rows if row is not None])
    return told.model_dump(mode="json")


@api.post("/plans/file", responses={200: BroughtInDoc})
def post_plans_file(body: PlansFile):
    """Bring plans in: all of them or none; a plan of the same name is replaced."""
    at = context()
    bring_in_plans(at.shop_file, at.room, body)
    return BroughtInDoc(plans=len(body.plans)).model_dump()


class ReducedPath(BaseModel):
    plan_id: Annotated[int, Field(ge=1, le=LARGEST_ID)]
    format: Literal["csv", "xlsx"]


@api.get("/plans/<int:plan_id>/reduced-prices.<format>", responses={200: file_of("csv", "xlsx")})
def get_reduced(path: ReducedPath):
    """The reduced prices that would do the same as those offers of a plan that only lower prices, over their days."""
    at = context()
    with at.shop_file.reading() as session:
        row = session.get(PlanRow, path.plan_id)
        if row is None:
            raise missing("The plan")
        doc = plan_of(row)
    data = write_table(path.format, *reduced_table(at.room, doc))
    return attachment(data, "reduced-prices", path.format)


@api.get("/shop.sqlite", responses={200: file_of("sqlite")})
def get_shop():
    """The whole shop as one file: goods, orders, plans, forecasts kept, and all that can be undone."""
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "shop.sqlite"
        context().shop_file.copy_to(copy)
        data = copy.read_bytes()
    return attachment(data, "shop", "sqlite")


class ShopForm(BaseModel):
    model_config = ConfigDict(arbitrary_types_allowed=True)

    file: SentFile


class InItsPlaceDoc(BaseModel):
    """name: of the shop that is open now. kept: where a copy of the one before is."""

    name: str
    kept: str


@api.post("/shop.sqlite", responses={200: InItsPlaceDoc})
def post_shop(form: ShopForm):
    """Put the shop of a file in place of the one that is open, which is kept beside it."""
    shop_file, told = context().shop_file, (form.file.filename or "The file")[:MOST_LETTERS]
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "shop.sqlite"
        form.file.save(path)
        try:
            kept = shop_file.put_in_its_place(path)
        except NotAShopFileError as error:
            wrong = FieldProblem(
                pointer="/file",
                message=str(error).replace(str(path), told),
                mend="Choose a file that “Save the whole shop as one file” made.",
            )
            raise ApiError(422, "Not a shop file", f"{wrong.message} {wrong.mend}", [wrong]) from error
    with shop_file.reading() as session:
        return InItsPlaceDoc(name=shop_row(session).name, kept=str(kept)).model_dump()
