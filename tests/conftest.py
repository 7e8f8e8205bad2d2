"""What several parts of the tests share: an empty shop, the demo shop, and the paper shop of docs/sums.md."""

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import HealthCheck, Phase, settings

from yellow_abacus.demo import fill_with_demo_shop
from yellow_abacus.store.shop_file import ShopFile

# Finding the smallest failing cart takes minutes: `pytest --hypothesis-profile=shrink` when there is one to look at.
COMMON = {"deadline": None, "suppress_health_check": [HealthCheck.too_slow]}
settings.register_profile("shrink", **COMMON)
settings.register_profile("quick", **COMMON, phases=[Phase.explicit, Phase.reuse, Phase.generate])
settings.load_profile("quick")


@pytest.fixture(scope="session")
def empty_path(tmp_path_factory: pytest.TempPathFactory) -> Path:
    path = tmp_path_factory.mktemp("empty") / "shop.sqlite"
    ShopFile(path).close()
    return path


@pytest.fixture
def empty_shop(empty_path: Path, tmp_path: Path) -> Iterator[ShopFile]:
    """A copy of one made once: making it is every version of the tables, one by one."""
    shop = ShopFile(Path(shutil.copy(empty_path, tmp_path / "shop.sqlite")))
    yield shop
    shop.close()


@pytest.fixture(scope="session")
def demo_path(tmp_path_factory: pytest.TempPathFactory) -> Path:
    path = tmp_path_factory.mktemp("demo") / "shop.sqlite"
    shop = ShopFile(path)
    fill_with_demo_shop(shop)
    shop.close()
    return path


@pytest.fixture
def demo_shop(demo_path: Path, tmp_path: Path) -> Iterator[ShopFile]:
    """A copy of the demo shop that a test may change."""
    shop = ShopFile(Path(shutil.copy(demo_path, tmp_path / "demo.sqlite")))
    yield shop
    shop.close()
