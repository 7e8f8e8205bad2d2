"""Dropping a file on the Goods or the Carts place: upload, match, check, save."""

from typing import Annotated, Literal

from flask import Response
from flask_openapi3 import APIBlueprint, FileStorage, Tag
from pydantic import BaseModel, ConfigDict, Field

from yellow_abacus.bring_in import KINDS, Kind
from yellow_abacus.files.columns import not_understood
from yellow_abacus.files.rejected import faults, left_out_with_others, rejected_csv
from yellow_abacus.files.values import Reading
from yellow_abacus.web.context import context
from yellow_abacus.web.problems import ApiError, FieldProblem, missing
from yellow_abacus.web.uploads import Upload

api = APIBlueprint("bringing_in", __name__, url_prefix="/api", abp_tags=[Tag(name="Bringing in")])

SHOWN_FAULTS = 100
SAMPLES = 3


class UploadForm(BaseModel):
    model_config = ConfigDict(arbitrary_types_allowed=True)

    kind: Kind
    file: FileStorage


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


class ReadingDoc(BaseModel):
    decimal_mark: Literal[".", ","]
    date_order: Literal["day first", "month first", "year first"]


class FaultDoc(BaseModel):
    """One kind of fault: how many rows have it and the first of them; message and mend are the very first's."""

    field: str
    message: str
    mend: str
    rows: int
    first_rows: list[int]


class SavedDoc(BaseModel):
    new: int
    changed: int
    unchanged: int


class UploadDoc(BaseModel):
    """good: records that can be brought in. not_understood: headings of columns taken for nothing.

    rejected_rows: how many rows cannot be brought in; left_out_rows: those of them that only go with another one.
    faults: what is wrong with the others, the most frequent first; more_faults: how many further kinds there are.
    """

    id: str
    kind: Kind
    name: str
    state: Literal["checking", "checked", "saving", "saved", "failed"]
    progress: float
    problem: str
    encoding: str
    separator: str
    columns: list[ColumnDoc]
    fields: list[FieldDoc]
    reading: ReadingDoc | None
    missing: list[str]
    good: int
    not_understood: list[str]
    rejected_rows: int
    left_out_rows: int
    faults: list[FaultDoc]
    more_faults: int
    saved: SavedDoc | None


class ColumnsBody(BaseModel):
    """fields: for each column of the file, the field it is taken for, or null to leave it out."""

    fields: Annotated[list[str | None], Field(max_length=500)]
    reading: ReadingDoc


class SaveBody(BaseModel):
    good_rows_only: bool


@api.post("/uploads", responses={202: UploadDoc})
def post_upload(form: UploadForm):
    """Take a CSV or XLSX file and start checking it; ask for the upload until its state is `checked`."""
    upload = context().uploads.start(form.kind, form.file.filename or "file.csv", form.file.read())
    return _doc(upload).model_dump(mode="json"), 202


@api.get("/uploads/<upload_id>", responses={200: UploadDoc})
def get_upload(path: UploadPath):
    return _doc(_upload(path)).model_dump(mode="json")


@api.put("/uploads/<upload_id>/columns", responses={202: UploadDoc})
def put_columns(path: UploadPath, body: ColumnsBody):
    """Choose columns by hand and check again."""
    upload = _upload(path)
    if upload.table is None:
        raise ApiError(409, "Not read yet", "Wait until the file has been read.")
    known = {field.key: field for field in KINDS[upload.kind].fields}
    columns: dict[str, tuple[int, ...]] = {}
    for at, key in enumerate(body.fields[: len(upload.table.header)]):
        if key is None:
            continue
        if key not in known or (key in columns and not known[key].many):
            what = "is chosen for two columns" if key in columns else "is no field"
            told = FieldProblem(pointer=f"/fields/{at}", message=f"“{key}” {what}.", mend="Choose another field.")
            raise ApiError(422, "The columns do not fit", f"{told.message} {told.mend}", [told])
        columns[key] = (*columns.get(key, ()), at)
    reading = Reading(body.reading.decimal_mark, body.reading.date_order)
    context().uploads.recheck(upload, columns, reading)
    return _doc(upload).model_dump(mode="json"), 202


@api.post("/uploads/<upload_id>/save", responses={202: UploadDoc})
def post_save(path: UploadPath, body: SaveBody):
    """Bring the file in: all of it, or the good rows if asked to."""
    upload = _upload(path)
    checked = upload.checked
    if upload.state != "checked" or checked is None or checked.missing or not checked.good:
        raise ApiError(409, "Nothing to bring in", "The file has not been checked, or has no good rows.")
    if checked.rejected and not body.good_rows_only:
        raise ApiError(409, "Some rows are not good", "Mend them, or bring in the good rows.")
    context().uploads.save(upload, good_rows_only=body.good_rows_only)
    return _doc(upload).model_dump(mode="json"), 202


@api.get("/uploads/<upload_id>/rejected.csv")
def get_rejected(path: UploadPath):
    """The rejected rows as CSV, each with what is wrong and how to mend it."""
    upload = _upload(path)
    if upload.checked is None:
        raise ApiError(409, "Not checked yet", "Wait until the file has been checked.")
    text = "\ufeff" + rejected_csv(upload.checked.table, upload.checked.rejected)
    headers = {"Content-Disposition": 'attachment; filename="rejected-rows.csv"'}
    return Response(text, mimetype="text/csv", headers=headers)


def _upload(path: UploadPath) -> Upload:
    upload = context().uploads.get(path.upload_id)
    if upload is None:
        raise missing("The file")
    return upload


def _doc(upload: Upload) -> UploadDoc:
    checked = upload.checked
    table = upload.table
    told = faults(checked.rejected) if checked else []
    field_of = {at: key for key, some in checked.columns.items() for at in some} if checked else {}
    return UploadDoc(
        id=upload.id,
        kind=upload.kind,
        name=upload.name,
        state=upload.state,
        progress=upload.progress,
        problem=upload.problem,
        encoding=table.encoding if table else "",
        separator=table.separator if table else "",
        columns=[
            ColumnDoc(
                heading=heading,
                samples=[row.cells[at] for row in table.rows[:SAMPLES] if at < len(row.cells)],
                field=field_of.get(at),
            )
            for at, heading in enumerate(table.header)
        ]
        if table
        else [],
        fields=[
            FieldDoc(key=one.key, label=one.label, required=one.required, many=one.many)
            for one in KINDS[upload.kind].fields
        ],
        reading=ReadingDoc(decimal_mark=checked.reading.decimal_mark, date_order=checked.reading.date_order)
        if checked
        else None,
        missing=[field.label for field in checked.missing] if checked else [],
        good=checked.good if checked else 0,
        rejected_rows=len({one.row for one in checked.rejected}) if checked else 0,
        not_understood=not_understood(checked.table.header, checked.columns) if checked else [],
        left_out_rows=left_out_with_others(checked.rejected) if checked else 0,
        faults=[FaultDoc.model_validate(vars(one)) for one in told[:SHOWN_FAULTS]],
        more_faults=max(len(told) - SHOWN_FAULTS, 0),
        saved=SavedDoc(**vars(upload.saved)) if upload.saved else None,
    )
