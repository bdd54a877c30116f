#!/bin/sh
# Installs Waltzmark for the present user, or takes it away again: install.sh install | uninstall
# The command runs from this folder's .venv, so keep the folder where it is. PREFIX defaults to ~/.local.
set -eu
here=$(cd "$(dirname "$0")/.." && pwd)
prefix=${PREFIX:-$HOME/.local}
share=$prefix/share
id=org.waltzmark.Waltzmark

refresh() {
    # Desktops notice by themselves sooner or later; these make it sooner, where they are installed.
    if command -v update-desktop-database >/dev/null 2>&1; then update-desktop-database -q "$share/applications" || true; fi
    if command -v update-mime-database >/dev/null 2>&1; then update-mime-database "$share/mime" || true; fi
}

put() {
    mkdir -p "$(dirname "$2")"
    cp "$1" "$2"
}

case "${1:-}" in
install)
    mkdir -p "$prefix/bin"
    ln -sf "$here/.venv/bin/waltzmark" "$prefix/bin/waltzmark"
    put "$here/packaging/$id.desktop" "$share/applications/$id.desktop"
    sed -i "s|^Exec=waltzmark|Exec=\"$prefix/bin/waltzmark\"|" "$share/applications/$id.desktop"
    put "$here/packaging/$id.metainfo.xml" "$share/metainfo/$id.metainfo.xml"
    put "$here/packaging/$id.mime.xml" "$share/mime/packages/$id.xml"
    put "$here/src/waltzmark/desktop/resources/waltzmark.svg" "$share/icons/hicolor/scalable/apps/$id.svg"
    refresh
    echo "waltzmark: installed into $prefix; the command is $prefix/bin/waltzmark"
    ;;
uninstall)
    rm -f "$prefix/bin/waltzmark" "$share/applications/$id.desktop" "$share/metainfo/$id.metainfo.xml" \
        "$share/mime/packages/$id.xml" "$share/icons/hicolor/scalable/apps/$id.svg"
    refresh
    echo "waltzmark: taken out of $prefix"
    ;;
*)
    echo "usage: install.sh install | uninstall" >&2
    exit 2
    ;;
esac
