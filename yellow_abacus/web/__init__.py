"""Flask: one module a place, thin: parse, call, answer. `app` puts them together; `problems` shapes every error."""
