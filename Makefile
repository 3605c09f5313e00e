# Everything that a fresh machine needs hangs on these targets; each one runs only when what it depends on changed.
SHELL := /bin/bash
.DELETE_ON_ERROR:
.PHONY: demo demo-reset dev build dist test test-all checks check-python check-screens soak soak-0 soak-1 soak-2 soak-3 bench screenshots api format locks audit clean

VENV := .venv
PYTEST = PYTHONDONTWRITEBYTECODE= $(VENV)/bin/pytest -n 3 --dist worksteal --durations 10
PY := $(VENV)/bin/python
LARK := $(VENV)/bin/lark
STATIC := src/zealous_lark/web/static/index.html
NODE_DONE := frontend/node_modules/.installed
FRONTEND := $(shell find frontend/src frontend/public docs/guide docs/screenshots examples -type f 2>/dev/null) frontend/index.html frontend/vite.config.ts
SUDO := $(shell [ "$$(id -u)" = 0 ] || echo sudo)

demo: $(VENV)/.app $(STATIC)
	@$(LARK) demo

demo-reset: $(VENV)/.app $(STATIC)
	@$(LARK) demo --reset

dev: $(VENV)/.dev $(NODE_DONE)
	@trap 'kill 0' EXIT; $(LARK) demo & cd frontend && npm run dev

build: $(STATIC)

# A wheel that carries the built screens: it installs without Node and without this tree.
dist: $(VENV)/.dev $(STATIC)
	rm -rf build dist
	$(VENV)/bin/pip wheel --quiet --no-deps -w dist .
	rm -rf build

# What a change is tried with while it is made: all of the checks, the quick tests, a walk through each stage.
test: checks
	$(PYTEST) -m "not slow"

# What every change goes through before it is taken: all tests but the soak.
test-all: checks
	$(PYTEST)

# The two halves side by side: each has a processor to itself.
checks: $(VENV)/.dev $(STATIC) /usr/bin/chromium
	@$(MAKE) --no-print-directory -j2 --output-sync check-python check-screens

check-python: $(VENV)/.dev
	$(VENV)/bin/ruff format --check src tests
	$(VENV)/bin/ruff check src tests
	$(VENV)/bin/mypy
	$(VENV)/bin/lint-imports

check-screens: $(NODE_DONE)
	cd frontend && npm run --silent format && npm run --silent lint && npm run --silent types && npm run --silent test

# What takes long, in four parts; every change goes through one of them, another one each day.
RACE_S ?= 600
STARTS ?= 300
CUTS ?= 200
REQUESTS ?= 300
SOAK = LARK_SOAK=1 PYTHONDONTWRITEBYTECODE= $(VENV)/bin/pytest -n 2 --dist worksteal --durations 10 --timeout 7200
soak: soak-0 soak-1 soak-2 soak-3

# Races, fresh starts, kills of writers and of servers.
soak-0: $(VENV)/.dev $(STATIC) /usr/bin/chromium
	LARK_RACE_S=$(RACE_S) LARK_STARTS=$(STARTS) LARK_SERVER_KILLS=10 $(SOAK) tests/soak/test_shape_race.py tests/soak/test_starts.py tests/soak/test_kills.py tests/cli/test_watched.py tests/browser/test_watched.py

# Many more drawn plans, cases, fixes and truths.
soak-1: $(VENV)/.dev
	LARK_TRIES=1000 LARK_SEEDS=100 LARK_CASES=840 LARK_FLIGHTS=20 $(SOAK) tests/plans tests/cases tests/core/postflight tests/core/practice tests/core/homeward

# Mutants of the core, readings looked up in the field tables, networks that are cut.
soak-2: $(VENV)/.dev $(STATIC) /usr/bin/chromium
	LARK_READINGS=3000 LARK_CUTS=$(CUTS) $(SOAK) tests/soak/test_mutants.py tests/core/test_field_tables.py tests/browser/test_cuts.py

# Requests, files, and the screens that take long.
soak-3: $(VENV)/.dev $(STATIC) /usr/bin/chromium
	LARK_REQUESTS=$(REQUESTS) LARK_FILES=700 LARK_EXTREME=30 $(SOAK) tests/web/test_generated.py tests/formats/test_damaged.py \
		tests/browser/test_extreme.py tests/browser/test_screens.py tests/browser/test_homeward.py tests/browser/test_practice.py

bench: $(VENV)/.dev
	$(PY) -m tests.bench

screenshots: $(VENV)/.dev $(STATIC) /usr/bin/chromium
	$(PY) -m tests.browser.screenshots docs/screenshots

# The OpenAPI document and the types made from it; a test refuses a stale one.
api: $(VENV)/.dev $(NODE_DONE)
	$(LARK) openapi > frontend/src/api/openapi.json
	cd frontend && npm run --silent api

format: $(VENV)/.dev $(NODE_DONE)
	$(VENV)/bin/ruff check --fix src tests
	$(VENV)/bin/ruff format src tests
	cd frontend && npm run --silent format:write

locks:
	$(VENV)/bin/pip install pip-tools
	$(VENV)/bin/pip-compile -q --strip-extras --generate-hashes --allow-unsafe --no-emit-index-url --no-emit-find-links \
		--no-emit-trusted-host --no-annotate --no-header -o requirements.lock pyproject.toml
	$(VENV)/bin/pip-compile -q --extra dev --strip-extras --generate-hashes --allow-unsafe --no-emit-index-url \
		--no-emit-find-links --no-emit-trusted-host --no-annotate --no-header -c requirements.lock \
		-o requirements-dev.lock pyproject.toml

# Known vulnerabilities of what the lock files name; asks public databases, and says so where it cannot.
audit:
	$(VENV)/bin/pip install --quiet pip-audit
	$(VENV)/bin/pip-audit --strict --require-hashes --disable-pip -r requirements.lock
	cd frontend && npm audit --omit=dev

clean:
	rm -rf $(VENV) frontend/node_modules src/zealous_lark/web/static

$(VENV)/bin/python:
	@python3 -m venv $(VENV) || { $(SUDO) apt-get update && $(SUDO) apt-get install -y python3-venv && python3 -m venv $(VENV); }

$(VENV)/.app: requirements.lock pyproject.toml | $(VENV)/bin/python
	@$(VENV)/bin/pip install --quiet --no-deps --require-hashes -r requirements.lock
	@$(VENV)/bin/pip install --quiet --no-deps -e .
	@touch $@

$(VENV)/.dev: requirements-dev.lock $(VENV)/.app
	@$(VENV)/bin/pip install --quiet --no-deps --require-hashes -r requirements-dev.lock
	@touch $@

$(NODE_DONE): frontend/package-lock.json
	@cd frontend && npm ci --silent --no-progress
	@touch $@

$(STATIC): $(NODE_DONE) $(FRONTEND)
	@cd frontend && npm run --silent build -- --logLevel warn
	@touch $@

/usr/bin/chromium:
	$(SUDO) apt-get update
	$(SUDO) env DEBIAN_FRONTEND=noninteractive apt-get install -y chromium
