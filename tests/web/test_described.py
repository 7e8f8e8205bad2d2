"""Whatever is asked of the API, it answers as it is described and never fails: requests made up from its description.

Few here; `make bench` makes up many (`tests/bench/requests.py`).
"""

import json
import os
import shutil
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.errors import Unsatisfiable
from pydantic import BaseModel
from schemathesis import GenerationMode
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from yellow_abacus.carrier_tariffs import Carriers, Service
from yellow_abacus.demo import fill_with_demo_shop
from yellow_abacus.standins.carriers import SERVICES
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.app import make_app
from yellow_abacus.web.description import description

DESCRIPTION = Path(__file__).parents[2] / "yellow_abacus" / "web" / "openapi.json"

EXAMPLES = int(os.environ.get("MADE_UP_REQUESTS", "3"))
"""Of each thing that can be asked."""

CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]


def shapes(of: type[BaseModel] = BaseModel) -> Iterator[type[BaseModel]]:
    for one in of.__subclasses__():
        yield one
        yield from shapes(one)


def test_every_shape_has_a_name_of_its_own():
    """Of two with one name the description would tell the last alone, for both."""
    places = {(one.__name__, one.__module__) for one in shapes() if one.__module__.startswith("yellow_abacus.")}
    names = Counter(name for name, _ in places)
    assert [name for name, times in names.items() if times > 1] == []


class Answering(Carriers):
    """Carriers that always answer."""

    def services(self, currency: str) -> list[Service]:
        return [Service.model_validate(one) for one in SERVICES]


@pytest.fixture(scope="module")
def schema(demo_path: Path, tmp_path_factory: pytest.TempPathFactory):
    folder = tmp_path_factory.mktemp("described")
    shop = ShopFile(Path(shutil.copy(demo_path, folder / "demo.sqlite")))
    fill_with_demo_shop(shop)
    app = make_app(shop, Answering())
    app.add_url_rule("/openapi.json", "openapi", lambda: description(app))
    yield schemathesis.openapi.from_wsgi("/openapi.json", app)
    shop.close()


PATHS = json.loads(DESCRIPTION.read_text())["paths"]


@pytest.mark.parametrize("mode", [GenerationMode.POSITIVE, GenerationMode.NEGATIVE])
@pytest.mark.parametrize(("path", "method"), [(path, method) for path in PATHS for method in PATHS[path]])
def test_every_answer_is_as_described(schema, path, method, mode):
    @settings(
        max_examples=EXAMPLES,
        deadline=None,
        suppress_health_check=list(HealthCheck),
        phases=[Phase.explicit, Phase.generate],
    )
    @given(case=schema[path][method].as_strategy(generation_mode=mode))
    def asked(case):
        case.call_and_validate(checks=CHECKS)

    try:
        asked()
    except Unsatisfiable:  # nothing can be wrong with a request that takes nothing
        assert mode is GenerationMode.NEGATIVE
