"""Fetching tariffs from a carriers' quote service over HTTP, with timeouts and clear messages."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field, TypeAdapter, ValidationError
from sqlalchemy.orm import Session

from yellow_abacus.core.delivery.parcels import Carries
from yellow_abacus.core.delivery.tariffs import Tariff, WeightStep
from yellow_abacus.files.shop_json import terms_of
from yellow_abacus.outside import Asking, ServiceDownError, where_wrong
from yellow_abacus.store.settings import check_settings, save_tariffs

AGAIN = "Nothing was changed. Try again in a while, or bring tariffs in from a file."
SERVICE = "http://127.0.0.1:8411"
Price = Annotated[float, Field(ge=0, le=1e8, allow_inf_nan=False)]


class _Step(BaseModel):
    up_to_grams: Annotated[int, Field(ge=1)]
    price: Price


class Service(BaseModel):
    """One service as the quote service tells it; docs/files.md, "Quote service"."""

    carrier: Annotated[str, Field(min_length=1, max_length=80)]
    service: Annotated[str, Field(min_length=1, max_length=80)]
    to: list[str] = []
    steps: Annotated[list[_Step], Field(min_length=1, max_length=200)]
    each_kilogram_more: Price | None = None
    cubic_centimetres_a_kilogram: Annotated[int, Field(ge=1)] | None = None
    fuel_percent: Annotated[float, Field(ge=0, le=200)] = 0.0
    insurance_percent: Annotated[float, Field(ge=0, le=100)] = 0.0
    heaviest_grams: Annotated[int, Field(ge=1)] | None = None
    longest_millimetres: Annotated[int, Field(ge=1)] | None = None

    def tariff(self) -> Tariff:
        return Tariff(
            name=self.service,
            carrier=self.carrier,
            steps=tuple(WeightStep(step.up_to_grams, step.price) for step in self.steps),
            per_kilogram=self.each_kilogram_more,
            divisor=self.cubic_centimetres_a_kilogram,
            fuel_bp=round(self.fuel_percent * 100),
            insurance_bp=round(self.insurance_percent * 100),
            carries=Carries(heaviest=self.heaviest_grams, longest=self.longest_millimetres),
        )


@dataclass(frozen=True)
class Carriers:
    """The quote service at `address`."""

    address: str = SERVICE

    def services(self, currency: str) -> list[Service]:
        """Every service on offer. Raises ServiceDownError."""
        told = Asking("The carriers", self.address, AGAIN).ask("/services")
        if told.get("currency") != currency:
            raise ServiceDownError(
                f"The carriers' prices are in {str(told.get('currency'))[:20]}, the shop's in {currency}.",
                "Bring tariffs in from a file instead.",
            )
        try:
            return _SERVICES.validate_python(told.get("services"))
        except ValidationError as error:
            raise ServiceDownError(
                f"The carriers' answer cannot be used ({where_wrong(error)}).", "Nothing was fetched; try later."
            ) from error


_SERVICES = TypeAdapter(list[Service])


class NoSuchServiceError(ValueError):
    """A service was asked for that the carriers do not have."""

    def __init__(self, name: str) -> None:
        super().__init__(f"The carriers have no service “{name}”. Choose from what they have.")


def named_services(carriers: Carriers, names: Sequence[str], currency: str) -> list[Service]:
    """These services, asked for now. Raises ServiceDownError and NoSuchServiceError."""
    found = {service.service: service for service in carriers.services(currency)}
    for name in names:
        if name not in found:
            raise NoSuchServiceError(name)
    return [found[name] for name in names]


def keep(session: Session, services: Sequence[Service], address: str, now: datetime) -> int:
    """Save the tariffs of services, with where and when they were fetched; how many are new or otherwise.

    Raises SettingsError.
    """
    new, changed, _ = save_tariffs(session, [terms_of(one.tariff()) for one in services], address, now)
    check_settings(session)
    return new + changed
