"""One module a snag; `all_snags` lists them."""
