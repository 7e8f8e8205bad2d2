"""A stand-in quote service of two made-up carriers, with published tariffs. Run as `yellow-abacus carriers`.

Asked to, it is slow or fails: for good (`--slow`, `--failing`), or for the next requests (POST /mood).
"""

from typing import Any

from flask import Flask, Response, jsonify, request

from yellow_abacus.standins.mood import Mood

PORT = 8411
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


def make_carriers(mood: Mood | None = None) -> Flask:
    app = Flask("carriers")
    now = mood or Mood()

    now.settle(app, "The tariff desk is closed for now.")

    @app.get("/services")
    def _services() -> Response:
        """Every service with its tariff; `?to=` keeps those that go to one place."""
        to = request.args.get("to", "")
        found = [service for service in SERVICES if not to or to in service["to"]]
        return jsonify(currency=CURRENCY, services=found)

    return app
