"""The versions of shop files, by their migrations: `0020_goods_that_are_gone` makes version 0020."""

from pathlib import Path

MIGRATIONS = Path(__file__).parent / "migrations"


def newest_version() -> str:
    return max(path.name.partition("_")[0] for path in (MIGRATIONS / "versions").glob("[0-9]*_*.py"))
