# make demo   set up, build, make the demo school, serve it on http://127.0.0.1:8000
# make test   set up and run every test

unexport PYTHONDONTWRITEBYTECODE # or every process that is begun compiles everything anew
PY := .venv/bin/python
# the system's own Python, where it is 3.11: Debian builds it with profile-guided optimisation, others often do not
PYTHON ?= $(firstword $(wildcard /usr/bin/python3.11) python3)
UV := 0.13.9
PORT ?= 8000
WEB := $(shell find web/src -type f) web/index.html web/vite.config.ts web/package.json

.PHONY: setup build demo serve dev test test-fast lint format types shots evaluate mutants floors bench bench-load bench-pages bench-room bounds chaos wheel clean

setup: .make/python .make/node

.make/python: requirements-dev.txt pyproject.toml
	@mkdir -p .make
	test -x $(PY) || $(PYTHON) -m venv .venv >/dev/null 2>&1 || python3 -m venv --clear .venv
	$(PY) -m pip install -q uv==$(UV) 2>/dev/null \
	  && .venv/bin/uv pip install -q --system-certs --require-hashes --python $(PY) -r requirements-dev.txt \
	  || $(PY) -m pip install -q --require-hashes -r requirements-dev.txt
	$(PY) -m pip install -q --no-deps --no-build-isolation -e .
	@touch $@

.make/node: web/package-lock.json web/.npmrc
	@mkdir -p .make
	cd web && npm ci --silent --no-progress
	@touch $@

.make/web: .make/node $(WEB)
	cd web && npx vite build --logLevel warn
	@touch $@

build: .make/python .make/web

demo: build
	.venv/bin/first-loop demo --port $(PORT)

serve: build
	.venv/bin/first-loop serve --port $(PORT)

# the API on 8000 with the demo school, and the front end with hot reload on 5173
dev: setup
	.venv/bin/first-loop demo & cd web && npx vite; kill %1

.make/chromium:
	@mkdir -p .make
	@if [ -x /usr/bin/chromium-headless-shell ] || [ -x /usr/bin/chromium ]; then :; \
	elif [ "$$(id -u)" = 0 ] && command -v apt-get >/dev/null; then \
	  apt-get update -qq; export DEBIAN_FRONTEND=noninteractive; \
	  apt-get install -y -qq chromium-headless-shell || apt-get install -y -qq chromium; \
	else \
	  echo "The browser tests need Chromium: sudo apt-get install chromium-headless-shell (or chromium)"; exit 1; \
	fi
	@touch $@

test: build .make/chromium
	cd web && npm test --silent
	$(PY) -m pytest -n 3 --dist worksteal -p no:benchmark

test-fast: build
	cd web && npm test --silent
	$(PY) -m pytest -n 2 -p no:benchmark -m "not browser"

types: .make/python .make/node
	$(PY) -m firstloop.api.server.openapi > openapi.json
	cd web && npx openapi-typescript ../openapi.json -o src/api/schema.d.ts

lint: setup
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	.venv/bin/mypy
	.venv/bin/lint-imports
	cd web && npx tsc --noEmit && npx biome ci .
	$(MAKE) --no-print-directory types && git diff --exit-code --stat -- web/src/api/schema.d.ts

format: setup
	.venv/bin/ruff check --fix . ; .venv/bin/ruff format .
	cd web && npx biome check --write .

shots: build .make/chromium
	$(PY) -m tests.browser.shots docs/screenshots

evaluate: .make/python
	.venv/bin/first-loop evaluate --write docs/evaluation.md

# damage the checker on purpose, forty times: does its corpus notice? About ten minutes
mutants: .make/python
	$(PY) -m tests.mutants

# what the corpus holds the checker to, written anew once it has got better; read the difference
floors: .make/python
	$(PY) -m tests.corpus.floors --write

bench: build .make/chromium
	$(PY) -m pytest benchmarks -q -s --benchmark-columns=median,iqr,max,rounds --benchmark-sort=fullname --benchmark-disable-gc
	@$(PY) -m tests.browser.pen_latency

# thirty children writing at once, beside backups, exports and a large ink file; about a minute and a half
bounds: build
	$(PY) -m benchmarks.plan_bounds

bench-pages: build
	$(PY) -m benchmarks.pages

# what a room of tablets waits for; MEMORY=memory for what ten thousand attempts leave behind
bench-room: build
	$(PY) -m benchmarks.room $(MEMORY)

bench-load: build
	$(PY) -m benchmarks.load

# ten minutes of kills, locks, a full disk, restores; SECONDS= and SEED= for others
chaos: build
	$(PY) -m tests.chaos $(or $(SECONDS),600) $(SEED)

wheel: build
	$(PY) -m build --wheel --no-isolation

clean:
	rm -rf .venv .make web/node_modules src/firstloop/web dist data
