"""A stand-in quote service of two made-up carriers, with published tariffs. Run as `yellow-abacus carriers`.

Asked to, it is slow or fails: for good (`--slow`, `--failing`), or for the next requests (POST /mood).
"""

import time
from dataclasses import dataclass
from typing import Any

from flask import Flask, Response, jsonify, request

PORT = 8411
LONGEST_WAIT = 60.0

CURRENCY = "EUR"
"""Prices are in its minor units, without tax."""


def _steps(*told: tuple[int, float]) -> list[dict[str, float]]:
    return [{"up_to_grams": grams, "price": price} for grams, price in told]


SERVICES: list[dict[str, Any]] = [
    {
        "carrier": "Swallow Post",
        "service": "Swallow parcel",
        "to": ["Fernland"],
        "steps": _steps((2000, 395), (5000, 478), (10_000, 652), (20_000, 995)),
        "each_kilogram_more": 58,
        "cubic_centimetres_a_kilogram": 6000,
        "fuel_percent": 5.25,
        "insurance_percent": 0.6,
        "heaviest_grams": 20_000,
        "longest_millimetres": 1200,
    },
    {
        "carrier": "Swallow Post",
        "service": "Swallow abroad",
        "to": ["Mossia", "Lower Heath", "Brackenmark"],
        "steps": _steps((2000, 862), (5000, 1085), (10_000, 1520)),
        "each_kilogram_more": 124,
        "cubic_centimetres_a_kilogram": 5000,
        "fuel_percent": 6.5,
        "insurance_percent": 0.8,
        "heaviest_grams": 20_000,
        "longest_millimetres": 1200,
    },
    {
        "carrier": "Swallow Post",
        "service": "Swallow far",
        "to": ["Outer Cays", "Farlands"],
        "steps": _steps((2000, 1290), (5000, 1945), (10_000, 3040)),
        "each_kilogram_more": 352,
        "cubic_centimetres_a_kilogram": 5000,
        "fuel_percent": 9.75,
        "insurance_percent": 1.0,
        "heaviest_grams": 20_000,
        "longest_millimetres": 1000,
    },
    {
        "carrier": "Ironwheel",
        "service": "Ironwheel heavy",
        "to": ["Fernland", "Mossia", "Lower Heath", "Brackenmark"],
        "steps": _steps((15_000, 835), (31_500, 1290)),
        "each_kilogram_more": 44,
        "cubic_centimetres_a_kilogram": 4000,
        "fuel_percent": 8.5,
        "insurance_percent": 0.5,
        "heaviest_grams": 31_500,
        "longest_millimetres": 1500,
    },
    {
        "carrier": "Ironwheel",
        "service": "Ironwheel fragile",
        "to": ["Fernland"],
        "steps": _steps((5000, 705), (15_000, 1010)),
        "each_kilogram_more": 82,
        "cubic_centimetres_a_kilogram": 4000,
        "fuel_percent": 8.5,
        "insurance_percent": 1.2,
        "heaviest_grams": 25_000,
        "longest_millimetres": 1500,
    },
    {
        "carrier": "Ironwheel",
        "service": "Ironwheel express",
        "to": ["Fernland", "Mossia", "Lower Heath", "Brackenmark", "Outer Cays", "Farlands"],
        "steps": _steps((1000, 1215), (5000, 1580)),
        "each_kilogram_more": 195,
        "cubic_centimetres_a_kilogram": 4000,
        "fuel_percent": 12.5,
        "insurance_percent": 1.0,
        "heaviest_grams": 25_000,
        "longest_millimetres": 1500,
    },
]


@dataclass
class Mood:
    """slow: seconds before every answer. failing: how many more requests get an error, below 0 for all."""

    slow: float = 0.0
    failing: int = 0


def make_carriers(mood: Mood | None = None) -> Flask:
    app = Flask("carriers")
    now = mood or Mood()

    @app.before_request
    def _as_it_feels() -> tuple[Response, int] | None:
        if request.path == "/mood":
            return None
        if now.slow:
            time.sleep(min(now.slow, LONGEST_WAIT))
        if now.failing:
            now.failing -= 1 if now.failing > 0 else 0
            return jsonify(error="The tariff desk is closed for now."), 503
        return None

    @app.get("/services")
    def _services() -> Response:
        """Every service with its tariff; `?to=` keeps those that go to one place."""
        to = request.args.get("to", "")
        found = [service for service in SERVICES if not to or to in service["to"]]
        return jsonify(currency=CURRENCY, services=found)

    @app.post("/mood")
    def _mood() -> Response | tuple[Response, int]:
        told = request.get_json(silent=True)
        slow, failing = (told or {}).get("slow", 0), (told or {}).get("failing", 0)
        if not isinstance(slow, int | float) or not isinstance(failing, int) or not 0 <= slow <= LONGEST_WAIT:
            return jsonify(error=f"slow is 0 to {LONGEST_WAIT:.0f} seconds, failing a whole number."), 422
        now.slow, now.failing = float(slow), failing
        return jsonify(slow=now.slow, failing=now.failing)

    return app
