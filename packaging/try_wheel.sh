#!/bin/sh
# Tries the wheel as pipx installs it, with no index: try_wheel.sh WHEEL
set -eu
wheel=$(readlink -f "$1")
python=${PYTHON:-.venv/bin/python}
work=$(mktemp -d "${TMPDIR:-/tmp}/waltzmark-wheel.XXXXXX")
trap 'rm -rf "$work"' EXIT
"$python" -m pip wheel --quiet -w "$work/wheelhouse" "$wheel" pip  # which pipx brings up to date first
"$python" -m venv "$work/venv"
"$work/venv/bin/pip" install --quiet pipx
export PIPX_HOME="$work/pipx" PIPX_BIN_DIR="$work/bin" PIPX_MAN_DIR="$work/man" PIP_NO_INDEX=1 PIP_FIND_LINKS="$work/wheelhouse"
"$work/venv/bin/pipx" install --quiet waltzmark
cd "$work"
bin/waltzmark --version
form=$(find "$work/pipx" -name ferry-round.waltz | head -n 1)
QT_QPA_PLATFORM=offscreen bin/waltzmark --demo --shot demo.png
bin/waltzmark check "$form" > check.txt || test $? = 1
LANGUAGE=es bin/waltzmark sides "$form" | head -n 1
ls -s demo.png check.txt
echo "the wheel works without an index"
