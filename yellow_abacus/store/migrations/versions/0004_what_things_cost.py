"""What things cost: goods in full, delivery by options and tariffs, surcharges, tax classes, ways to pay

A zone's one charge and cost become its one option and the tariff behind it; the shop's tax rate its first class; its
payment cost its one way to pay. Changes made before cannot be taken back any more: their rows looked otherwise.
"""

import json

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    _goods()
    op.create_table(
        "tariffs",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("terms", sa.JSON(), nullable=False),
        sa.Column("source", sa.String(), nullable=False, server_default=""),
        sa.Column("fetched_at", sa.DateTime()),
        sa.UniqueConstraint("name", name="uq_tariffs_name"),
    )
    op.create_table(
        "surcharges",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("terms", sa.JSON(), nullable=False),
        sa.UniqueConstraint("name", name="uq_surcharges_name"),
    )
    with op.batch_alter_table("orders") as batch:
        batch.add_column(sa.Column("option", sa.String(), nullable=False, server_default=""))
    _shop()
    _zones()
    op.execute("delete from changes")


def _goods() -> None:
    with op.batch_alter_table("goods") as batch:
        batch.alter_column("unit_cost", new_column_name="purchase_cost")
        for part in ("freight_cost", "duty_cost", "packaging_cost", "other_cost", "assembly_cost"):
            batch.add_column(sa.Column(part, sa.Double()))
        for side in ("length", "width", "height"):
            batch.add_column(sa.Column(side, sa.Integer()))
        for day in ("reduced_from", "reduced_to"):
            batch.add_column(sa.Column(day, sa.Date()))
        batch.add_column(sa.Column("tax_class", sa.String(), nullable=False, server_default=""))
        for rate in ("return_bp", "commission_bp"):
            batch.add_column(sa.Column(rate, sa.Integer(), nullable=False, server_default="0"))
        for flag in ("insured", "gift_only", "counted_by_product"):
            batch.add_column(sa.Column(flag, sa.Boolean(), nullable=False, server_default=sa.false()))
        for told in ("quantity_prices", "group_prices", "kit"):
            batch.add_column(sa.Column(told, sa.JSON(), nullable=False, server_default="[]"))


def _shop() -> None:
    with op.batch_alter_table("shop") as batch:
        for amount in ("picking_per_unit", "packaging_cost", "packaging_weight", "return_postage", "return_handling"):
            batch.add_column(sa.Column(amount, sa.Double(), nullable=False, server_default="0"))
        batch.add_column(sa.Column("resale_bp", sa.Integer(), nullable=False, server_default="0"))
        batch.add_column(sa.Column("commission_returned", sa.Boolean(), nullable=False, server_default=sa.true()))
        for told in ("commission_channels", "tax_classes", "payments"):
            batch.add_column(sa.Column(told, sa.JSON(), nullable=False, server_default="[]"))
        batch.add_column(sa.Column("delivery_tax_class", sa.String()))
    shops = op.get_bind().execute(sa.text("select id, tax_bp, payment_bp, payment_fixed from shop")).all()
    for shop_id, tax_bp, payment_bp, payment_fixed in shops:
        classes = [{"name": "Standard", "rate_bp": tax_bp, "zones": []}]
        payments = [{"name": "Any", "cost_bp": payment_bp, "fixed": payment_fixed, "share_bp": 10_000}]
        op.get_bind().execute(
            sa.text("update shop set tax_classes = :classes, payments = :payments where id = :id"),
            {"classes": json.dumps(classes), "payments": json.dumps(payments), "id": shop_id},
        )
    with op.batch_alter_table("shop") as batch:
        for gone in ("tax_bp", "payment_bp", "payment_fixed"):
            batch.drop_column(gone)


def _zones() -> None:
    with op.batch_alter_table("zones") as batch:
        for told in ("places", "options"):
            batch.add_column(sa.Column(told, sa.JSON(), nullable=False, server_default="[]"))
    zones = op.get_bind().execute(sa.text("select id, name, charge, free_from, cost from zones")).all()
    for zone_id, name, charge, free_from, cost in zones:
        if charge is None and cost is None:
            continue
        tariff = f"{name}, one price"
        option = {"name": "Standard", "charge": {"kind": "flat", "amount": charge or 0}, "free_from": free_from}
        option["tariffs"] = [] if cost is None else [tariff]
        op.get_bind().execute(
            sa.text("update zones set options = :options where id = :id"),
            {"options": json.dumps([option]), "id": zone_id},
        )
        if cost is not None:
            terms = {"steps": [{"upto": None, "amount": cost}]}
            op.get_bind().execute(
                sa.text("insert into tariffs (name, terms) values (:name, :terms)"),
                {"name": tariff, "terms": json.dumps(terms)},
            )
    with op.batch_alter_table("zones") as batch:
        for gone in ("charge", "free_from", "cost"):
            batch.drop_column(gone)
