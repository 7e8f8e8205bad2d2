"""The shop served to a browser, the demo shop, and the stand-ins for outside services."""

from collections.abc import Callable
from contextlib import ExitStack
from pathlib import Path

import click

from yellow_abacus.cli.common import fail, open_shop, shop_option


@click.command()
@shop_option
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", type=click.IntRange(0, 65535), default=8410, show_default=True)
@click.option(
    "--whoever-reaches-it-may-change-the-shop",
    "open_to_all",
    is_flag=True,
    help="Needed to listen on any address but this machine's own: there is no sign-in yet.",
)
@click.option("--demo", is_flag=True, help="Fill the shop with the demo shop if it is empty; start made-up carriers.")
@click.option("--carriers", "address", help="Address of the carriers' quote service.")
@click.option("--order-feed", "feed_address", help="Address of the feed new orders are fetched from.")
@click.option("--dev", is_flag=True, help="Restart when the code changes.")
def serve(
    shop_path: Path,
    host: str,
    port: int,
    open_to_all: bool,
    demo: bool,
    address: str | None,
    feed_address: str | None,
    dev: bool,
) -> None:
    """Serve the shop to a browser."""
    from yellow_abacus.listening import LOOPBACK
    from yellow_abacus.standins.running import beside

    if host not in LOOPBACK and not open_to_all:
        fail(
            f"{host} can be reached by others, and there is no sign-in yet. Use 127.0.0.1, or say"
            " --whoever-reaches-it-may-change-the-shop."
        )
    if dev:
        from yellow_abacus.web.serving import run_server_reloading

        run_server_reloading(shop_path, host, port, demo)
        return
    with ExitStack() as standins:
        asked = {"carriers": address, "order-feed": feed_address}
        starting = {one: standins.enter_context(beside(one)) for one, at in asked.items() if demo and not at}

        from yellow_abacus.carrier_tariffs import Carriers  # much is imported, while the stand-ins start
        from yellow_abacus.order_feed import Feed
        from yellow_abacus.web.serving import make_server, run_server

        shop = open_shop(shop_path)
        if demo:
            from yellow_abacus.demo import fill_apart

            fill_apart(shop)
        asked |= {one: address_of() for one, address_of in starting.items()}
        carriers, feed = asked["carriers"], asked["order-feed"]
        server = make_server(
            shop,
            host,
            port,
            Carriers(carriers) if carriers else None,
            Feed(feed) if feed else None,
            open_to_all=open_to_all,
        )
        run_server(server, host)


@click.command("demo-shop")
@shop_option
def demo_shop(shop_path: Path) -> None:
    """Fill an empty shop with the demo shop."""
    from yellow_abacus.demo import fill_with_demo_shop

    if not fill_with_demo_shop(open_shop(shop_path)):
        fail("The shop is not empty: the demo shop only goes into a shop with nothing in it yet.")


def _standin(command: Callable[..., None]) -> Callable[..., None]:
    """The options of a stand-in for a service outside."""
    for option in (
        click.option("--failing", type=int, default=0, help="How many requests get an error; -1 for all."),
        click.option("--slow", type=float, default=0.0, help="Seconds before every answer."),
        click.option("--until-input-ends", is_flag=True, hidden=True, help="End with whoever started it."),
        click.option("--host", default="127.0.0.1", show_default=True),
    ):
        command = option(command)
    return command


@click.command()
@_standin
@click.option("--port", type=click.IntRange(0, 65535), default=8411, show_default=True)
def carriers(host: str, port: int, until_input_ends: bool, slow: float, failing: int) -> None:
    """Run the stand-in quote service of two made-up carriers."""
    from yellow_abacus.standins.carriers import make_carriers
    from yellow_abacus.standins.mood import Mood
    from yellow_abacus.standins.running import run_standin

    app = make_carriers(Mood(slow, failing))
    run_standin(app, "Two made-up carriers quote", host, port, until_input_ends=until_input_ends)


@click.command("order-feed")
@_standin
@click.option("--port", type=click.IntRange(0, 65535), default=8412, show_default=True)
def order_feed(host: str, port: int, until_input_ends: bool, slow: float, failing: int) -> None:
    """Run the stand-in shop that goes on selling, whose new orders can be fetched."""
    from yellow_abacus.standins.mood import Mood
    from yellow_abacus.standins.order_feed import make_order_feed
    from yellow_abacus.standins.running import run_standin

    app = make_order_feed(Mood(slow, failing))
    run_standin(app, "A made-up shop tells its orders", host, port, until_input_ends=until_input_ends)
