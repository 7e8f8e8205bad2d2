"""What the places share: the shop file that is open, its counting room, and the imports under way."""

from dataclasses import dataclass

from flask import current_app

from yellow_abacus.carrier_tariffs import Carriers
from yellow_abacus.counting import CountingRoom
from yellow_abacus.store.shop_file import ShopFile
from yellow_abacus.web.uploads import Uploads


@dataclass(frozen=True)
class Context:
    shop_file: ShopFile
    room: CountingRoom
    uploads: Uploads
    carriers: Carriers


def context() -> Context:
    found: Context = current_app.extensions["yellow_abacus"]
    return found
