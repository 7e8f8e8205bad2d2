"""Yellow Abacus: what an offer will do to a store's profit, before it is launched."""

__version__ = "0.1.0"
