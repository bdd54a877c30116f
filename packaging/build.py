"""Builds what strangers install: ``make deb``, ``make tarball``, ``make wheel``.

The program is frozen into one folder with all that it needs but the system's own libraries; the package is that folder
with desktop entry, icon, type, AppStream data, man page, completions and the licences of everything in it.
"""

from __future__ import annotations

import gzip
import re
import shutil
import subprocess
import sys
from collections.abc import Iterator
from importlib import metadata
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
BUILD = ROOT / "build"
FROZEN = BUILD / "frozen" / "waltzmark"
DIST = BUILD / "dist"
PACKAGING = ROOT / "packaging"
ID = "org.waltzmark.Waltzmark"
#: The system's libraries that Qt wants; the second of a name is what it is called on newer systems.
DEPENDS = (
    "libc6", "libegl1", "libgl1", "libfontconfig1", "libglib2.0-0 | libglib2.0-0t64", "libdbus-1-3", "libxkbcommon0",
    "libxkbcommon-x11-0", "libxcb-cursor0", "libxcb-icccm4", "libxcb-image0", "libxcb-keysyms1", "libxcb-randr0",
    "libxcb-render-util0", "libxcb-shape0", "libxcb-xinerama0", "libxcb-xkb1",
)  # fmt: skip
#: Imported by their names only, when they are first wanted.
HIDDEN = (
    "PIL.Image", "PIL.WebPImagePlugin", "av", "espeakng_loader", "miniaudio", "_miniaudio", "_cffi_backend", "pysubs2",
    "rapidfuzz.distance", "rapidfuzz.process", "scipy.ndimage", "scipy.optimize", "scipy.sparse", "scipy.spatial",
    "snowballstemmer", "text_to_num",
)  # fmt: skip
#: Licences that a package of the index forgets to tell.
KNOWN = {"espeakng-loader": "eSpeak NG: GPL-3.0-or-later"}
#: Languages whose numbers and dates are taken along.
LOCALES = ("root", "en", "es")


def version() -> str:
    """The version of what is built."""
    found = re.search(r'^version = "(.*)"', (ROOT / "pyproject.toml").read_text(encoding="utf-8"), re.M)
    assert found is not None
    return found[1]


def distributions(name: str = "waltzmark", known: set[str] | None = None) -> Iterator[metadata.Distribution]:
    """What the program needs, each once, itself first."""
    known = set() if known is None else known
    plain = re.sub(r"[-_.]+", "-", name).lower()
    if plain in known:
        return
    known.add(plain)
    found = metadata.distribution(name)
    yield found
    for wanted in found.requires or ():
        if ";" in wanted and not _applies(wanted.partition(";")[2]):
            continue
        yield from distributions(re.split(r"[\s\[<>=!~;(]", wanted, maxsplit=1)[0], known)


def _applies(marker: str) -> bool:
    from packaging.markers import Marker

    return Marker(marker.strip()).evaluate({"extra": ""})


def licences(folder: Path) -> None:
    """Writes the licence of everything that is in the program, a file each, and a list of all."""
    folder.mkdir(parents=True, exist_ok=True)
    lines = []
    for each in sorted(distributions(), key=lambda one: one.metadata["Name"].lower()):
        name, about = each.metadata["Name"], each.metadata
        texts = [file for file in each.files or () if re.search(r"licen[cs]e|copying|notice|authors", file.name, re.I)]
        classes = [
            line.rpartition("::")[2].strip() for line in about.get_all("Classifier") or () if "License ::" in line
        ]
        said = (about.get("License-Expression") or about.get("License") or "").strip().partition("\n")[0]
        told = (
            ", ".join(classes)
            if said.startswith("Copyright")
            else said or ", ".join(classes) or KNOWN.get(name.replace("_", "-").lower(), "")
        )
        assert told or texts, f"{name} says nothing of its licence"
        lines.append(f"{name} {each.version}: {told or 'see its text'}")
        whole = [Path(str(file.locate())) for file in texts]
        parts = [each.read_text(encoding="utf-8", errors="replace") for each in whole if each.is_file()]
        (folder / f"{name}.txt").write_text("\n\n".join([lines[-1], *parts]) + "\n", encoding="utf-8")
    text = "Waltzmark is GPL-3.0-or-later. In it are, each under its own licence:\n\n" + "\n".join(lines) + "\n"
    (folder / "README").write_text(text, encoding="utf-8")


def freeze() -> Path:
    """Freezes the program into one folder."""
    command = [
        sys.executable, "-m", "PyInstaller", "--noconfirm", "--log-level", "ERROR", "--name", "waltzmark", "--onedir",
        "--distpath", str(FROZEN.parent), "--workpath", str(BUILD / "work"), "--specpath", str(BUILD / "work"),
        "--collect-submodules", "waltzmark", "--collect-data", "waltzmark", "--collect-all", "espeakng_loader",
        "--collect-data", "ezdxf", "--collect-data", "text_to_num", "--copy-metadata", "waltzmark",
        "--exclude-module", "tkinter", "--exclude-module", "matplotlib", "--exclude-module", "IPython",
        "--exclude-module", "pytest", "--exclude-module", "PySide6.QtQml", "--exclude-module", "PySide6.QtQuick",
        *(word for name in HIDDEN for word in ("--hidden-import", name)),
        str(PACKAGING / "entry.py"),
    ]  # fmt: skip
    subprocess.run(command, check=True, cwd=ROOT)
    for data in FROZEN.rglob("babel/locale-data/*.dat"):
        if data.stem.partition("_")[0] not in LOCALES:
            data.unlink()
    return FROZEN


