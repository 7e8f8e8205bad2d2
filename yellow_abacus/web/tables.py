"""Tables to download: what the shop has, and templates."""

from typing import Literal

from pydantic import BaseModel

from yellow_abacus.files.tables_out import Contents, Out, as_file, shop_table, template
from yellow_abacus.store.goods import all_goods
from yellow_abacus.store.loading import load_shop
from yellow_abacus.store.settings import shop_row
from yellow_abacus.web.attachments import attachment
from yellow_abacus.web.context import context
from yellow_abacus.web.description import file_of
from yellow_abacus.web.routes import Routes

api = Routes("tables", __name__, "Tables")


class TablePath(BaseModel):
    kind: Out
    format: Literal["csv", "xlsx"]


@api.get("/tables/<kind>.<format>", responses={200: file_of("csv", "xlsx")})
def get_table(path: TablePath):
    """All the shop has of one kind; reads back just so."""
    with context().shop_file.reading() as session:
        has = Contents(all_goods(session), load_shop(session), shop_row(session).minor_digits)
    return attachment(as_file(shop_table(path.kind, has), path.format), path.kind, path.format)


@api.get("/templates/<kind>.<format>", responses={200: file_of("csv", "xlsx")})
def get_template(path: TablePath):
    """A template to fill in, with examples."""
    with context().shop_file.reading() as session:
        digits = shop_row(session).minor_digits
    return attachment(as_file(template(path.kind, digits), path.format), f"{path.kind}-template", path.format)
