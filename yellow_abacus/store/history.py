"""Undo and redo. A change keeps an image of every row it touches, so any change can be taken back the same way."""

import json
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from datetime import UTC, date, datetime
from typing import Any

from sqlalchemy import Table, bindparam, delete, event, func, insert, inspect, select, text, update
from sqlalchemy.orm import Session

from yellow_abacus.store.models import Base, ChangeRow, ShopRow

KEPT_CHANGES = 100

Images = dict[str, dict[str, dict[str, Any] | None]]

_COUNTS_FOR_FORECASTS = {
    "shop",
    "goods",
    "zones",
    "tariffs",
    "surcharges",
    "orders",
    "order_lines",
    "imports",
    "mixes",
    "cart_types",
    "running_offers",
    "past_offers",
}


class Recorder:
    """Collects images while a change is made. Bulk statements, which the session does not see, tell it themselves."""

    def __init__(self) -> None:
        self.images: Images = {}

    def row_was(self, table: str, row_id: int, image: dict[str, Any] | None) -> None:
        self.images.setdefault(table, {}).setdefault(str(row_id), image)

    def rows_made(self, table: str, first: int, last: int) -> None:
        """Rows of neighbouring ids that were not there before, under one key."""
        self.images.setdefault(table, {})[f"{first}-{last}"] = None

    def before_flush(self, session: Session, _context: object, _instances: object) -> None:
        for row in (*session.dirty, *session.deleted):
            if isinstance(row, ChangeRow) or not (session.is_modified(row) or row in session.deleted):
                continue
            self.row_was(row.__tablename__, row.id, _old_values(row))

    def after_flush(self, session: Session, _context: object) -> None:
        for row in session.new:
            if not isinstance(row, ChangeRow):
                self.row_was(row.__tablename__, row.id, None)


@contextmanager
def watch(session: Session, label: str) -> Iterator[Recorder]:
    """Record all that the session changes as one change; nothing changed, nothing recorded."""
    recorder = Recorder()
    session.info["recorder"] = recorder
    event.listen(session, "before_flush", recorder.before_flush)
    event.listen(session, "after_flush", recorder.after_flush)
    yield recorder
    session.flush()
    if recorder.images:
        _renew_version(session, recorder.images, session.get_one(ShopRow, 1).data_version)
        session.execute(delete(ChangeRow).where(ChangeRow.undone))
        newest = session.scalars(select(ChangeRow.id).order_by(ChangeRow.id.desc())).first() or 0
        session.execute(delete(ChangeRow).where(ChangeRow.id <= newest - KEPT_CHANGES))
        version = session.get_one(ShopRow, 1).data_version
        images = _plain(recorder.images)
        session.add(ChangeRow(at=now(), label=label, undone=False, images=images, version=version))


def recorder_of(session: Session) -> Recorder:
    recorder: Recorder = session.info["recorder"]
    return recorder


def version_to_be(session: Session) -> int:
    """The data version the shop has once the session is saved; the one it has where the session only reads."""
    session.flush()
    recorder: Recorder | None = session.info.get("recorder")
    counts = recorder is not None and not _COUNTS_FOR_FORECASTS.isdisjoint(recorder.images)
    return session.get_one(ShopRow, 1).data_version + counts


def undo(session: Session) -> str | None:
    """Take back the newest change that is not undone; its label, or None where there is none."""
    newest = select(ChangeRow).where(~ChangeRow.undone).order_by(ChangeRow.id.desc()).limit(1)
    return _swap(session, session.scalars(newest).first(), undone=True)


def redo(session: Session) -> str | None:
    """Make the oldest undone change again; its label, or None where there is none."""
    oldest = select(ChangeRow).where(ChangeRow.undone).order_by(ChangeRow.id).limit(1)
    return _swap(session, session.scalars(oldest).first(), undone=False)


