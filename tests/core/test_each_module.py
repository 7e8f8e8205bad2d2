"""Every module of the core has a test of its name, in the room of its name."""

from pathlib import Path

import pytest

from yellow_abacus import core

HERE, CORE = Path(__file__).parent, Path(core.__file__).parent
MODULES = [
    path.relative_to(CORE)
    for path in sorted(CORE.rglob("*.py"))
    if path.name != "__init__.py" and path.parent.name != "snags"  # each of those has its cases in test_all_snags
]


@pytest.mark.parametrize("module", MODULES, ids=str)
def test_it_has_its_test(module):
    assert (HERE / module.parent / f"test_{module.name}").exists()
