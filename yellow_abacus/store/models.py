"""The tables of a shop file. A change here needs a migration in `migrations/versions`.

Money is minor units: whole where a shopper sees it, Float where it is a cost.
"""

from datetime import date, datetime
from typing import Any

from sqlalchemy import JSON, ForeignKey, MetaData, false, true
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_label)s",
            "uq": "uq_%(table_name)s_%(column_0_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )


KEYS_ALONE = {"sqlite_with_rowid": False}
NO_ID_TWICE = {"sqlite_autoincrement": True}
"""Orders of an import taken back may still tell of an id that is gone: it never stands for anything else."""


class ShopRow(Base):
    """One row. data_version goes up with every change to what forecasts are computed from. tax_said: whether somebody
    said what tax is in prices."""

    __tablename__ = "shop"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    currency: Mapped[str]
    minor_digits: Mapped[int]
    prices_with_tax: Mapped[bool]
    tax_classes: Mapped[list[dict[str, Any]]] = mapped_column(JSON, server_default="[]")
    delivery_tax_class: Mapped[str | None]
    tax_said: Mapped[bool] = mapped_column(server_default=true())
    payments: Mapped[list[dict[str, Any]]] = mapped_column(JSON, server_default="[]")
    picking_per_order: Mapped[float]
    picking_per_unit: Mapped[float] = mapped_column(server_default="0")
    packaging_cost: Mapped[float] = mapped_column(server_default="0")
    packaging_weight: Mapped[float] = mapped_column(server_default="0")
    return_postage: Mapped[float] = mapped_column(server_default="0")
    return_handling: Mapped[float] = mapped_column(server_default="0")
    resale_bp: Mapped[int] = mapped_column(server_default="0")
    commission_channels: Mapped[list[str]] = mapped_column(JSON, server_default="[]")
    commission_returned: Mapped[bool] = mapped_column(server_default=true())
    codes_per_order: Mapped[int]
    self_applying: Mapped[str] = mapped_column(server_default="any")
    codes_with_self_applying: Mapped[bool] = mapped_column(server_default=true())
    code_shortest: Mapped[int] = mapped_column(server_default="3")
    code_longest: Mapped[int] = mapped_column(server_default="30")
    code_letters: Mapped[str] = mapped_column(server_default="any")
    code_marks: Mapped[str | None]
    most_by_itself: Mapped[int | None]
    most_by_code: Mapped[int | None]
    zone_known: Mapped[bool] = mapped_column(server_default=true())
    unknown_bp: Mapped[int | None]
    percent_of: Mapped[str]
    delivery_from: Mapped[str]
    data_version: Mapped[int]


class GoodRow(Base):
    """quantity_prices: [from units, price]; group_prices: [group, from units, price]; kit: parts as [SKU, units]."""

    __tablename__ = "goods"
    __table_args__ = NO_ID_TWICE

    id: Mapped[int] = mapped_column(primary_key=True)
    sku: Mapped[str] = mapped_column(unique=True)
    product: Mapped[str]
    option: Mapped[str]
    list_price: Mapped[int | None]
    going_price: Mapped[int | None]
    reduced_price: Mapped[int | None]
    reduced_from: Mapped[date | None]
    reduced_to: Mapped[date | None]
    least_advertised: Mapped[int | None]
    quantity_prices: Mapped[list[list[int]]] = mapped_column(JSON, server_default="[]")
    group_prices: Mapped[list[list[Any]]] = mapped_column(JSON, server_default="[]")
    counted_by_product: Mapped[bool] = mapped_column(server_default=false())
    purchase_cost: Mapped[float | None]
    freight_cost: Mapped[float | None]
    duty_cost: Mapped[float | None]
    packaging_cost: Mapped[float | None]
    other_cost: Mapped[float | None]
    weight: Mapped[float | None]
    length: Mapped[int | None]
    width: Mapped[int | None]
    height: Mapped[int | None]
    categories: Mapped[list[str]] = mapped_column(JSON)
    stock: Mapped[int | None]
    brand: Mapped[str] = mapped_column(server_default="")
    tags: Mapped[list[str]] = mapped_column(JSON, server_default="[]")
    never_discounted: Mapped[bool] = mapped_column(server_default=false())
    gift_only: Mapped[bool] = mapped_column(server_default=false())
    tax_class: Mapped[str] = mapped_column(server_default="")
    return_bp: Mapped[int] = mapped_column(server_default="0")
    commission_bp: Mapped[int] = mapped_column(server_default="0")
    insured: Mapped[bool] = mapped_column(server_default=false())
    kit: Mapped[list[list[Any]]] = mapped_column(JSON, server_default="[]")
    assembly_cost: Mapped[float | None]


