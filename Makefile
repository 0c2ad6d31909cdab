# Odd Sum: everything a fresh machine needs is behind `make demo` and `make test`.
PYTHON ?= python3
VENV   ?= .venv
BIN    := $(VENV)/bin
PIP    := $(BIN)/python -m pip --disable-pip-version-check

.PHONY: demo test soak bench accuracy screenshots views clean python-check tmux node

demo: $(VENV)/.installed
	@$(BIN)/oddsum demo

test: $(VENV)/.installed-test tmux node
	$(BIN)/ruff check src tests benchmarks workshop
	$(BIN)/ruff format --check src tests benchmarks workshop
	$(BIN)/mypy
	@# Started by the thousand: compiled once, also where the machine keeps no bytecode of what it runs.
	$(BIN)/python -m compileall -q src
	$(BIN)/python -m pytest -n 4 --dist worksteal

# What runs longer than a test may: random programs, plans, keys, messages and kills, from other seeds.
MINUTES ?= 30
soak: $(VENV)/.installed-test tmux node
	@$(BIN)/python workshop/soak.py --minutes $(MINUTES) $(SOAK)

# The text snapshots of the main views; look at the difference before you keep it.
views: $(VENV)/.installed-test
	@ODDSUM_NEW_VIEWS=1 $(BIN)/python -m pytest -q -n 2 tests/tui/test_views.py

bench: $(VENV)/.installed
	@$(BIN)/python benchmarks/bench.py $(BENCH)

accuracy: $(VENV)/.installed
	@$(BIN)/python benchmarks/pinpoint/accuracy.py $(ACCURACY)

screenshots: $(VENV)/.installed
	@$(PIP) install --quiet --constraint constraints.txt --editable '.[pictures]'
	@$(BIN)/python workshop/screenshots.py

python-check:
	@$(PYTHON) -c 'import sys; sys.exit(sys.version_info < (3, 11))' || { \
	  echo "Odd Sum needs Python 3.11 or newer; $(PYTHON) is older. Say which one to use: make PYTHON=python3.12 demo"; exit 1; }

$(VENV)/bin/python: | python-check
	@$(PYTHON) -m venv $(VENV) || { echo "Python cannot make a virtual environment here. On Debian and Ubuntu: apt-get install python3-venv"; exit 1; }

$(VENV)/.installed: pyproject.toml constraints.txt | $(VENV)/bin/python
	@$(PIP) install --quiet --constraint constraints.txt --editable .
	@touch $@

$(VENV)/.installed-test: pyproject.toml constraints.txt | $(VENV)/bin/python
	@$(PIP) install --quiet --constraint constraints.txt --editable '.[test]'
	@touch $(VENV)/.installed $@

tmux:
	@command -v tmux >/dev/null || { \
	  if [ "$$(id -u)" = 0 ] && command -v apt-get >/dev/null; then \
	    apt-get update -qq && apt-get install -y -qq tmux >/dev/null; \
	  else echo "The terminal tests need tmux: apt-get install tmux, or brew install tmux"; exit 1; fi; }

node:
	@command -v node >/dev/null || command -v nodejs >/dev/null || { \
	  if [ "$$(id -u)" = 0 ] && command -v apt-get >/dev/null; then \
	    apt-get update -qq && apt-get install -y -qq nodejs >/dev/null; \
	  else echo "The tests of JavaScript need node 18 or newer: apt-get install nodejs, or brew install node"; exit 1; fi; }

clean:
	rm -rf $(VENV) .mypy_cache .ruff_cache .pytest_cache .hypothesis
