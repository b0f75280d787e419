# The few verbs: demo, test, check, bench, lint, dev. Everything sets itself up first.
PY := .venv/bin/python
MANAGE := $(PY) server/manage.py
WEB_SOURCES := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts web/package.json

# compiled modules are kept, so that every process starts quicker
unexport PYTHONDONTWRITEBYTECODE

.PHONY: var/tests-demo demo test check bench bench-nest harden mutants mutants-web lint lint-python lint-web test-web dev setup browser types lock schema

demo: setup web/dist/.built
	$(MANAGE) upgrade
	$(MANAGE) load_demo
	ZYGON_MACHINES=laser=127.0.0.1:1,router=127.0.0.1:1 $(MANAGE) load_demo_jobs
	$(PY) scripts/demo.py

test: setup web/dist/.built browser
	$(MAKE) -j 2 --output-sync --no-print-directory lint-python lint-web test-web var/tests-demo
	$(PY) -m pytest -n 2 --dist worksteal --ignore tests/browser
	# one that fails runs once more, and the end says which (RERUN): a busy machine is no fault, but each of them is a race to be found
	ZYGON_TESTS_DEMO=var/tests-demo $(PY) -m pytest -n 2 --dist worksteal --reruns 1 -rR tests/browser

# the demo as browser tests find it, loaded while others lint
var/tests-demo: setup
	rm -rf $@
	ZYGON_VAR=$(CURDIR)/$@ ZYGON_DEMO=1 $(MANAGE) migrate --noinput -v 0 --skip-checks
	ZYGON_VAR=$(CURDIR)/$@ ZYGON_DEMO=1 $(MANAGE) load_demo --no-layouts --skip-checks

# between two edits: lint, and the tests that what changed since the last check reaches; the first one runs them all
check: lint
	cd web && npx vitest run --changed
	$(PY) -m pytest --testmon -n 2 --ignore tests/browser || test $$? -eq 5

bench: setup web/dist/.built browser
	$(PY) bench/run.py
	$(PY) bench/page.py

# the nesting engine against the packing solver, on the same instances in the same time
bench-nest: setup
	$(PY) bench/nest.py $(if $(SEED),--seed $(SEED))

# plants small mistakes and tells which no test catches: make mutants ROOM=zygon/cut, SINCE=main~20, SECONDS=600, SEED=2, MOST=60; see docs/testing.md
mutants: setup
	$(PY) -m scripts.mutants --room "$(ROOM)" --since "$(SINCE)" --seconds $(or $(SECONDS),0) --seed $(or $(SEED),1) --most $(or $(MOST),60) --each $(or $(EACH),15) $(if $(AGAIN),--again)

# the long form of what it withstands, with a line of docs/hardening.md for each part: make harden, or PARTS="kills hostile"
harden: setup web/dist/.built
	$(PY) -m scripts.harden $(PARTS)

# the same for the interface's state and lib, by a mutation tester from the registry that is not installed otherwise
mutants-web: setup
	cd web && npm install --no-save @stryker-mutator/core@9.6.1 @stryker-mutator/vitest-runner@9.6.1 && npx stryker run

# its two halves side by side
lint: setup
	$(MAKE) -j 2 --output-sync --no-print-directory lint-python lint-web

lint-python:
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	.venv/bin/mypy
	PYTHONPATH=server .venv/bin/lint-imports

lint-web:
	cd web && npm run check

test-web:
	cd web && npm test

dev: setup
	cd web && npm run dev

setup: .venv/.ready .venv/.kernels web/node_modules/.ready

.venv/.ready: requirements-dev.lock pyproject.toml
	test -x $(PY) || python3 -m venv .venv
	$(PY) -m pip install -q --disable-pip-version-check --require-hashes -r requirements-dev.lock
	$(PY) -m pip install -q --disable-pip-version-check --no-deps --no-build-isolation -e .
	touch $@

# the nesting kernels, compiled once and kept under a hash of their module
.venv/.kernels: .venv/.ready zygon/nest/kernels.py
	rm -rf zygon/nest/__pycache__/kernels-*
	$(PY) -c "import zygon.nest.kernels"
	touch $@

web/node_modules/.ready: web/package-lock.json
	# not "npm ci": it refuses a lock that lacks other systems' optional binaries, which not every registry mirror has
	cd web && npm install --no-save --no-fund --no-audit
	touch $@

web/dist/.built: web/node_modules/.ready $(WEB_SOURCES)
	cd web && npm run build
	touch $@

browser:
	command -v chromium-headless-shell >/dev/null || command -v chromium >/dev/null || (apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium-headless-shell)

# the API's description and the interface's types; the design file's JSON Schema
types: setup
	$(PY) scripts/describe.py
	cd web && npm run types

lock:
	$(PY) -m pip install -q pip-tools
	CUSTOM_COMPILE_COMMAND='make lock' .venv/bin/pip-compile -q --generate-hashes --no-emit-index-url --no-emit-trusted-host --no-emit-find-links --strip-extras --allow-unsafe -o requirements-dev.lock requirements-dev.in
