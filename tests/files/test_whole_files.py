"""Whole order files of many languages, made up: every column is taken for what it is, and none beside them."""

import random
import tomllib
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

import pytest

from yellow_abacus.files.guessing import guess_columns
from yellow_abacus.files.tables import read_table

LANGUAGES = tomllib.loads(Path(__file__).with_name("whole_files.toml").read_text("utf-8"))
FILES = 12
PRICES = dict(zip("abcdefghij", (3.50, 12.00, 9.90, 45.00, 1.20, 25.99, 7.00, 18.90, 0.60, 50.00), strict=True))
NEEDED, PAID = ("number", "date", "sku", "quantity", "unit_price"), ("line_discount", "line_total")
OF_THE_ORDER = (
    *("shopper", "payment", "delivery_paid", "code", "status", "zone", "option", "channel", "group"),
    "order_discount",
)
DAYS = ("%d.%m.%Y", "%Y-%m-%d", "%d/%m/%Y", "%d.%m.%Y %H:%M", "%Y-%m-%dT%H:%M:%S")
HARMLESS = {"product", "variant", "refunded", "rate", "cancelled"}
"""Fields that columns beside may be taken for."""


@dataclass
class Made:
    text: str
    encoding: str
    columns: dict[str, str]
    """By field its heading."""


def made_up(dice: random.Random, told: dict) -> Made:
    mark, separator = dice.choice([(".", ","), (",", ";"), (",", "\t")])
    fields = [*NEEDED, *dice.choice([(), PAID, PAID[:1], PAID[1:]])]
    fields += [key for key in (*OF_THE_ORDER, "returned") if key in told and dice.random() < 0.6]
    names = {key: dice.choice(told[key]) for key in fields}
    kinds = {name: kind for kind, some in told.get("beside", LANGUAGES["en"]["beside"]).items() for name in some}
    beside = [name for name in dice.sample(sorted(kinds), dice.randint(0, 8)) if name not in names.values()]
    headings = {name: name for name in beside} | {heading: key for key, heading in names.items()}
    day, form, sign = datetime(2026, 1, 5, 9), dice.choice(DAYS), dice.choice(["", "", " EUR"])

    def money(amount: float) -> str:
        return f"{amount:.2f}{sign}".replace(".", mark)

    def cell_beside(kind: str, number: int, total: float) -> str:
        several = {"words": ["Blue pot", "Linz", "Oto & sons"], "few": ["1", "2", "19"], "weights": ["0.5", "1.25"]}
        if kind in several:
            return dice.choice(several[kind]).replace(".", mark)
        sums = {"sums": money(total), "days": (day + timedelta(number % 4)).strftime(form.split("%H")[0].strip(" T"))}
        return sums.get(kind) or (money(dice.randint(1, 900) / 100) if kind == "amounts" else f"70{number}55{number}")

    rows = []
    for number in range(1001, 1001 + dice.randint(6, 25)):
        day += timedelta(dice.randint(0, 3), minutes=dice.randint(1, 600))
        status = told["cancelled"] if dice.random() < 0.15 else dice.choice(["ok", "fine"])
        order = {
            **{"number": str(number), "date": day.strftime(form), "status": status},
            **{"shopper": f"s{dice.randint(1, 6)}@x.example", "payment": dice.choice(["Card", "Invoice"])},
            **{"code": dice.choice(["", "SPRING"]), "zone": dice.choice(["DE", "AT"])},
            **{"option": dice.choice(["Post", "Courier"]), "channel": dice.choice(["web", "app"])},
            **{"delivery_paid": money(dice.choice([0, 4.9, 6.9])), "group": dice.choice(["", "trade"])},
            "order_discount": money(dice.choice([0, 0, 2.5, 3, 5, 10])),
        }
        for sku in dice.sample(sorted(PRICES), dice.randint(1, 4)):
            units, asked = dice.randint(1, 4), PRICES[sku]
            off = round(asked * units * dice.choice([0, 0, 0.1, 0.15, 0.2]), 2)
            line = {
                **{"sku": sku, "quantity": str(units), "unit_price": money(asked), "line_discount": money(off)},
                **{"line_total": money(asked * units - off), "returned": dice.choice("0001")},
                **{name: cell_beside(kinds[name], number, 80 + number / 100) for name in beside},
            }
            rows.append(order | line)
    header = dice.sample(sorted(headings), len(headings))
    lines = [header, *([row[headings[name]] for name in header] for row in rows)]
    quoted = (
        "".join(separator.join(f'"{cell}"' if separator in cell else cell for cell in one) + "\n") for one in lines
    )
    return Made("".join(quoted), dice.choice(["utf-8", told["encoding"]]), names)


@pytest.mark.parametrize("language", LANGUAGES)
def test_every_column_of_a_whole_file_is_taken_for_what_it_is(language):
    dice = random.Random(language)
    for _ in range(FILES):
        made = made_up(dice, LANGUAGES[language])
        if len(set(made.columns.values())) < len(made.columns):
            continue  # one heading for two fields
        table = read_table(made.text.encode(made.encoding, errors="replace"))
        found = {key: [table.header[at] for at in some] for key, some in guess_columns(table, {}, PRICES).items()}
        others = found.keys() - made.columns.keys() - HARMLESS
        assert {key: found.get(key) for key in {*made.columns, *others}} == {
            key: [heading] for key, heading in made.columns.items()
        }, made.text
