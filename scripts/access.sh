#!/bin/sh
# Runs scripts/access.py against the demo, on an X server, a session bus and an accessibility bus of their own.
# It needs xvfb, xdotool, dbus, at-spi2-core, python3-gi and gir1.2-atspi-2.0 of the system.
set -e
here=$(cd "$(dirname "$0")/.." && pwd)
work=$(mktemp -d)
export HOME="$work" XDG_RUNTIME_DIR="$work" XDG_CONFIG_HOME="$work/config" XDG_DATA_HOME="$work/data" \
    XDG_STATE_HOME="$work/state" WALTZMARK_SILENT=1 HERE="$here"
unset QT_QPA_PLATFORM WAYLAND_DISPLAY
chmod 700 "$work"
trap 'rm -rf "$work"' EXIT
xvfb-run --auto-servernum --server-args="-screen 0 1280x800x24" dbus-run-session -- sh -c '
    for launcher in /usr/libexec/at-spi-bus-launcher /usr/lib/at-spi2-core/at-spi-bus-launcher; do
        [ -x "$launcher" ] && { "$launcher" --launch-immediately & break; }
    done
    QT_LINUX_ACCESSIBILITY_ALWAYS_ON=1 "$HERE/.venv/bin/waltzmark" --demo &
    shown=$!
    /usr/bin/python3 "$HERE/scripts/access.py"
    status=$?
    kill $shown
    exit $status
'