def _swap(session: Session, change: ChangeRow | None, *, undone: bool) -> str | None:
    if change is None:
        return None
    version = session.get_one(ShopRow, 1).data_version
    images = {table: _one_by_one(rows) for table, rows in change.images.items()}
    tables = [table for table in Base.metadata.sorted_tables if table.name in images]
    are: Images = {table.name: _rows(session, table, images[table.name]) for table in tables}
    for table in reversed(tables):  # those that point to others first
        gone = [key for key, row in images[table.name].items() if row is None]
        session.execute(delete(table).where(table.c.id.in_(ids_among(gone))))
    for table in tables:
        back = {key: _typed(table, row) for key, row in images[table.name].items() if row is not None}
        changed = [row for key, row in back.items() if are[table.name][key] is not None]
        missing = [row for key, row in back.items() if are[table.name][key] is None]
        if changed:
            columns: dict[str, Any] = {name: bindparam(f"new_{name}") for name in changed[0] if name != "id"}
            session.connection().execute(
                update(table).where(table.c.id == bindparam("new_id")).values(columns),
                [{f"new_{name}": value for name, value in row.items()} for row in changed],
            )
        if missing:
            session.execute(insert(table), missing)
    change.images = _plain(are)
    change.undone = undone
    session.flush()
    session.expire_all()
    _renew_version(session, are, version)
    change.version = session.get_one(ShopRow, 1).data_version
    return change.label


_TOUCHED = text("""
    select changes.version, tables.key, case tables.key when 'goods' then
        (select json_group_array(rows.key) from json_each(tables.value) rows) else '[]' end
    from changes, json_each(changes.images) tables where changes.version > :version
""")


def changed_since(session: Session, version: int, now: int) -> dict[str, frozenset[int]] | None:
    """The tables that were changed since a version of the shop's data, and of goods the ids of the rows; None where
    that is not known any more."""
    found: dict[str, frozenset[int]] = {}
    seen = set()
    for at, table, keys in session.execute(_TOUCHED, {"version": version}):
        seen.add(at)
        rows = frozenset(map(int, _one_by_one(dict.fromkeys(json.loads(keys)))))
        found[table] = found.get(table, frozenset()) | rows
    return found if seen.issuperset(range(version + 1, now + 1)) else None


def _rows(session: Session, table: Table, images: dict[str, Any]) -> dict[str, dict[str, Any] | None]:
    found: dict[str, dict[str, Any] | None] = dict.fromkeys(images)
    for row in session.execute(select(table).where(table.c.id.in_(ids_among(images)))).mappings():
        found[str(row["id"])] = dict(row)
    return found


def _one_by_one(rows: dict[str, Any]) -> dict[str, Any]:
    """Images with a key a row, where some have one key for several neighbours."""
    found: dict[str, Any] = {}
    for key, image in rows.items():
        first, _, last = key.partition("-")
        found |= dict.fromkeys(map(str, range(int(first), int(last) + 1)), image) if last else {key: image}
    return found


def ids_among(keys: Iterable[str]) -> Any:
    """The ids of images as a sub-select over a JSON list: a change can touch more rows than a statement takes
    parameters."""
    ids = [int(key) for key in _one_by_one(dict.fromkeys(keys))]
    return select(func.json_each(json.dumps(ids)).table_valued("value").c.value)


def _renew_version(session: Session, images: Images, last: int) -> None:
    """A version that was never there before, also where an image of the shop brought an older one back."""
    shop = session.get_one(ShopRow, 1)
    shop.data_version = last + bool(_COUNTS_FOR_FORECASTS & images.keys())
    session.flush()


def _old_values(row: Base) -> dict[str, Any]:
    state = inspect(row)
    values = {}
    for column in state.mapper.column_attrs:
        history = state.attrs[column.key].history
        values[column.key] = history.deleted[0] if history.deleted else state.attrs[column.key].value
    return values


def _plain(images: Images) -> Images:
    """Images as JSON can hold them: dates as text."""

    def plain(value: Any) -> Any:
        return value.isoformat() if isinstance(value, date) else value

    return {
        table: {
            key: None if row is None else {name: plain(value) for name, value in row.items()}
            for key, row in rows.items()
        }
        for table, rows in images.items()
    }


def _typed(table: Table, row: dict[str, Any]) -> dict[str, Any]:
    """An image as the table takes it: dates back from text; columns newer than the image left out."""
    values = {}
    for column in table.columns:
        if column.name not in row:
            continue
        value = row[column.name]
        kind = column.type.python_type
        values[column.name] = kind.fromisoformat(value) if value is not None and kind in (date, datetime) else value
    return values


def now() -> datetime:
    """In UTC, as the shop file keeps moments."""
    return datetime.now(UTC).replace(tzinfo=None)
