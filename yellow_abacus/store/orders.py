"""Orders in the shop file."""

from collections.abc import Callable, Sequence
from typing import Any

from sqlalchemy import func, insert, select
from sqlalchemy.orm import Session

from yellow_abacus.core.goods.records import OrderLineRecord, OrderRecord
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.store.goods import Saved
from yellow_abacus.store.history import Recorder, ids_among, now, recorder_of
from yellow_abacus.store.imports import UNSAID, of_live
from yellow_abacus.store.models import GoodRow, ImportRow, OrderLineRow, OrderRow, ZoneRow

FIRST_ZONE = "Home"
"""Name of the zone made where neither the shop nor the file names one."""


def save_orders(
    session: Session,
    records: Sequence[OrderRecord],
    progress: Callable[[float], None] = lambda _: None,
    file: str = UNSAID,
) -> Saved:
    """Bring in orders by number, as an import of their own; an order that reads otherwise than before counts as it is
    told now.

    Zones the shop does not know yet are made without charge and cost. SKUs must be known. progress is told
    the share done, 0 to 1.
    """
    recorder = recorder_of(session)
    zones = _zones(session, recorder, records)
    good_ids: dict[str, int] = {sku: good_id for sku, good_id in session.execute(select(GoodRow.sku, GoodRow.id))}
    known = _known_orders(session, records)
    lines_known = _known_lines(session, [row.id for row in known.values()])
    progress(0.2)
    fresh: list[OrderRecord] = []
    changed: list[OrderRecord] = []
    for record in records:
        row = known.get(record.number)
        if row is None:
            fresh.append(record)
            continue
        values = _order_values(record, zones)
        lines = [(good_ids[line.sku], line.quantity, line.unit_price) for line in record.lines]
        if lines_known.get(row.id, []) != lines or any(getattr(row, name) != value for name, value in values.items()):
            changed.append(record)
    saved = Saved(len(fresh), len(changed), len(records) - len(fresh) - len(changed))
    if fresh or changed:
        import_id = _new_import(session, recorder, file, saved)
        _add_orders(session, [*fresh, *changed], import_id, zones, good_ids, progress)
    return saved


def _new_import(session: Session, recorder: Recorder, file: str, saved: Saved) -> int:
    """One that was there before and was not live, as far as undo is concerned: its orders stay where they are."""
    values = {"file": file, "at": now(), "new": saved.new, "changed": saved.changed, "unchanged": saved.unchanged}
    made = insert(ImportRow).values(values | {"live": True}).returning(ImportRow.id)
    import_id = session.scalars(made).one()
    recorder.row_was("imports", import_id, {"id": import_id, **values, "live": False})
    return import_id


def _zones(session: Session, recorder: Recorder, records: Sequence[OrderRecord]) -> dict[str, int]:
    """Ids by name; the empty name stands for the shop's first zone."""
    rows = list(session.scalars(select(ZoneRow).order_by(ZoneRow.id)))
    known = {folded(row.name): row.id for row in rows}
    known |= {folded(place): row.id for row in rows for place in row.places if folded(place) not in known}
    wanted = dict.fromkeys(record.zone for record in records)
    if "" in wanted and not rows and len(wanted) == 1:
        wanted = {FIRST_ZONE: None}
    for name in wanted:
        if name and folded(name) not in known:
            row = ZoneRow(name=name, places=[], options=[])
            session.add(row)
            session.flush()
            known[folded(name)] = row.id
    found = {name: known[folded(name)] for name in wanted if name}
    return found | {"": next(iter(known.values()))} if known else found


def _known_orders(session: Session, records: Sequence[OrderRecord]) -> dict[str, OrderRow]:
    """Those of the orders brought in that the shop has already, by number."""
    wanted = {record.number for record in records}
    known = session.execute(of_live(session, select(OrderRow.id, OrderRow.number)))
    ids = [str(row_id) for row_id, number in known if number in wanted]
    if not ids:
        return {}
    return {row.number: row for row in session.scalars(select(OrderRow).where(OrderRow.id.in_(ids_among(ids))))}


def _known_lines(session: Session, orders: Sequence[int]) -> dict[int, list[tuple[int, int, int | None]]]:
    """The goods, units and price of each line of some orders, by the order's id."""
    found: dict[int, list[tuple[int, int, int | None]]] = {}
    columns = (OrderLineRow.order_id, OrderLineRow.good_id, OrderLineRow.quantity, OrderLineRow.unit_price)
    if not orders:
        return found
    theirs = OrderLineRow.order_id.in_(ids_among(map(str, orders)))
    rows = session.execute(select(*columns).where(theirs).order_by(OrderLineRow.id))
    for order_id, good_id, quantity, unit_price in rows:
        found.setdefault(order_id, []).append((good_id, quantity, unit_price))
    return found


def _order_values(record: OrderRecord, zones: dict[str, int]) -> dict[str, Any]:
    return {
        "number": record.number,
        "placed_at": record.placed_at,
        "zone_id": zones[record.zone],
        "shopper": record.shopper,
        "first_order": record.first_order,
        "code": record.code,
        "shopper_group": record.group,
        "tags": list(record.tags),
        "channel": record.channel,
        "payment": record.payment,
        "currency": record.currency,
        "option": record.option,
    }


def _add_orders(
    session: Session,
    records: Sequence[OrderRecord],
    import_id: int,
    zones: dict[str, int],
    good_ids: dict[str, int],
    progress: Callable[[float], None],
) -> None:
    step = 2000
    for start in range(0, len(records), step):
        some = records[start : start + step]
        first = _make(session, OrderRow, [_order_values(record, zones) | {"import_id": import_id} for record in some])
        lines = [(order_id, line) for order_id, record in enumerate(some, start=first) for line in record.lines]
        _make(session, OrderLineRow, [_line_values(order_id, line, good_ids) for order_id, line in lines])
        progress(0.2 + 0.8 * (start + len(some)) / len(records))


def _line_values(order_id: int, line: OrderLineRecord, good_ids: dict[str, int]) -> dict[str, Any]:
    good_id = good_ids[line.sku]
    return {"order_id": order_id, "good_id": good_id, "quantity": line.quantity, "unit_price": line.unit_price}


def _make(session: Session, kind: type[OrderRow] | type[OrderLineRow], values: Sequence[dict[str, Any]]) -> int:
    """Insert rows under neighbouring ids, which nobody else can take while this session writes; the first id."""
    first = (session.scalars(select(func.max(kind.id))).one() or 0) + 1
    if values:
        numbered = [row | {"id": row_id} for row_id, row in enumerate(values, start=first)]
        session.connection().execute(insert(kind.__table__), numbered)  # type: ignore[arg-type]
    return first
