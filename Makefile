# Two commands do all the set-up: `make demo` and `make test`.
SHELL := /bin/bash
.SHELLFLAGS := -eu -o pipefail -c
PYTHON ?= python3
BIN := .venv/bin
S := .stamps
SITE := src/humble_sum/server/site/index.html
# Compiled once and kept: the tests start some two hundred processes.
unexport PYTHONDONTWRITEBYTECODE
DATA ?= .data
PORT ?= 8440
WEB_SOURCES := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/package.json web/vite.config.ts web/thirdParty.ts

.PHONY: demo tools test installed mutants soak bench shots build check check-python check-types check-lint check-style check-dead style types unit browser packages clean

demo: $(S)/run $(SITE)
	@tools/install_packages.sh pdf
	@$(BIN)/humble-sum demo --data $(DATA) --port $(PORT)

test: installed
	@$(MAKE) -s check unit browser

# What comes from three registries comes at once.
installed:
	@$(MAKE) -s -j3 $(S)/dev $(S)/web packages

build: $(S)/dev $(SITE)
	@$(BIN)/python -m hatchling build -t wheel -d dist

# --- installs, each once per lock file ---------------------------------------------------
$(BIN)/python:
	@$(PYTHON) -c 'import sys; sys.exit("Humble Sum needs Python 3.11 or newer") if sys.version_info < (3, 11) else None'
	@$(PYTHON) -m venv .venv

# hatchling and editables come from the lock too, so the editable install needs no isolation. What is never
# imported need not be compiled.
$(S)/run: requirements/run.lock pyproject.toml | $(BIN)/python
	@echo "Installing Python packages…"
	@$(BIN)/python -m pip install -qq --no-compile --disable-pip-version-check --require-hashes -r requirements/run.lock
	@$(BIN)/python -m pip install -qq --disable-pip-version-check --no-deps --no-build-isolation -e .
	@mkdir -p $(S) && touch $@

$(S)/dev: requirements/dev.lock $(S)/run
	@echo "Installing the tools for tests…"
	@$(BIN)/python -m pip install -qq --no-compile --disable-pip-version-check --require-hashes -r requirements/dev.lock
	@mkdir -p $(S) && touch $@

$(S)/web: web/package-lock.json web/.npmrc
	@command -v npm >/dev/null || { echo "Node.js 20 or newer with npm is needed: apt-get install nodejs npm"; exit 1; }
	@echo "Installing front-end packages…"
	@cd web && npm ci --silent
	@mkdir -p $(S) && touch $@

$(SITE): $(S)/web $(WEB_SOURCES)
	@echo "Building the front end…"
	@cd web && npm run --silent build -- --logLevel warn
	@touch $@

# Everything for tests, checks and pictures.
tools: $(S)/dev $(SITE) packages

packages:
	@tools/install_packages.sh tests

# --- checks ------------------------------------------------------------------------------
# Two at once, the longest first.
check: $(S)/dev $(S)/types
	@$(MAKE) -s -j2 --output-sync check-lint check-python check-types check-style check-dead

check-python:
	@$(BIN)/ruff check -q . && $(BIN)/ruff format -q --check . && echo "ruff: clean"
	@$(BIN)/mypy --no-error-summary && echo "mypy: clean"
	@$(BIN)/lint-imports --no-logo >.stamps/imports.txt 2>&1 || { cat .stamps/imports.txt; exit 1; }; echo "imports: one way"

check-types:
	@cd web && npm run --silent types && echo "tsc: clean"

check-lint:
	@cd web && npm run --silent lint && echo "eslint: clean"

check-style:
	@cd web && npm run --silent style && echo "prettier: clean"

check-dead: $(S)/dev
	@$(BIN)/python -m tools.dead_code && cd web && npm run --silent dead && echo "dead code: none"

# The client's types come from the published OpenAPI file.
$(S)/types: $(S)/web src/humble_sum/server/openapi.json
	@cd web && npm run --silent api >/dev/null
	@touch $@

unit: $(S)/dev $(SITE) packages
	@$(BIN)/python -m tests core exchange records server soak cli cluster docs

browser: $(S)/dev $(SITE) packages
	@$(BIN)/python -m tests browser

# The long form of tests/soak: SOAK times as much, one sort after another, with counts printed.
SOAK ?= 250
soak: $(S)/dev
	@for each in soak/test_kills soak/test_requests exchange/test_guises exchange/test_spoils \
	  core/intake/test_decisions core/footing/test_hard soak/test_bytes; do \
	  SOAK=$(SOAK) $(BIN)/python -m tests $$each.py; done

bench: $(S)/dev $(SITE) packages
	@$(BIN)/python -m bench

# Changes one thing at a time in what counts most, and prints what no test notices. Not in `make test`.
mutants: $(S)/dev
	@$(BIN)/python -m tools.mutants

shots: $(S)/dev $(SITE) packages
	@$(BIN)/python -m tools.take_shots

clean:
	@rm -rf .venv .stamps dist web/node_modules src/humble_sum/server/site
