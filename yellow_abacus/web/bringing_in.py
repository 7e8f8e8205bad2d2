"""Dropping a file on the Goods or the Carts place: upload, match, check, save."""

from collections.abc import Callable
from datetime import date
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from yellow_abacus.bring_in import KINDS, Checked
from yellow_abacus.core.ground.naming import LONGEST_NAME, LONGEST_TITLE
from yellow_abacus.files.clocks import is_clock, known_clock
from yellow_abacus.files.for_shop import Kind
from yellow_abacus.files.missing_goods import missing_goods_table
from yellow_abacus.files.orders import LARGEST_RATE
from yellow_abacus.files.rejected import rejected_csv
from yellow_abacus.files.rows import UnreadableFileError
from yellow_abacus.files.values import RatesOf, Reading, Taxed
from yellow_abacus.files.writing import write_table
from yellow_abacus.order_feed import OVERLAP, as_file, newest_order
from yellow_abacus.store.settings import shop_row
from yellow_abacus.web.attachments import attachment
from yellow_abacus.web.context import context
from yellow_abacus.web.description import file_of
from yellow_abacus.web.problems import ApiError, FieldProblem, missing
from yellow_abacus.web.routes import Routes
from yellow_abacus.web.sent_file import SentFile
from yellow_abacus.web.uploads import Upload

api = Routes("bringing_in", __name__, "Bringing in")

SHOWN_FAULTS = 100
MOST_TOGETHER = 60
"""Files brought in with another: some five years of months."""


class UploadForm(BaseModel):
    """more: files brought in together with it, such as one of its orders' lines. clock: the browser's own, IANA's
    name, on which times told in UTC are put; one not known here is none."""

    model_config = ConfigDict(arbitrary_types_allowed=True)

    kind: Kind
    file: SentFile
    more: Annotated[list[SentFile], Field(max_length=MOST_TOGETHER)] = []
    clock: Annotated[str, Field(max_length=LONGEST_NAME)] = ""


class FetchQuery(BaseModel):
    """clock: as in a form with a file."""

    clock: Annotated[str, Field(max_length=LONGEST_NAME)] = ""


class UploadPath(BaseModel):
    upload_id: str


class ColumnDoc(BaseModel):
    """One column of the file: its heading, first cells, and the field it is taken for, if any."""

    heading: str
    samples: list[str]
    field: str | None


class FieldDoc(BaseModel):
    """many: several columns may be taken for it together."""

    key: str
    label: str
    required: bool
    many: bool


class RateDoc(BaseModel):
    """What one unit of a currency is in the shop's own."""

    currency: Annotated[str, Field(max_length=LONGEST_NAME)]
    rate: Annotated[float, Field(gt=0, le=LARGEST_RATE, allow_inf_nan=False)]


class NoGoodsDoc(BaseModel):
    """A name of rows, and whether they are passed over as no goods."""

    name: Annotated[str, Field(max_length=LONGEST_TITLE)]
    passed_over: bool


Status = Annotated[str, Field(max_length=LONGEST_NAME)]


class ReadingDoc(BaseModel):
    """taxed: whether prices of orders are with tax. left_out: statuses of orders that are left out, null for those
    that ordinary words say. rates: what one unit of a currency is in the shop's own; rates_of: whether a column of
    rates tells that too, or the other way round. no_goods: rows without goods that are passed over, or are not,
    against what ordinary words say or beside it. clock: the one on which times told in UTC are put, by its IANA name,
    empty where they stand as they are."""

    decimal_mark: Literal[".", ","]
    date_order: Literal["day first", "month first", "year first"]
    taxed: Taxed = "as the shop"
    left_out: Annotated[list[Status], Field(max_length=500)] | None = None
    rates: Annotated[list[RateDoc], Field(max_length=200)] = []
    rates_of: RatesOf = "theirs"
    no_goods: Annotated[list[NoGoodsDoc], Field(max_length=500)] = []
    clock: Annotated[str, AfterValidator(known_clock)] = ""

    def reading(self) -> Reading:
        return Reading(
            self.decimal_mark,
            self.date_order,
            self.taxed,
            None if self.left_out is None else tuple(self.left_out),
            tuple((one.currency, one.rate) for one in self.rates),
            self.rates_of,
            tuple((one.name, one.passed_over) for one in self.no_goods),
            self.clock,
        )


def _reading_doc(reading: Reading) -> ReadingDoc:
    return ReadingDoc(
        decimal_mark=reading.decimal_mark,
        date_order=reading.date_order,
        taxed=reading.taxed,
        left_out=None if reading.left_out is None else list(reading.left_out),
        rates=[RateDoc(currency=currency, rate=rate) for currency, rate in reading.rates],
        rates_of=reading.rates_of,
        no_goods=[NoGoodsDoc(name=name, passed_over=passed_over) for name, passed_over in reading.no_goods],
        clock=reading.clock,
    )


