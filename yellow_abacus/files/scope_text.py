"""Goods, and what earns something, as one cell says it: `category: Seeds; except tag: heavy; not reduced`."""

import re

from yellow_abacus.core.clauses.conditions import Condition, Earned, Only, Products, Spend, Units, Weight
from yellow_abacus.core.goods.goods import Names
from yellow_abacus.core.goods.scope import KINDS, Scope
from yellow_abacus.files.values import BadCellError, DecimalMark, parse_count, parse_money, parse_weight
from yellow_abacus.files.writing import decimal, figure

ONE: dict[Names, str] = {
    "categories": "category",
    "products": "product",
    "brands": "brand",
    "tags": "tag",
    "skus": "SKU",
}
_KIND_OF = {word.casefold(): kind for kind, word in ONE.items()}
_MEND = "Write it like category: Seeds; except tag: heavy; not reduced."

MEASURES = {"spend": Spend, "units": Units, "weight": Weight, "products": Products}
BOUNDS = {"at least": "at_least", "over": "over", "at most": "at_most"}
COUNTED = {"by product": "by_product", "by SKU": "by_sku"}
_CONDITION = re.compile(
    r"(spend|units|weight|products)\s+(at least|over|at most)\s+(\S+(?:\s*(?:k?g|lb|oz))?)(?:\s+of\s+(.+))?"
)


def write_scope(scope: Scope) -> str:
    parts = [f"{ONE[kind]}: {name}" for kind in KINDS for name in getattr(scope, kind)]
    parts += [f"except {ONE[kind]}: {name}" for kind in KINDS for name in getattr(scope, f"except_{kind}")]
    return "; ".join([*parts, *(["not reduced"] if scope.reduced == "out" else [])])


def parse_scope(text: str) -> Scope:
    """Raises BadCellError."""
    found: dict[str, list[str]] = {}
    reduced = "in"
    for part in filter(None, (part.strip() for part in text.split(";"))):
        if part.casefold() == "not reduced":
            reduced = "out"
            continue
        kind, colon, name = part.partition(":")
        out, _, word = kind.strip().casefold().rpartition(" ")
        if not colon or word not in _KIND_OF or out not in ("", "except") or not name.strip():
            raise BadCellError(f"“{part}” does not say which goods.", _MEND)
        key = _KIND_OF[word]
        found.setdefault(f"except_{key}" if out else key, []).append(name.strip())
    return Scope(**{key: tuple(names) for key, names in found.items()}, reduced=reduced)  # type: ignore[arg-type]


def write_earned(earned: Earned, digits: int) -> str:
    """`each time | units at least 3 of category: Pots`; conditions and how they count, parted by bars."""
    parts = ["any"] if earned.need == "any" else []
    parts += ["each time"] if earned.repeat == "each_time" else []
    parts += [word for word, key in COUNTED.items() if key == earned.counted]
    return " | ".join([*parts, *(_write_condition(one, digits) for one in earned.conditions)])


def _write_condition(one: Condition, digits: int) -> str:
    of = write_scope(one.of)
    if isinstance(one, Only):
        return f"only {of}"
    bound = next(word for word, key in BOUNDS.items() if key == one.bound)
    size = {"spend": decimal(one.n, digits), "weight": f"{figure(one.n)} g"}.get(one.kind, str(one.n))
    return f"{one.kind} {bound} {size}" + (f" of {of}" if of else "")


def parse_earned(text: str, mark: DecimalMark, digits: int) -> Earned:
    """Raises BadCellError."""
    told: dict[str, str] = {}
    conditions: list[Condition] = []
    counted = {word.casefold(): key for word, key in COUNTED.items()}
    for part in filter(None, (part.strip() for part in text.split("|"))):
        word = part.casefold()
        if word == "any":
            told["need"] = "any"
        elif word == "each time":
            told["repeat"] = "each_time"
        elif word in counted:
            told["counted"] = counted[word]
        else:
            conditions.append(_parse_condition(part, mark, digits))
    return Earned(tuple(conditions), **told)  # type: ignore[arg-type]


def _parse_condition(text: str, mark: DecimalMark, digits: int) -> Condition:
    if text.casefold().startswith("only "):
        return Only(parse_scope(text[5:]))
    found = _CONDITION.fullmatch(text.strip())
    if found is None:
        raise BadCellError(f"“{text}” does not say what is needed.", "Write it like spend at least 50 of tag: heavy.")
    kind, bound, size, of = found.groups()
    match kind:
        case "spend":
            n = int(parse_money(size, mark, digits, largest=10**12))
        case "weight":
            n = round(parse_weight(size, mark, "g"))
        case _:
            n = parse_count(size, mark, least=1, largest=1_000_000)
    return MEASURES[kind](n, BOUNDS[bound], parse_scope(of or ""))
