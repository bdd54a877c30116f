# Two commands do everything on a fresh machine: make demo, make test.
BIN := .venv/bin

.PHONY: demo demo-shot test search lint setup words schemas bench performance shots fuzz monkey mutants access install uninstall deb tarball wheel freeze packages lock clean

demo: setup
	@if [ -z "$$DISPLAY$$WAYLAND_DISPLAY" ] && [ -z "$$QT_QPA_PLATFORM" ]; then \
		echo "waltzmark: there is no display here to open a window on."; \
		echo "           'make demo-shot' draws the demo without one, into demo.png."; \
		exit 1; \
	fi
	$(BIN)/waltzmark --demo

demo-shot: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/waltzmark --demo --shot demo.png
	@echo "waltzmark: the demo is drawn in demo.png"

# One process more than there are cores, as some tests wait; a process that dies is replaced by another.
TESTERS := $(shell expr $$(nproc) + 1)
# Tests start many processes, which find their bytecode in build/ also where none is to be written beside the sources.
TESTING := PYTHONDONTWRITEBYTECODE= PYTHONPYCACHEPREFIX=$(CURDIR)/build/bytecode QT_QPA_PLATFORM=offscreen

test: lint
	$(TESTING) $(BIN)/python -m pytest -n $(TESTERS) --dist worksteal

# The property tests with other examples, so many ROUNDS; what is found becomes an example or a test.
ROUNDS ?= 5
search: setup
	for round in $$(seq $(ROUNDS)); do \
		$(TESTING) $(BIN)/python -m pytest -n $(TESTERS) --dist worksteal \
			--hypothesis-profile=search -m hypothesis || exit 1; \
	done

lint: setup
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports

setup:
	@sh scripts/setup.sh

# Finds every text that can be translated, and brings the catalogues up to date.
words: setup
	$(BIN)/python scripts/words.py

# The schemas of what the commands print, from its types.
schemas: setup
	$(BIN)/python scripts/schemas.py

bench: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python benchmarks/run.py
	QT_QPA_PLATFORM=offscreen $(BIN)/python benchmarks/rooms.py
	QT_QPA_PLATFORM=offscreen $(BIN)/python benchmarks/returns.py
	QT_QPA_PLATFORM=offscreen $(BIN)/python benchmarks/sides.py
	QT_QPA_PLATFORM=offscreen $(BIN)/python benchmarks/fits.py
	QT_QPA_PLATFORM=offscreen $(BIN)/python benchmarks/drafts.py
	QT_QPA_PLATFORM=offscreen $(BIN)/python benchmarks/films.py
	QT_QPA_PLATFORM=offscreen $(BIN)/python benchmarks/pages.py
	QT_QPA_PLATFORM=offscreen $(BIN)/python benchmarks/plotting.py

# The same, kept in docs/performance.md.
performance: setup
	$(BIN)/python scripts/performance.py

shots: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python scripts/screenshots.py

# Damaged input for ten minutes, or so many SECONDS; what is found becomes a test.
SECONDS ?= 600
fuzz: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m tests.fuzz --seconds $(SECONDS)

# Random acts in the real window, so many ACTS, each monkey in a process of its own; MONKEY=/path/to/python for another.
ACTS ?= 50000
MONKEY ?= $(BIN)/python
monkey: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m tests.monkey --acts $(ACTS) --python $(MONKEY)

# Meets the window as a screen reader does, over a session bus of its own; says what it needs of the system.
access: setup
	sh scripts/access.sh

# Whether the core's tests notice small changes to it: a sample, which takes a while.
mutants: setup
	$(BIN)/python -m pip install --quiet 'cosmic-ray>=8.3'
	$(BIN)/python scripts/mutants.py

# Installs the command, the desktop entry, the icon, the AppStream data and the .waltz type for this user.
install: setup
	sh packaging/install.sh install

uninstall:
	sh packaging/install.sh uninstall

# What strangers install, into build/dist.
deb tarball: freeze
	$(BIN)/python packaging/build.py $@

freeze: setup
	$(BIN)/python -m pip install --quiet 'pyinstaller>=6.10'
	$(BIN)/python packaging/build.py freeze

wheel: setup
	$(BIN)/python packaging/build.py wheel

# Builds all of them, and tries each where nothing else is installed; needs root.
packages: deb tarball wheel
	$(BIN)/python -m pip install --quiet 'twine>=6'
	$(BIN)/python -m twine check --strict build/dist/*.whl
	sh packaging/try_wheel.sh build/dist/*.whl
	sh packaging/try.sh build/dist/*_amd64.deb bookworm trixie

# Pins anew every dependency for all supported Pythons; needs uv.
lock:
	uv pip compile --universal --python-version 3.11 --generate-hashes --no-emit-index-url --no-annotate \
		--no-header --group dev pyproject.toml -o requirements.lock

clean:
	rm -rf .venv .mypy_cache .ruff_cache .pytest_cache .hypothesis demo.png