class StatusDoc(BaseModel):
    """A status orders of the file have, how many do, and whether they are left out."""

    status: str
    orders: int
    left_out: bool


class NameDoc(BaseModel):
    """What rows without a SKU are called, how many they are, and whether they are passed over."""

    name: str
    rows: int
    passed_over: bool


class FaultDoc(BaseModel):
    """One kind of fault: how many rows have it and the first of them; message and mend are the very first's."""

    field: str
    message: str
    mend: str
    rows: int
    first_rows: list[int]


class SavedDoc(BaseModel):
    """How many were new, read otherwise than before, or the same. fewer: orders with fewer units than before.
    redated: orders that were of quite another day before."""

    new: int
    changed: int
    unchanged: int
    fewer: int = 0
    redated: int = 0


class UploadDoc(BaseModel):
    """good: records that can be brought in. not_understood: headings of columns taken for nothing.

    rejected_rows: how many rows cannot be brought in; left_out_rows: those of them that only go with another one.
    faults: what is wrong with the others, the most frequent first; more_faults: how many further kinds there are.

    currency: what the shop counts in, or will, where these are its first goods. says: what it sets for the whole shop
    and what is done with its amounts, in sentences. remembered: whether it is read as the last file with the same
    headings was. foreign: currencies other than the shop's. Of orders: their statuses; no_goods: rows without a SKU,
    by name; in_utc: whether times are told in UTC; rounded: amounts that had more decimals than the currency;
    missing_goods: SKUs that Goods does not have.
    """

    id: str
    kind: Kind
    name: str
    state: Literal["fetching", "checking", "checked", "saving", "saved", "failed"]
    progress: float
    problem: str
    fields: list[FieldDoc]
    saved: SavedDoc | None
    encoding: str = ""
    separator: str = ""
    columns: list[ColumnDoc] = []
    reading: ReadingDoc | None = None
    missing: list[str] = []
    good: int = 0
    not_understood: list[str] = []
    rejected_rows: int = 0
    left_out_rows: int = 0
    faults: list[FaultDoc] = []
    more_faults: int = 0
    remembered: bool = False
    statuses: list[StatusDoc] = []
    no_goods: list[NameDoc] = []
    in_utc: bool = False
    rounded: int = 0
    currency: str = ""
    says: list[str] = []
    foreign: list[str] = []
    missing_goods: int = 0


class ColumnsBody(BaseModel):
    """fields: for each column of the file, the field it is taken for, or null to leave it out."""

    fields: Annotated[list[str | None], Field(max_length=500)]
    reading: ReadingDoc


class SaveBody(BaseModel):
    good_rows_only: bool


@api.post("/uploads", responses={202: UploadDoc})
def post_upload(form: UploadForm):
    """Take a CSV, XLSX or ODS file and start checking it; ask for the upload until its state is `checked`."""
    sent = [((one.filename or "file.csv")[-LONGEST_NAME:], one.read()) for one in (form.file, *form.more)]
    upload = context().uploads.start(form.kind, sent, _usual(form.clock))
    return _doc(upload).model_dump(mode="json"), 202


@api.post("/uploads/fetched", responses={202: UploadDoc})
def post_fetched(query: FetchQuery):
    """Fetch the orders from the feed that came since the newest there is, and check them like a file."""
    at = context()
    with at.shop_file.reading() as session:
        row, newest = shop_row(session), newest_order(session)
        currency, digits = row.currency, row.minor_digits
    since = None if newest is None else newest - OVERLAP

    def get(progress: Callable[[float], None]) -> bytes:
        orders = at.feed.orders(since, currency, progress)
        if not orders:
            raise UnreadableFileError("The feed has no new orders.", "Fetch again when some came.")
        return as_file(orders, digits)

    upload = at.uploads.fetch("orders", f"Orders from the feed, {date.today():%d.%m.%Y}", get, _usual(query.clock))
    return _doc(upload).model_dump(mode="json"), 202


def _usual(clock: str) -> str:
    """The browser's clock, if it is known here; else none."""
    return clock if is_clock(clock) else ""


@api.get("/uploads/<upload_id>", responses={200: UploadDoc})
def get_upload(path: UploadPath):
    return _doc(_upload(path)).model_dump(mode="json")


