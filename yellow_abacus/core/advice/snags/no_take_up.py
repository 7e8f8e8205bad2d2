"""A reward the shopper must add, and nothing said of how many do."""

from collections.abc import Iterator

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say
from yellow_abacus.core.offers import BuyGet


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        adds = any(isinstance(one, BuyGet) and one.of != offer.on for one in offer.gives)
        if adds and offer.response.take_up_bp is None:
            text = say("Shoppers must add what they get. How many do is not said: carts that hold it already count.")
            yield Snag(text, at, ("response", "take_up_bp"))
