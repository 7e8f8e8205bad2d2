"""Yellow Abacus: what an offer will do to a store's profit, before it is launched."""
