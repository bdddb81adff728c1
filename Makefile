# Fine Batch: two commands do all on a fresh machine: `make demo` and `make test`.
SHELL := /bin/bash
.DEFAULT_GOAL := help
VENV := .venv
BIN := $(VENV)/bin
STAMPS := build/stamps
UI_FILES := $(shell find ui/src ui/public -type f 2>/dev/null) ui/index.html ui/vite.config.ts ui/scripts/fonts.mjs
CHROMIUM ?= /usr/bin/chromium
# Modules are kept compiled, whatever the machine is set to: each start, and each server of a test, reads them.
export PYTHONDONTWRITEBYTECODE :=

.PHONY: help setup setup-dev demo run test check format bench mutants torture fit api shots chromium clean

help: ## Say what each command does
	@grep -hE '^[a-z-]+:.*## ' $(MAKEFILE_LIST) | sed -E 's/^([a-z-]+):.*## (.*)/  make \1\t\2/' | expand -t 20

$(VENV)/bin/python:
	@scripts/need.sh
	@echo "Setting up Python…"
	@python3 -m venv $(VENV)

$(STAMPS)/run: requirements/run.lock pyproject.toml | $(VENV)/bin/python
	@scripts/install.sh requirements/run.lock
	@mkdir -p $(STAMPS) && touch $@

$(STAMPS)/dev: requirements/dev.lock pyproject.toml | $(VENV)/bin/python
	@scripts/install.sh requirements/dev.lock
	@mkdir -p $(STAMPS) && touch $@ $(STAMPS)/run

$(STAMPS)/mutants: requirements/mutants.lock $(STAMPS)/dev
	@scripts/install.sh requirements/mutants.lock
	@touch $@

$(STAMPS)/npm: ui/package-lock.json ui/package.json
	@scripts/need.sh
	@echo "Setting up the interface…"
	@cd ui && ../scripts/again.sh 600 npm ci --no-audit --no-fund --loglevel=error
	@mkdir -p $(STAMPS) && touch $@

$(STAMPS)/ui: $(STAMPS)/npm $(UI_FILES)
	@cd ui && ../scripts/again.sh 240 npm run --silent build -- --logLevel warn
	@mkdir -p $(STAMPS) && touch $@

setup: $(STAMPS)/run $(STAMPS)/ui ## Prepare .venv and the built interface

setup-dev: $(STAMPS)/dev $(STAMPS)/ui ## The same, with what tests and checks need

demo: setup ## Start with the demo data, in a data file of its own
	@$(BIN)/finebatch demo

run: setup ## Start on your own data file
	@$(BIN)/finebatch serve

chromium:
	@scripts/chromium.sh $(CHROMIUM)

test: setup-dev chromium check ## Every check and every test
	@cd ui && ../scripts/again.sh 400 npm test --silent -- --reporter=dot
	@$(BIN)/pytest -n 2

check: setup-dev ## Style, types, layers, and that generated files are fresh
	@$(BIN)/ruff check . && $(BIN)/ruff format --check --quiet .
	@$(BIN)/mypy
	@$(BIN)/lint-imports --no-cache > build/layers.txt || { cat build/layers.txt; exit 1; }
	@$(BIN)/python scripts/house.py --check > build/house.txt || { cat build/house.txt; exit 1; }
	@$(BIN)/python scripts/fit_models.py --check
	@scripts/api.sh --check
	@cd ui && npx biome check . && npx tsc --noEmit

format: setup-dev ## Put Python and TypeScript in the house's style
	@$(BIN)/ruff check --fix --quiet . ; $(BIN)/ruff format --quiet .
	@cd ui && npx biome check --write .

bench: setup-dev ## Measure predictions, plans, start-up and size
	@$(BIN)/python scripts/bench.py

mutants: setup-dev $(STAMPS)/mutants ## Plant small faults in the core, and say which no test notices
	@$(BIN)/python scripts/mutants.py

torture: setup-dev ## Kills, spoilt files, hostile requests, crowds; then all chance twenty times over
	@$(BIN)/python scripts/torture.py --minutes $${MINUTES:-15}
	@TORTURE=20 $(BIN)/pytest -n 2 -m chance --hypothesis-seed=$$RANDOM

fit: setup-dev ## Fit the models to the cases again
	@$(BIN)/python scripts/fit_models.py

api: $(STAMPS)/dev $(STAMPS)/npm ## Write the OpenAPI document and the interface's types again
	@scripts/api.sh

shots: setup-dev chromium ## Take the pictures of the main views again
	@$(BIN)/python scripts/shots.py

clean: ## Take away all that was set up, but no data
	@rm -rf $(VENV) build ui/node_modules src/finebatch/web/static
