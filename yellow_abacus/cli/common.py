"""What commands share: the shop file and other files they are given, and how they end where that cannot be.

It is read before a command knows what it is to do, so what opens shops and reads files is read where it is needed.
"""

import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn, TypeVar

import click

from yellow_abacus.store.in_columns import ReadBeside

if TYPE_CHECKING:
    from pydantic import BaseModel

    from yellow_abacus.store.shop_file import ShopFile

DEFAULT_SHOP = Path("shop/shop.sqlite")

Doc = TypeVar("Doc", bound="BaseModel")

shop_option = click.option(
    "--shop",
    "shop_path",
    type=click.Path(dir_okay=False, path_type=Path),
    default=DEFAULT_SHOP,
    show_default=True,
    help="The shop file (SQLite). Made if it is not there.",
)
file_argument = click.argument("file", type=click.Path(exists=True, dir_okay=False, path_type=Path))


def open_existing(path: Path, beside: ReadBeside | None = None) -> "ShopFile":
    """Raises ShopFileError. beside: its large tables, where they are being read already."""
    if not path.exists():
        fail(f"There is no shop file {path}.")
    return open_shop(path, beside)


def open_shop(path: Path, beside: ReadBeside | None = None) -> "ShopFile":
    """Made if it is not there. Raises ShopFileError."""
    from yellow_abacus.store.shop_file import ShopFile

    click.get_current_context().find_root().obj = path
    return ShopFile(path, beside)


def fail(message: str) -> NoReturn:
    click.echo(message, err=True)
    sys.exit(1)


def read_json(file: Path, kind: type[Doc]) -> Doc:
    from pydantic import ValidationError

    from yellow_abacus.files.sound_json import unsound

    try:
        told = json.loads(file.read_bytes())
        if wrong := next(unsound(told), None):
            fail(f"{file}: {'/'.join(map(str, wrong.path))}: {wrong.message} {wrong.mend}")
        return kind.model_validate(told)
    except (UnicodeDecodeError, RecursionError):
        fail(f"{file} is not JSON that can be read.")
    except json.JSONDecodeError as error:
        fail(f"{file} is not JSON: {error}.")
    except ValidationError as error:
        first: Any = error.errors()[0]
        fail(f"{file}: {'/'.join(map(str, first['loc']))}: {first['msg']}")


def progress(what: str) -> Callable[[float], None]:
    def show(share: float) -> None:
        if sys.stderr.isatty():
            click.echo(f"\r{what} {share:.0%} ", nl=share >= 1, err=True)

    return show