@api.put("/uploads/<upload_id>/columns", responses={202: UploadDoc})
def put_columns(path: UploadPath, body: ColumnsBody):
    """Choose columns by hand and check again."""
    upload = _upload(path)
    if upload.told is None or upload.state in ("fetching", "checking", "saving"):
        raise ApiError(409, "Not read yet", "Wait until the file has been read.")
    known = {field.key: field for field in KINDS[upload.kind].fields}
    columns: dict[str, tuple[int, ...]] = {}
    for at, key in enumerate(body.fields[: len(upload.told.header)]):
        if key is None:
            continue
        if key not in known or (key in columns and not known[key].many):
            what = "is chosen for two columns" if key in columns else "is no field"
            told = FieldProblem(pointer=f"/fields/{at}", message=f"“{key}” {what}.", mend="Choose another field.")
            raise ApiError(422, "The columns do not fit", f"{told.message} {told.mend}", [told])
        columns[key] = (*columns.get(key, ()), at)
    context().uploads.recheck(upload, columns, body.reading.reading())
    return _doc(upload).model_dump(mode="json"), 202


@api.post("/uploads/<upload_id>/save", responses={202: UploadDoc})
def post_save(path: UploadPath, body: SaveBody):
    """Bring the file in: all of it, or the good rows if asked to."""
    upload = _upload(path)
    told = upload.told
    if upload.state != "checked" or told is None or told.missing or not (told.good or told.leaves_out):
        raise ApiError(409, "Nothing to bring in", "The file has not been checked, or has no good rows.")
    if told.rejected_rows and not body.good_rows_only:
        raise ApiError(409, "Some rows are not good", "Mend them, or bring in the good rows.")
    context().uploads.save(upload, good_rows_only=body.good_rows_only)
    return _doc(upload).model_dump(mode="json"), 202


@api.get("/uploads/<upload_id>/rejected.csv", responses={200: file_of("csv")})
def get_rejected(path: UploadPath):
    """The rejected rows as CSV, each with what is wrong and how to mend it."""
    checked = _checked(path)
    text = "\ufeff" + rejected_csv(checked.table, checked.rejected)
    return attachment(text, "rejected-rows", "csv")


@api.get("/uploads/<upload_id>/missing-goods.csv", responses={200: file_of("csv")})
def get_missing_goods(path: UploadPath):
    """The SKUs of an order file that Goods does not have, with what it tells of them, as a goods file to fill in."""
    checked = _checked(path)
    table = missing_goods_table(checked.missing_goods, checked.digits)
    return attachment(write_table("csv", *table), "missing-goods", "csv")


def _checked(path: UploadPath) -> Checked:
    upload = _upload(path)
    if upload.told is None or upload.state == "checking":
        raise ApiError(409, "Not checked yet", "Wait until the file has been checked.")
    return context().uploads.checked(upload)


@api.delete("/uploads/<upload_id>", responses={204: None})
def delete_upload(path: UploadPath):
    """Leave the file; checking it ends."""
    context().uploads.leave(_upload(path))
    return "", 204


def _upload(path: UploadPath) -> Upload:
    uploads = context().uploads
    upload = uploads.get(path.upload_id)
    if upload is None and uploads.was_put_away(path.upload_id):
        raise ApiError(410, "Put away", "The file was put away as newer ones came. Choose it again.")
    if upload is None:
        raise missing("The file")
    return upload


def _doc(upload: Upload) -> UploadDoc:
    told = upload.told
    fields = [
        FieldDoc(key=one.key, label=one.label, required=one.required, many=one.many)
        for one in KINDS[upload.kind].fields
    ]
    doc = UploadDoc(
        id=upload.id,
        kind=upload.kind,
        name=upload.name,
        state=upload.state,
        progress=upload.progress,
        problem=upload.problem,
        fields=fields,
        saved=SavedDoc(**vars(upload.saved)) if upload.saved else None,
    )
    if told is None:
        return doc
    field_of = {at: key for key, some in told.columns.items() for at in some}
    return doc.model_copy(
        update={
            "encoding": told.encoding,
            "separator": told.separator,
            "columns": [
                ColumnDoc(heading=heading, samples=samples, field=field_of.get(at))
                for at, (heading, samples) in enumerate(zip(told.header, told.samples, strict=True))
            ],
            "reading": _reading_doc(told.reading),
            "missing": told.missing,
            "good": told.good,
            "not_understood": told.not_understood,
            "rejected_rows": told.rejected_rows,
            "left_out_rows": told.left_out_rows,
            "faults": [FaultDoc.model_validate(vars(one)) for one in told.faults[:SHOWN_FAULTS]],
            "more_faults": max(len(told.faults) - SHOWN_FAULTS, 0),
            "remembered": told.remembered,
            "statuses": [StatusDoc.model_validate(vars(one)) for one in told.statuses[:SHOWN_FAULTS]],
            "no_goods": [NameDoc.model_validate(vars(one)) for one in told.no_goods[:SHOWN_FAULTS]],
            "in_utc": told.in_utc,
            "rounded": told.rounded,
            "currency": told.currency,
            "says": told.says,
            "foreign": list(told.foreign[:SHOWN_FAULTS]),
            "missing_goods": told.missing_goods,
        }
    )
