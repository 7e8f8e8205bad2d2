"""The imports orders came in. An order counts as the newest import that is live has it, unless that leaves it out.

An import is one row that says whether it is live: to take it back, to undo it or to bring it again flips that row
and copies nothing. Orders that it told just as an older one did are kept once, as the older one's, and stay as long
as one of the two is live.
"""

from typing import Any, TypeVar

from sqlalchemy import ColumnElement, Select, exists, func, or_, select
from sqlalchemy.orm import Session

from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.store.models import GoodRow, ImportRow, OrderLineRow, OrderRow, ToldAgainRow, ZoneRow

UNSAID = "orders"
"""What an import is called that came from no file of a name."""


def all_imports(session: Session) -> list[ImportRow]:
    """The newest first."""
    return list(session.scalars(select(ImportRow).order_by(ImportRow.id.desc())))


Query = TypeVar("Query", bound=Select[*tuple[Any, ...]])


def of_live(session: Session, query: Query) -> Query:
    """A query of orders held to those that count."""
    return query if all_live(session) else query.where(OrderRow.id.in_(live_ids()))


def live_ids() -> Select[Any]:
    """The ids of the orders that count: the newest of each number that are not left out."""
    return select(OrderRow.id).where(OrderRow.id.in_(newest_ids()), ~OrderRow.left_out)


def newest_ids() -> Select[Any]:
    """The ids of the orders as they were told last: of each number the newest of a live import."""
    counts = or_(OrderRow.import_id.is_(None), OrderRow.import_id.in_(_live()), OrderRow.id.in_(_told_again()))
    return select(func.max(OrderRow.id)).where(counts).group_by(OrderRow.number)


def _live() -> Select[Any]:
    return select(ImportRow.id).where(ImportRow.live)


def _told_again() -> Select[Any]:
    """The ids of orders that a live import has just as an older one does."""
    return select(ToldAgainRow.order_id).where(ToldAgainRow.import_id.in_(_live()))


def all_live(session: Session) -> bool:
    """Whether no order stands for another, which a look at a few rows tells."""
    return not session.scalars(select(exists().where(or_(ImportRow.overlaps, ~ImportRow.live)))).one()


def staying(session: Session) -> dict[int, int]:
    """Of imports taken back, by id: how many of their orders count all the same, as others told them again."""
    held_back = select(OrderRow.import_id, OrderRow.id).join(ImportRow, OrderRow.import_id == ImportRow.id)
    few = held_back.where(~ImportRow.live, OrderRow.id.in_(_told_again())).subquery()
    found = select(few.c.import_id, func.count()).where(few.c.id.in_(live_ids())).group_by(few.c.import_id)
    return {import_id: count for import_id, count in session.execute(found)}


def put_live(session: Session, row: ImportRow, live: bool) -> list[Problem]:
    """Take an import back, or bring it again; what is wrong with that, and then nothing is changed."""
    if live and (gone := _zones_gone(session, row)):
        message = f"{gone} of its orders went to zones that are not there any more."
        return [Problem(("live",), message, "Bring in the file once more, so that they are made.")]
    if live and (gone := _goods_gone(session, row)):
        message = f"{gone} of its lines are of goods that are not there any more."
        return [Problem(("live",), message, "Bring the goods in again, then the file of these orders.")]
    row.live = live
    session.flush()
    return []


def _zones_gone(session: Session, row: ImportRow) -> int:
    known = select(ZoneRow.id)
    theirs = select(func.count()).where(_told_by(row), OrderRow.zone_id.not_in(known))
    return session.scalars(theirs).one()


def _goods_gone(session: Session, row: ImportRow) -> int:
    known = select(GoodRow.id)
    gone = list(session.scalars(select(OrderLineRow.good_id).where(OrderLineRow.good_id.not_in(known)).distinct()))
    if not gone:
        return 0
    lines = select(func.count()).select_from(OrderLineRow).join(OrderRow, OrderRow.id == OrderLineRow.order_id)
    return session.scalars(lines.where(_told_by(row), OrderLineRow.good_id.not_in(known))).one()


def _told_by(row: ImportRow) -> ColumnElement[bool]:
    again = select(ToldAgainRow.order_id).where(ToldAgainRow.import_id == row.id)
    return or_(OrderRow.import_id == row.id, OrderRow.id.in_(again))