class ZoneRow(Base):
    """options: as `core.delivery.Option` has them; none until the merchant says them."""

    __tablename__ = "zones"
    __table_args__ = NO_ID_TWICE

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)
    places: Mapped[list[str]] = mapped_column(JSON, server_default="[]")
    options: Mapped[list[dict[str, Any]]] = mapped_column(JSON, server_default="[]")


class TariffRow(Base):
    """terms: as `core.tariffs.Tariff` has them, without the name. source: where they were fetched, and when."""

    __tablename__ = "tariffs"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)
    terms: Mapped[dict[str, Any]] = mapped_column(JSON)
    source: Mapped[str] = mapped_column(server_default="")
    fetched_at: Mapped[datetime | None]


class SurchargeRow(Base):
    """terms: as `core.surcharges.Surcharge` has them, without the name."""

    __tablename__ = "surcharges"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)
    terms: Mapped[dict[str, Any]] = mapped_column(JSON)


class ImportRow(Base):
    """Orders brought in at once. new, changed, unchanged: how many they were, held against those before.

    live: whether they count; false once it is taken back. left_out: orders left out for their status. fewer: orders
    told with fewer units than before. redated: orders that were of quite another day before. rounded: amounts that
    had more decimals than the currency. overlaps: whether some of its orders are kept as others have them, too.
    """

    __tablename__ = "imports"

    id: Mapped[int] = mapped_column(primary_key=True)
    file: Mapped[str]
    at: Mapped[datetime]
    new: Mapped[int]
    changed: Mapped[int]
    unchanged: Mapped[int]
    live: Mapped[bool]
    left_out: Mapped[int] = mapped_column(server_default="0")
    fewer: Mapped[int] = mapped_column(server_default="0")
    redated: Mapped[int] = mapped_column(server_default="0")
    rounded: Mapped[int] = mapped_column(server_default="0")
    overlaps: Mapped[bool] = mapped_column(server_default=false())


class OrderRow(Base):
    """An order as one import has it; of several with one number the newest of a live import counts.

    zone_id: of a zone; those of imports taken back may be gone. import_id: null for what older versions brought in.
    delivery_paid, delivery_cost, payment_cost, refunded: minor units, null where that was not said. left_out: whether
    its status says that the order, which was there before, counts no more; it has no lines then.
    """

    __tablename__ = "orders"

    id: Mapped[int] = mapped_column(primary_key=True)
    number: Mapped[str] = mapped_column(index=True)
    placed_at: Mapped[datetime] = mapped_column(index=True)
    zone_id: Mapped[int]
    import_id: Mapped[int | None] = mapped_column(index=True)
    shopper: Mapped[str]
    first_order: Mapped[bool | None]
    code: Mapped[str]
    shopper_group: Mapped[str] = mapped_column(server_default="")
    tags: Mapped[list[str]] = mapped_column(JSON, server_default="[]")
    channel: Mapped[str] = mapped_column(server_default="")
    payment: Mapped[str] = mapped_column(server_default="")
    currency: Mapped[str] = mapped_column(server_default="")
    option: Mapped[str] = mapped_column(server_default="")
    status: Mapped[str] = mapped_column(server_default="")
    delivery_paid: Mapped[int | None]
    delivery_cost: Mapped[int | None]
    payment_cost: Mapped[int | None]
    refunded: Mapped[int] = mapped_column(server_default="0")
    left_out: Mapped[bool] = mapped_column(server_default="0")


class OrderLineRow(Base):
    """good_id: of goods; those of imports taken back may be gone. returned: units sent back.

    unit_price: asked for one. paid: for all of them, after discounts. Minor units, null where that was not said.
    """

    __tablename__ = "order_lines"

    id: Mapped[int] = mapped_column(primary_key=True)
    order_id: Mapped[int] = mapped_column(ForeignKey("orders.id", ondelete="CASCADE"), index=True)
    good_id: Mapped[int] = mapped_column(index=True)
    quantity: Mapped[int]
    unit_price: Mapped[int | None]
    paid: Mapped[int | None]
    returned: Mapped[int] = mapped_column(server_default="0")


