#!/bin/sh
# Makes .venv from the pinned lock file, and sees that the system libraries Qt needs are there.
# Needs only Python 3.11 or newer. System packages that are missing are installed as root;
# without root the exact command is printed.
set -eu
cd "$(dirname "$0")/.."
VENV=.venv
LOCK=requirements.lock
# What the build makes: see setup.py.
SOURCES="setup.py src/waltzmark/core/score/grammar.lark $(echo src/waltzmark/words/catalogues/*/LC_MESSAGES/*.po)"
STAMP=$VENV/.waltzmark-$(cksum "$LOCK" pyproject.toml | cksum | cut -d' ' -f1)
BUILT=$VENV/.waltzmark-built-$(cksum $SOURCES | cksum | cut -d' ' -f1)

say() { printf '%s\n' "$*" >&2; }

as_root() {
    # as_root WHY COMMAND: run a package manager's command, or print it and stop.
    why=$1; shift
    if [ "$(id -u)" = 0 ]; then
        say "waltzmark: $why; running: $*"
        sh -c "$*" >&2 || { say "waltzmark: that failed; please run it by hand: $*"; exit 1; }
    else
        say "waltzmark: $why. Please run:"
        say "    sudo sh -c '$*'"
        exit 1
    fi
}

find_python() {
    for candidate in "${PYTHON:-}" python3 python3.14 python3.13 python3.12 python3.11; do
        [ -n "$candidate" ] || continue
        if "$candidate" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
            printf '%s' "$candidate"; return
        fi
    done
    say "waltzmark: Python 3.11 or newer was not found; install it, or name it: make PYTHON=/path/to/python3 ..."
    exit 1
}

if [ ! -e "$STAMP" ]; then
    PY=$(find_python)
    if ! "$PY" -c 'import ensurepip, venv' 2>/dev/null; then
        command -v apt-get >/dev/null 2>&1 || { say "waltzmark: $PY lacks the venv module; install your system's python3-venv package"; exit 1; }
        version=$("$PY" -c 'import sys; print("%d.%d" % sys.version_info[:2])')
        as_root "Python's venv module is missing" "apt-get update && apt-get install -y python$version-venv"
    fi
    say "waltzmark: making $VENV from $LOCK ..."
    rm -rf "$VENV"
    "$PY" -m venv "$VENV"
    "$VENV/bin/python" -m pip install --quiet --disable-pip-version-check --require-hashes -r "$LOCK"
    touch "$STAMP"
fi

if [ ! -e "$BUILT" ]; then
    "$VENV/bin/python" -m pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation -e .
    rm -f "$VENV"/.waltzmark-built-*
    touch "$BUILT"
fi

qt_loads() {
    QT_QPA_PLATFORM=offscreen "$VENV/bin/python" -c 'from PySide6 import QtWidgets, QtSvg; QtWidgets.QApplication([])' >/dev/null 2>&1
}

xcb_loads() {
    # The xcb plugin is only needed with a display; ldd names what it would miss.
    plugin=$("$VENV/bin/python" -c 'import PySide6, pathlib; print(pathlib.Path(PySide6.__file__).parent / "Qt/plugins/platforms/libqxcb.so")')
    [ ! -e "$plugin" ] || ! ldd "$plugin" 2>/dev/null | grep -q 'not found'
}

if ! qt_loads || { [ -n "${DISPLAY:-}" ] && ! xcb_loads; }; then
    if command -v apt-get >/dev/null 2>&1; then
        glib=libglib2.0-0
        if apt-cache show libglib2.0-0t64 >/dev/null 2>&1; then glib=libglib2.0-0t64; fi
        as_root "system libraries for Qt are missing" \
            "apt-get update && apt-get install -y --no-install-recommends libegl1 libgl1 libfontconfig1 $glib libdbus-1-3 libxkbcommon0 libxkbcommon-x11-0 libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1 libxcb-randr0 libxcb-render-util0 libxcb-shape0 libxcb-xinerama0 libxcb-xkb1"
    elif command -v dnf >/dev/null 2>&1; then
        as_root "system libraries for Qt are missing" \
            "dnf install -y mesa-libEGL mesa-libGL fontconfig glib2 dbus-libs libxkbcommon libxkbcommon-x11 xcb-util-cursor xcb-util-wm xcb-util-image xcb-util-keysyms xcb-util-renderutil"
    elif command -v pacman >/dev/null 2>&1; then
        as_root "system libraries for Qt are missing" \
            "pacman -S --needed --noconfirm libglvnd mesa fontconfig glib2 dbus libxkbcommon libxkbcommon-x11 xcb-util-cursor xcb-util-wm xcb-util-image xcb-util-keysyms xcb-util-renderutil"
    fi
    qt_loads || { say "waltzmark: Qt still does not start:"; QT_QPA_PLATFORM=offscreen "$VENV/bin/python" -c 'from PySide6 import QtWidgets, QtSvg; QtWidgets.QApplication([])'; exit 1; }
fi
