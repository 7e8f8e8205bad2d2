"""Figures, not verdicts: `make bench` prints how many carts core and slow pricer agree on, and how fast it all is."""