def _put(source: Path, target: Path) -> None:
    target.parent.mkdir(parents=True, exist_ok=True)
    shutil.copyfile(source, target)


def man_page() -> str:
    """The man page: what it is, and every command with its example."""
    from waltzmark.cli.commands import COMMANDS, DRAWN

    def plain(text: str) -> str:
        return text.replace("\\", "\\\\").replace("-", "\\-")

    lines = [
        f'.TH WALTZMARK 1 "" "Waltzmark {version()}"',
        ".SH NAME",
        "waltzmark \\- plot, walk and check a tai chi form",
        ".SH SYNOPSIS",
        ".B waltzmark",
        "[\\fIFILE\\fR] [\\-\\-demo]",
        ".br",
        ".B waltzmark",
        "\\fICOMMAND\\fR ...",
        ".SH DESCRIPTION",
        "Without a command it opens its window, on FILE where one is named. Each command works without a window and",
        "tells its options with \\-\\-help.",
        ".SH COMMANDS",
    ]
    for example, words in {**COMMANDS, **DRAWN}.values():
        lines += [".TP", f".B waltzmark {plain(example)}", plain(words)]
    return "\n".join([*lines, ""])


def tree(root: Path) -> Path:
    """Lays out everything as it is installed, under a folder."""
    shutil.rmtree(root, ignore_errors=True)
    shutil.copytree(FROZEN, root / "usr/lib/waltzmark", symlinks=True)
    share = root / "usr/share"
    (root / "usr/bin").mkdir(parents=True)
    (root / "usr/bin/waltzmark").symlink_to("../lib/waltzmark/waltzmark")
    _put(PACKAGING / f"{ID}.desktop", share / f"applications/{ID}.desktop")
    _put(PACKAGING / f"{ID}.metainfo.xml", share / f"metainfo/{ID}.metainfo.xml")
    _put(PACKAGING / f"{ID}.mime.xml", share / f"mime/packages/{ID}.xml")
    icon = ROOT / "src/waltzmark/desktop/resources/waltzmark.svg"
    _put(icon, share / f"icons/hicolor/scalable/apps/{ID}.svg")
    man = share / "man/man1/waltzmark.1.gz"
    man.parent.mkdir(parents=True)
    man.write_bytes(gzip.compress(man_page().encode(), mtime=0))
    from argcomplete.shell_integration import shellcode

    for shell, place in (
        ("bash", "bash-completion/completions/waltzmark"), ("fish", "fish/vendor_completions.d/waltzmark.fish"),
    ):  # fmt: skip
        target = share / place
        target.parent.mkdir(parents=True)
        target.write_text(shellcode(["waltzmark"], shell=shell), encoding="utf-8")
    licences(share / "doc/waltzmark/licences")
    _put(ROOT / "LICENSE", share / "doc/waltzmark/copyright")
    _put(ROOT / "CHANGELOG.md", share / "doc/waltzmark/CHANGELOG.md")
    return root


def deb() -> Path:
    """The Debian package."""
    root = tree(BUILD / "deb")
    size = sum(each.stat().st_size for each in root.rglob("*") if each.is_file() and not each.is_symlink()) // 1024
    control = root / "DEBIAN/control"
    control.parent.mkdir()
    fields = {
        "Package": "waltzmark",
        "Version": version(),
        "Architecture": "amd64",
        "Maintainer": "The Waltzmark founders <waltzmark@localhost>",
        "Installed-Size": str(size),
        "Depends": ", ".join(DEPENDS),
        "Recommends": "libpulse0",
        "Section": "education",
        "Priority": "optional",
        "Description": "Plot, walk and check a tai chi form\n"
        " A form is written count by count: foot placements, pivots, weight and facings.\n"
        " Waltzmark walks it on a plan of the floor and says whether it fits the room,\n"
        " returns to its start and mirrors between its sides.",
    }
    control.write_text("".join(f"{name}: {value}\n" for name, value in fields.items()), encoding="utf-8")
    DIST.mkdir(parents=True, exist_ok=True)
    made = DIST / f"waltzmark_{version()}_amd64.deb"
    subprocess.run(["dpkg-deb", "--root-owner-group", "-Zxz", "--build", str(root), str(made)], check=True)
    return made


def tarball() -> Path:
    """The same as a folder that can be unpacked anywhere."""
    root = tree(BUILD / "portable") / "usr"
    DIST.mkdir(parents=True, exist_ok=True)
    made = DIST / f"waltzmark-{version()}-linux-x86_64.tar.xz"
    named = root.rename(root.with_name(f"waltzmark-{version()}"))
    command = [
        "tar",
        "--create",
        "--file",
        str(made),
        "--use-compress-program",
        "xz -T0",
        "-C",
        str(named.parent),
        named.name,
    ]
    subprocess.run(command, check=True)
    return made


def wheel() -> Path:
    """The wheel, for who has Python."""
    DIST.mkdir(parents=True, exist_ok=True)
    command = [
        sys.executable,
        "-m",
        "pip",
        "wheel",
        "--quiet",
        "--no-deps",
        "--no-build-isolation",
        "-w",
        str(DIST),
        str(ROOT),
    ]
    subprocess.run(command, check=True)
    return next(DIST.glob(f"waltzmark-{version()}-*.whl"))


def main() -> None:
    """Builds what is named on the command line."""
    for name in sys.argv[1:]:
        made = {"freeze": freeze, "deb": deb, "tarball": tarball, "wheel": wheel}[name]()
        print(made.relative_to(ROOT))


if __name__ == "__main__":
    main()
