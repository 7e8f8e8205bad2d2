"""What commands share: the shop file and other files they are given, and how they end where that cannot be."""

import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any, NoReturn, TypeVar

import click
from pydantic import BaseModel, ValidationError

from yellow_abacus.files.sound_json import unsound
from yellow_abacus.store.shop_file import ShopFile

DEFAULT_SHOP = Path("shop/shop.sqlite")

Doc = TypeVar("Doc", bound=BaseModel)

shop_option = click.option(
    "--shop",
    "shop_path",
    type=click.Path(dir_okay=False, path_type=Path),
    default=DEFAULT_SHOP,
    show_default=True,
    help="The shop file (SQLite). Made if it is not there.",
)
file_argument = click.argument("file", type=click.Path(exists=True, dir_okay=False, path_type=Path))


def open_existing(path: Path) -> ShopFile:
    if not path.exists():
        fail(f"There is no shop file {path}.")
    return open_shop(path)


def open_shop(path: Path) -> ShopFile:
    """Raises ShopFileError."""
    click.get_current_context().find_root().obj = path
    return ShopFile(path)


def fail(message: str) -> NoReturn:
    click.echo(message, err=True)
    sys.exit(1)


def read_json(file: Path, kind: type[Doc]) -> Doc:
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
