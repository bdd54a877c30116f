#!/bin/sh
# Tries the package in a root of its own for each Debian named: try.sh PACKAGE.deb bookworm trixie
# It is installed, opens the demo under Xvfb, prints, speaks, films, and is taken away without a trace.
# Needs root and debootstrap; packages come from where this machine's own do.
set -eu
package=$(readlink -f "$1"); shift
mirror=$(sed -n 's/^URIs: *//p; s/^deb \(\[[^]]*\] \)\{0,1\}\([^ ]*\) .*/\2/p' /etc/apt/sources.list.d/*.sources /etc/apt/sources.list 2>/dev/null | grep -v security | head -n 1)
for suite in "$@"; do
    root=$(mktemp -d "${TMPDIR:-/tmp}/waltzmark-$suite.XXXXXX")
    trap 'umount "$root/proc" 2>/dev/null || true; rm -rf "$root"' EXIT
    debootstrap --variant=minbase "$suite" "$root" "$mirror" >"$root.log" 2>&1 || { tail -n 5 "$root.log"; exit 1; }
    for file in /etc/apt/apt.conf.d/*; do [ -e "$root$file" ] || cp "$file" "$root$file" 2>/dev/null || true; done
    mount -t proc proc "$root/proc"
    cp "$package" "$root/tmp/waltzmark.deb"
    inside() { chroot "$root" /usr/bin/env -i PATH=/usr/sbin:/usr/bin:/sbin:/bin HOME=/root LANG=C.UTF-8 DEBIAN_FRONTEND=noninteractive sh -c "$1"; }
    inside 'apt-get update -q && apt-get install -y -q --no-install-recommends xvfb xauth' >>"$root.log" 2>&1
    inside 'find / -xdev -type f | grep -v "^/\(proc\|tmp\|var/\(cache\|lib\|log\)\)" | sort > /tmp/before'
    begun=$(date +%s)
    inside 'apt-get install -y -q --no-install-recommends /tmp/waltzmark.deb' >>"$root.log" 2>&1
    echo "$suite: installed in $(($(date +%s) - begun)) s"
    inside '
        set -e
        cd /tmp
        waltzmark --version
        xvfb-run -a waltzmark --demo --shot /tmp/demo.png
        form=$(find /usr/lib/waltzmark -name ferry-round.waltz | head -n 1)
        waltzmark check "$form" > /tmp/check.txt || test $? = 1
        waltzmark sheet "$form" --kind chart -o /tmp/chart.pdf
        waltzmark film "$form" -o /tmp/film.webm --track /tmp/film.opus --to quay --voice all
        LANGUAGE=es waltzmark sides "$form" > /tmp/sides.txt
        waltzmark fit "$form" > /tmp/fit.txt
        test -s /usr/share/man/man1/waltzmark.1.gz && test -s /usr/share/doc/waltzmark/licences/README
        ls -s demo.png check.txt chart.pdf film.webm film.opus sides.txt fit.txt'
    inside 'apt-get purge -y -q waltzmark' >>"$root.log" 2>&1
    inside 'apt-get autoremove -y -q --purge' >>"$root.log" 2>&1
    inside 'find / -xdev -type f | grep -v "^/\(proc\|tmp\|var/\(cache\|lib\|log\)\)" | sort > /tmp/after; comm -13 /tmp/before /tmp/after | grep -i waltzmark && exit 1 || true'
    echo "$suite: taken away without a trace"
    umount "$root/proc"
    rm -rf "$root" "$root.log"
    trap - EXIT
done
