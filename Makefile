# Yellow Abacus. `make demo` and `make test` are all a fresh machine needs; the rest is for daily work.

SHELL := /bin/bash
PYTHON ?= python3
BIN := .venv/bin
STAMPS := .make
DEMO_SHOP := shop/demo.sqlite
PORT ?= 8410
SITE := yellow_abacus/web/site/index.html

PIP := $(BIN)/pip install --quiet --disable-pip-version-check

.PHONY: demo test dev bench build check check-python check-front pytest types modules screenshots examples clean

# What is installed and built for Python and for the front end goes side by side.
demo:
	$(MAKE) --jobs 2 $(STAMPS)/run $(SITE)
	$(BIN)/yellow-abacus serve --demo --shop $(DEMO_SHOP) --port $(PORT)

test:
	$(MAKE) --jobs 2 $(STAMPS)/dev $(STAMPS)/chromium $(SITE)
	$(MAKE) --jobs 2 check-python check-front
	$(MAKE) pytest

# Both halves reload: Python when a file changes, the front end by itself. Open the address Vite prints.
dev: $(STAMPS)/dev $(STAMPS)/npm
	trap 'kill 0' EXIT; $(BIN)/yellow-abacus serve --demo --dev --shop $(DEMO_SHOP) --port 8410 & cd frontend && npm run dev

bench: $(STAMPS)/bench $(STAMPS)/chromium $(SITE)
	$(BIN)/python -m tests.bench

build: $(SITE)

check: check-python check-front

check-python: $(STAMPS)/dev
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports
	$(BIN)/yellow-abacus describe-api $(STAMPS)/openapi.json
	diff -u yellow_abacus/web/openapi.json $(STAMPS)/openapi.json  # if these differ: make types

check-front: $(STAMPS)/npm
	cd frontend && npx openapi-typescript ../yellow_abacus/web/openapi.json -o ../$(STAMPS)/schema.d.ts >/dev/null
	diff -u frontend/src/api/schema.d.ts $(STAMPS)/schema.d.ts
	cd frontend && npm run --silent check

pytest: $(STAMPS)/dev $(STAMPS)/chromium $(SITE)
	$(BIN)/pytest -n auto

# The API description from the code, and the front end's types from the description.
types: $(STAMPS)/dev $(STAMPS)/npm
	$(BIN)/yellow-abacus describe-api yellow_abacus/web/openapi.json
	$(BIN)/yellow-abacus describe-offers docs/offers.schema.json
	$(BIN)/yellow-abacus describe-plans docs/plans.schema.json
	$(BIN)/yellow-abacus describe-forecast docs/forecast.schema.json
	$(BIN)/yellow-abacus describe-learned docs/learned.schema.json
	$(BIN)/yellow-abacus describe-afterwards docs/afterwards.schema.json
	cd frontend && npm run --silent types

# docs/modules.md from what every module says of itself.
modules: $(STAMPS)/dev
	$(BIN)/python -m tools.modules

screenshots: $(STAMPS)/dev $(STAMPS)/chromium $(SITE)
	$(BIN)/python -m tools.screenshots

clean:
	rm -rf .venv $(STAMPS) frontend/node_modules yellow_abacus/web/site .mypy_cache .ruff_cache .pytest_cache

$(STAMPS)/venv:
	mkdir -p $(STAMPS)
	$(PYTHON) -c 'import sys; sys.exit(sys.version_info < (3, 11))' || { echo "Python 3.11 or newer is needed"; exit 1; }
	$(PYTHON) -c 'import ensurepip, venv' 2>/dev/null || sh tools/apt-install python3-venv
	$(PYTHON) -m venv .venv
	touch $@

$(STAMPS)/run: $(STAMPS)/venv requirements/build.lock requirements/run.lock pyproject.toml
	$(PIP) --require-hashes -r requirements/build.lock -r requirements/run.lock
	$(PIP) --no-deps --no-build-isolation --editable .
	$(BIN)/python -m compileall -q yellow_abacus  # as pip does with what it installs: each start is a third of a second quicker
	touch $@

$(STAMPS)/dev: $(STAMPS)/run requirements/dev.lock
	$(PIP) --require-hashes -r requirements/dev.lock
	touch $@

$(STAMPS)/bench: $(STAMPS)/dev requirements/bench.lock
	$(PIP) --require-hashes -r requirements/bench.lock
	touch $@

$(STAMPS)/npm: frontend/package.json frontend/package-lock.json
	mkdir -p $(STAMPS)
	cd frontend && npm ci --silent --no-audit --no-fund
	touch $@

# Not while the other asks apt for something.
$(STAMPS)/chromium: | $(STAMPS)/venv
	mkdir -p $(STAMPS)
	test -x /usr/bin/chromium || sh tools/apt-install chromium
	touch $@

FRONTEND := $(shell find frontend/src frontend/public -type f 2>/dev/null) frontend/index.html frontend/vite.config.ts
$(SITE): $(STAMPS)/npm $(FRONTEND)
	cd frontend && npm run --silent build -- --logLevel warn
	touch $@
