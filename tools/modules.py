"""Writes docs/modules.md: every module with the sentence it opens with. `make modules`."""

import ast
import re
from collections.abc import Iterator
from itertools import groupby
from pathlib import Path

HERE = Path(__file__).parents[1]
PAGE = HERE / "docs" / "modules.md"
ROOMS = [
    "ground",
    "goods",
    "carts",
    "clauses",
    "delivery",
    "offers",
    "shop",
    "pricing",
    "costing",
    "forecast",
    "advice",
]
"""Of the core, from the ground up."""
BEGIN = """# Every module

What each is, in the sentence it opens with. Written by `make modules` from the modules themselves;
[house.md](house.md) says how they belong together.
"""
A_SENTENCE = re.compile(r"(?<=[.!?])\s+(?=[A-Z])")
OPENS_WITH = re.compile(r"/\*\*\s*(.*?)\s*\*/", re.DOTALL)
MADE = {"schema.d.ts"}


def page() -> str:
    """The page as it should be. Raises ValueError where a module opens with nothing."""
    parts = [BEGIN]
    for room, paths in groupby(_modules(), key=lambda path: path.parent):
        rows = "".join(f"| `{path.relative_to(room)}` | {_sentence(path)} |\n" for path in paths)
        parts.append(f"## {room.relative_to(HERE)}/\n\n| module | |\n|---|---|\n{rows}")
    return "\n".join(parts)


def _modules() -> Iterator[Path]:
    package, front = HERE / "yellow_abacus", HERE / "frontend" / "src"
    core = [path for room in ROOMS for path in _below(package / "core" / room, "py")]
    rest = [path for path in _below(package, "py") if package / "core" not in path.parents]
    yield from (path for path in (*core, *rest) if path.stat().st_size and "migrations" not in path.parts)
    yield from (path for path in _below(front, "ts*") if ".test." not in path.name and path.name not in MADE)


def _below(folder: Path, ending: str) -> list[Path]:
    """Its modules, folder by folder: those of a folder before what is in its folders."""
    return sorted(folder.rglob(f"*.{ending}"), key=lambda path: (path.parent.parts, path.name))


def _sentence(path: Path) -> str:
    text = path.read_text(encoding="utf-8")
    if path.suffix == ".py":
        opening = ast.get_docstring(ast.parse(text)) or ""
    else:
        found = OPENS_WITH.match(text)
        opening = re.sub(r"\n \* ?", "\n", found[1]) if found else ""
    if not opening:
        raise ValueError(f"{path.relative_to(HERE)} does not say what it is in its first line")
    return A_SENTENCE.split(" ".join(opening.split("\n\n")[0].split()))[0].replace("|", "\\|")


if __name__ == "__main__":
    PAGE.write_text(page(), encoding="utf-8")
