"""To which destinations, channels and ways of paying an offer is held."""

from dataclasses import dataclass

from yellow_abacus.core.shape import CLOSED


@dataclass(frozen=True)
class Where:
    """Everywhere, unless something is named. zones win over by `except_zones`; the others name what is let in."""

    zones: tuple[str, ...] = ()
    except_zones: tuple[str, ...] = ()
    channels: tuple[str, ...] = ()
    payments: tuple[str, ...] = ()
    currencies: tuple[str, ...] = ()

    __pydantic_config__ = CLOSED
