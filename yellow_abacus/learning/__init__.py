"""What history teaches, with the statistics of well-known libraries; it knows the core, the core does not know it."""
