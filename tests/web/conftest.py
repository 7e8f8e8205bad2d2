import pytest

from yellow_abacus.web.app import make_app


@pytest.fixture
def demo(demo_shop):
    """A client on a copy of the demo shop."""
    return make_app(demo_shop).test_client()


@pytest.fixture
def empty(empty_shop):
    return make_app(empty_shop).test_client()


@pytest.fixture
def plan(demo):
    """The first plan of the demo shop, as saved."""
    return demo.get("/api/plans").json["plans"][0]
