"""Small simulated stand-ins for services outside: each its own process, asked over HTTP with JSON."""
