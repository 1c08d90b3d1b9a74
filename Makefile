# Everything sets itself up on a machine with Python 3.11, Node 20, npm, make and apt. Second runs skip what is done.
SHELL := /bin/bash
# What is imported is compiled then, and kept: to compile all that is installed would take twenty seconds more.
unexport PYTHONDONTWRITEBYTECODE
.DEFAULT_GOAL := help
PY := .venv/bin
STAMPS := .stamps
# One more than there are cores: the tests of a browser wait for it most of the while.
WORKERS ?= -n 3 --dist worksteal
WEB := $(shell find web/src web/index.html web/*.config.* web/tsconfig.json -type f 2>/dev/null)
STATIC := src/isotact/api/static/index.html

.PHONY: help demo serve wheel test before-tests test-deep soak mutants contract lint python-lint web-lint unit web-unit python-unit
.PHONY: count bench client screenshots clean

help: ## What there is
	@grep -E '^[a-z-]+:.*##' Makefile | sed -E 's/:.*## /\t/' | expand -t 14

demo: $(STAMPS)/run $(STATIC) ## Set up, build and serve the demo at http://127.0.0.1:8000
	@$(PY)/isotact demo

serve: $(STAMPS)/run $(STATIC) ## The same without the demo rigs
	@$(PY)/isotact serve

wheel: $(STAMPS)/run $(STATIC) ## Build a wheel, with the front end in it, into build/
	@$(PY)/pip wheel -q --no-deps --no-build-isolation --wheel-dir build .

test: ## All linters, type checks and tests, the browser's included
	@$(MAKE) -j2 --output-sync --no-print-directory before-tests
	@$(MAKE) --no-print-directory python-unit

before-tests: lint web-unit $(STAMPS)/chromium $(STATIC)

lint: python-lint web-lint

python-lint: $(STAMPS)/dev
	$(PY)/ruff format --check -q setup.py src tests tools bench
	$(PY)/ruff check -q setup.py src tests tools bench
	$(PY)/mypy
	$(PY)/lint-imports --no-cache > build/imports.txt || { cat build/imports.txt; exit 1; }

web-lint: client
	@git diff --exit-code --stat -- web/src/api/generated.ts || { echo "The API client is out of date: run 'make client' and commit it."; exit 1; }
	cd web && npm run -s types && npm run -s lint

unit: web-unit python-unit

web-unit: $(STAMPS)/web
	cd web && npm run -s test

python-unit: $(STAMPS)/dev $(STAMPS)/chromium $(STATIC)
	$(PY)/python -m pytest $(WORKERS)

test-deep: $(STAMPS)/dev ## Draw new random rigs, with a seed that is printed; SEED=N repeats, RIGS=N sets how many
	$(PY)/python tools/deep.py --seed $(or $(SEED),$$RANDOM) --rigs $(or $(RIGS),400)

soak: $(STAMPS)/dev $(STATIC) ## Kill it, flood it, fill its disk: the table that stands in docs/reliability.md
	$(PY)/python tools/soak.py

mutants: $(STAMPS)/dev ## Break the product on purpose, a line at a time: no test may miss it
	$(PY)/python tools/mutants.py

contract: $(STAMPS)/dev ## Whatever can be made up, sent to every route by every role, for ten minutes
	$(PY)/python tools/contract.py

client: $(STAMPS)/dev $(STAMPS)/web ## Generate the front end's API client from the API
	@$(PY)/python tools/openapi.py build/openapi.json
	@cd web && npm run -s client > /dev/null

count: ## Lines of code and of tests, and their share
	@python3 tools/count.py

bench: $(STAMPS)/dev $(STATIC) ## Measure, and print the table that stands in docs/benchmarks.md
	@$(PY)/python -m pytest bench -q --benchmark-quiet -p no:cacheprovider --benchmark-json=build/bench.json
	@$(PY)/python tools/bench_table.py build/bench.json

screenshots: $(STAMPS)/dev $(STAMPS)/chromium $(STATIC) ## Take the pictures in docs/screenshots afresh
	@$(PY)/python tools/screenshots.py

clean: ## Take away what was built, not the data
	rm -rf .venv .stamps build web/node_modules src/isotact/api/static

$(STAMPS)/run: requirements/run.lock requirements/build.lock pyproject.toml
	@mkdir -p $(STAMPS) build
	@test -x $(PY)/python || python3 -m venv .venv
	@$(PY)/python -m pip install -q --no-compile --disable-pip-version-check --require-hashes -r requirements/run.lock -r requirements/build.lock
	@$(PY)/python -m pip install -q --disable-pip-version-check --no-build-isolation --no-deps -e .
	@touch $@

$(STAMPS)/dev: $(STAMPS)/run requirements/dev.lock
	@$(PY)/python -m pip install -q --no-compile --disable-pip-version-check --require-hashes -r requirements/dev.lock
	@touch $@

$(STAMPS)/web: web/package-lock.json
	@mkdir -p $(STAMPS)
	@cd web && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

$(STATIC): $(STAMPS)/web $(WEB)
	@cd web && npm run -s build > /dev/null
	@touch $@

$(STAMPS)/chromium:
	@mkdir -p $(STAMPS)
	@test -x /usr/bin/chromium -a -x /usr/bin/ngspice || { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium ngspice > /dev/null; }
	@touch $@
