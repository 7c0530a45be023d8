# Every target brings what it needs, also in a fresh clone.
SHELL := /bin/bash
PYTHON ?= python3
VENV ?= .venv
PY := $(VENV)/bin/python
UV := $(VENV)/bin/uv
WEB_APP := src/fair_spindle/web_app/index.html
CHROMIUM := chromium-headless-shell chromium
WEB_SOURCES := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts web/package-lock.json

.PHONY: setup web demo dist test check shots bench mutants hidden blind types format browser

setup: $(VENV)/.ready $(WEB_APP)
	@$(PY) -m compileall -q src

$(VENV)/.ready: requirements.lock pyproject.toml
	test -x $(PY) || $(PYTHON) -m venv $(VENV)
	$(PY) -m pip install --quiet uv==0.13.9
	$(UV) pip install --quiet --python $(PY) --compile-bytecode --require-hashes -r requirements.lock
	$(UV) pip install --quiet --python $(PY) --no-deps --no-build-isolation -e .
	touch $@

web/node_modules/.ready: web/package-lock.json web/.npmrc
	cd web && npm ci --no-audit --no-fund --loglevel=error
	touch $@

$(WEB_APP): web/node_modules/.ready $(WEB_SOURCES)
	cd web && npm run build --silent

web: $(WEB_APP)

demo: setup
	$(VENV)/bin/fair-spindle demo $(ARGS)

browser:
	@command -v $(CHROMIUM) > /dev/null || { apt-get update -qq; for one in $(CHROMIUM); do \
	DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $$one fonts-liberation && break; done; }

# A worker of the suite keeps its linear algebra to its own core; what pytest made of the tests is kept for next time.
test: export OPENBLAS_NUM_THREADS := 1
test: export PYTHONDONTWRITEBYTECODE :=
test: setup browser
	cd web && npm test --silent
	$(PY) -m pytest -n auto --dist load --maxschedchunk 4

check: setup
	$(VENV)/bin/ruff check .
	$(VENV)/bin/ruff format --check .
	$(VENV)/bin/mypy
	$(PY) tools/write_types.py --check
	cd web && npm run check --silent

types: $(VENV)/.ready web/node_modules/.ready
	$(PY) tools/write_types.py

format: setup
	$(VENV)/bin/ruff check --fix .
	$(VENV)/bin/ruff format .
	cd web && npm run format --silent

shots: setup browser
	$(PY) tools/take_shots.py

dist: setup
	$(PY) -m hatchling build -t wheel

mutants: setup
	$(PY) tools/mutants.py
	$(PY) tools/mutants.py --swaps 30

blind: setup
	$(VENV)/bin/fair-spindle blind --cars 200

hidden: setup
	$(PY) tools/hidden_cars.py 100

bench: setup
	@missed=0; for bench in tools/bench*.py; do $(PY) $$bench || missed=1; done; exit $$missed
