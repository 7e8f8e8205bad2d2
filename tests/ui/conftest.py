"""The real interface in headless Chromium: a server on a shop of its own for every test."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from click.testing import CliRunner
from playwright.sync_api import ConsoleMessage, Page, expect

from tests.ui.server import CHROMIUM, serving
from yellow_abacus.cli import main
from yellow_abacus.store.shop_file import ShopFile

PAPER = Path(__file__).parents[2] / "docs" / "paper"


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    for item in items:
        if Path(__file__).parent in item.path.parents:
            item.add_marker("ui")


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return CHROMIUM


@pytest.fixture(scope="session")
def browser_context_args() -> dict[str, Any]:
    return {"viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce", "accept_downloads": True}


@pytest.fixture(autouse=True)
def patience(page: Page) -> None:
    """Enough for a busy machine; a test that waits this long has failed."""
    page.set_default_timeout(45_000)
    expect.set_options(timeout=40_000)


@pytest.fixture
def complaints(page: Page) -> Iterator[list[str]]:
    """What the page's console complained of; a test that uses it fails if there was anything."""
    found: list[str] = []

    def noted(told: ConsoleMessage) -> None:
        url = told.location["url"]
        if told.type == "error":
            found.append(f"{told.text} {url}")

    page.on("console", noted)
    page.on("pageerror", lambda error: found.append(str(error)))
    yield found
    assert found == []


@pytest.fixture
def demo(demo_shop: ShopFile) -> Iterator[str]:
    """The address of the demo shop."""
    with serving(demo_shop) as address:
        yield address


@pytest.fixture
def empty(empty_shop: ShopFile) -> Iterator[str]:
    with serving(empty_shop) as address:
        yield address


@pytest.fixture
def paper(tmp_path: Path) -> Iterator[tuple[str, Path]]:
    """The address and the file of the shop worked out in docs/sums.md."""
    path = tmp_path / "paper.sqlite"
    for kind, name in [
        ("shop", "shop.json"),
        ("goods", "goods.csv"),
        ("orders", "orders.csv"),
        ("plans", "plans.json"),
    ]:
        result = CliRunner().invoke(main, ["import", kind, str(PAPER / name), "--shop", str(path)])
        assert result.exit_code == 0, result.output
    shop = ShopFile(path)
    with serving(shop) as address:
        yield address, path
    shop.close()
