"""From a shop file and a plan to a forecast: what the command line and the web both call."""

from threading import Lock

from sqlalchemy.orm import Session

from yellow_abacus.core.carts import CartBatch
from yellow_abacus.core.forecast import Forecaster
from yellow_abacus.core.problem import Problem
from yellow_abacus.core.shop import Shop
from yellow_abacus.files.forecast_json import ForecastDoc, forecast_doc
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.store.loading import load
from yellow_abacus.store.settings import shop_row, zone_rows
from yellow_abacus.store.shop_file import ShopFile


class UnsoundPlanError(Exception):
    """The plan makes no sense; `problems` tell where and why."""

    def __init__(self, problems: list[Problem]) -> None:
        super().__init__("; ".join(f"{problem.message} {problem.mend}" for problem in problems))
        self.problems = problems


class NothingToCountError(Exception):
    """There are no orders to forecast from."""


class CountingRoom:
    """Keeps the shop's arrays and priced results between forecasts, for as long as the shop does not change."""

    def __init__(self, shop_file: ShopFile) -> None:
        self.shop_file = shop_file
        self._lock = Lock()
        self._held: tuple[int, Forecaster, list[str]] | None = None

    def forecaster(self) -> Forecaster:
        return self._current()[0]

    def forecast(self, doc: PlanDoc) -> ForecastDoc:
        """Raises UnsoundPlanError and NothingToCountError."""
        forecaster, caveats = self._current()
        self.check(doc, forecaster)
        with self.shop_file.reading() as session:
            shop = shop_row(session)
            currency, digits = shop.currency, shop.minor_digits
        return forecast_doc(
            forecaster.forecast(doc.plan()),
            [offer.id for offer in doc.offers if offer.in_plan],
            currency,
            digits,
            forecaster.counted_days,
            caveats,
        )

    def check(self, doc: PlanDoc, forecaster: Forecaster | None = None) -> None:
        """Raises UnsoundPlanError."""
        shop, batch = self.shop_and_batch(forecaster)
        problems = doc.problems([zone.name for zone in shop.zones], batch.goods.categories, batch.goods.skus)
        if problems:
            raise UnsoundPlanError(problems)

    def shop_and_batch(self, forecaster: Forecaster | None = None) -> tuple[Shop, CartBatch]:
        """The shop and its carts, also where there are no orders yet."""
        if forecaster is None:
            forecaster, _ = self._current(orders_needed=False)
        return forecaster.shop, forecaster.batch

    def _current(self, *, orders_needed: bool = True) -> tuple[Forecaster, list[str]]:
        version = self.shop_file.data_version()
        with self._lock:
            if self._held is None or self._held[0] != version:
                with self.shop_file.reading() as session:
                    loaded = load(session)
                    forecaster = Forecaster(loaded.shop, loaded.batch, loaded.counted_days)
                    self._held = (loaded.version, forecaster, caveats(session, forecaster))
            _, forecaster, told = self._held
        if orders_needed and forecaster.batch.axes.carts == 0:
            raise NothingToCountError("There are no orders to forecast from. Bring some in at Carts.")
        return forecaster, told


def caveats(session: Session, forecaster: Forecaster) -> list[str]:
    """The missing figures a forecast leans on, in words."""
    told = []
    if missing := forecaster.missing_costs:
        one = missing == 1
        told.append(
            f"{missing} SKU{'' if one else 's'} that {'was' if one else 'were'} ordered {'has' if one else 'have'} "
            f"no unit cost and count{'s' if one else ''} as costing nothing."
        )
    for what in ("charge", "cost"):
        names = [row.name for row in zone_rows(session) if getattr(row, what) is None]
        if names:
            verb = "counts" if len(names) == 1 else "count"
            told.append(f"No delivery {what} is set for {', '.join(names)}, which {verb} as 0.")
    return told