class ToldAgainRow(Base):
    """That an import has an order just as another had it before: it stays when that one is taken back."""

    __tablename__ = "told_again"
    __table_args__ = KEYS_ALONE

    import_id: Mapped[int] = mapped_column(primary_key=True)
    order_id: Mapped[int] = mapped_column(primary_key=True)


class HeadingsRow(Base):
    """How a file was read whose headings were these, for the next one that has them.

    headings: a text that tells them. fields: for each column the field it was taken for, or null.
    """

    __tablename__ = "headings"

    id: Mapped[int] = mapped_column(primary_key=True)
    kind: Mapped[str]
    headings: Mapped[str] = mapped_column(unique=True)
    fields: Mapped[list[str | None]] = mapped_column(JSON)
    reading: Mapped[dict[str, Any]] = mapped_column(JSON)


class CartTypeRow(Base):
    """A type of carts found in the history. place: in the order they are shown. centres: as
    `core.forecast.known_types.Centre` has them."""

    __tablename__ = "cart_types"

    id: Mapped[int] = mapped_column(primary_key=True)
    place: Mapped[int]
    name: Mapped[str]
    centres: Mapped[list[dict[str, Any]]] = mapped_column(JSON)


class MixRow(Base):
    """terms: as `core.forecast.expected.MixTerms` has them."""

    __tablename__ = "mixes"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)
    terms: Mapped[dict[str, Any]] = mapped_column(JSON)


class PlanRow(Base):
    """offers, dropped, cases, set_aside, sharp: as `files.plan_json` writes them. mix: its name, empty for the usual
    one. lost_if_sold_out_bp: None where orders go on as if there were enough.

    revision goes up with every save.
    """

    __tablename__ = "plans"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    note: Mapped[str]
    first_day: Mapped[date]
    last_day: Mapped[date]
    apply: Mapped[str] = mapped_column(server_default="best")
    mix: Mapped[str] = mapped_column(server_default="")
    offers: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    dropped: Mapped[list[dict[str, Any]]] = mapped_column(JSON, server_default="[]")
    cases: Mapped[list[dict[str, Any]]] = mapped_column(JSON, server_default="[]")
    set_aside: Mapped[list[dict[str, Any]]] = mapped_column(JSON, server_default="[]")
    sharp: Mapped[dict[str, Any] | None] = mapped_column(JSON(none_as_null=True))
    lost_if_sold_out_bp: Mapped[int | None]
    revision: Mapped[int]


class ToldOfferRow(Base):
    """An offer the merchant told the shop. offer_id: by which others name it. terms: as `core.offers.Terms` has
    them."""

    __abstract__ = True

    id: Mapped[int] = mapped_column(primary_key=True)
    offer_id: Mapped[str]
    name: Mapped[str]
    note: Mapped[str]
    terms: Mapped[dict[str, Any]] = mapped_column(JSON)


class RunningOfferRow(ToldOfferRow):
    """An offer that runs already."""

    __tablename__ = "running_offers"


class PastOfferRow(ToldOfferRow):
    """An offer that ran before, with its days."""

    __tablename__ = "past_offers"


class KeptForecastRow(Base):
    """A forecast as it was when the merchant kept it; never computed again. plan: the plan's name then. told: as
    `files.kept_json.KeptDoc` has it."""

    __tablename__ = "kept_forecasts"

    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime]
    plan: Mapped[str] = mapped_column(index=True)
    first_day: Mapped[date]
    last_day: Mapped[date]
    told: Mapped[dict[str, Any]] = mapped_column(JSON)


class ChangeRow(Base):
    """One undoable change: how the rows it touched were before it, or after it once it is undone.

    images: table name → row id → the row as column values, or null where there was no such row. version: of the
    shop's data, once it was made or taken back; null for changes of older versions.
    """

    __tablename__ = "changes"

    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime]
    label: Mapped[str]
    undone: Mapped[bool]
    images: Mapped[dict[str, dict[str, dict[str, Any] | None]]] = mapped_column(JSON)
    version: Mapped[int | None]
