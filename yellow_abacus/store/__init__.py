"""The shop file: an SQLite database that holds one shop. `shop_file` opens it; `loading` turns it into arrays."""
