# The whole workflow, one word each. Every word makes .venv by itself when it is not there.
VENV := .venv
PY := $(VENV)/bin/python
READY := $(VENV)/.ready

.PHONY: demo test lint package bench fuzz kills soak screenshots titles assets schema system needs clean

demo: needs $(READY)
	$(PY) -m rovix demo

test: needs $(READY)
	$(PY) -m pytest -n 2 --dist loadfile

lint: $(READY)
	$(VENV)/bin/ruff check src tests tools
	$(VENV)/bin/ruff format --check src tests tools
	$(VENV)/bin/mypy
	$(VENV)/bin/lint-imports

# A wheel in build/dist, to be installed by `pipx install`.
package: $(READY)
	rm -rf build/dist build/lib build/bdist.*
	$(PY) -m pip wheel --quiet --disable-pip-version-check --no-deps --no-build-isolation -w build/dist .
	@ls build/dist

# Also kept in build/bench.json; takes about twenty minutes, and wants a machine that does nothing else.
bench: needs $(READY)
	$(PY) tools/bench.py
	$(PY) tools/bench_words.py
	$(PY) tools/bench_keys.py
	$(PY) tools/bench_moves.py
	$(PY) tools/bench_effects.py
	$(PY) tools/bench_window.py
	$(PY) tools/bench_playing.py
	$(PY) tools/bench_checks.py
	$(PY) tools/bench_long.py
	$(PY) tools/bench_matting.py

# Files changed at random, each tried within 10 s and 2 GB; takes most of an hour.
fuzz: needs $(READY)
	PYTHONPATH=tests $(PY) tools/fuzz.py

# Processes killed at random moments of saving, exporting and editing.
kills: needs $(READY)
	PYTHONPATH=tests:tests/desktop $(PY) tools/kills.py

# Half an hour of random work, and the memory of all processes meanwhile.
soak: needs $(READY)
	QT_QPA_PLATFORM=offscreen PYTHONPATH=tests:tests/desktop $(PY) tools/soak.py

screenshots: needs $(READY)
	$(PY) tools/screenshots.py

# Made again only when the designs change; the results are committed.
titles: needs $(READY)
	$(PY) tools/make_titles.py

# Made again only when the generator changes; the results are committed.
assets: needs $(READY)
	$(PY) -m rovix.demo.generate

schema: $(READY)
	$(PY) -m rovix.formats.schema docs/rovix-project.schema.json

system:
	@sh tools/system.sh install

needs:
	@sh tools/system.sh check

$(READY): pyproject.toml
	python3 -m venv $(VENV)
	$(PY) -m pip install --quiet --disable-pip-version-check -e '.[dev]'
	@touch $(READY)

clean:
	rm -rf build $(VENV)
