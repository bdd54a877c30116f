"""What ships beside the code is true: documents, packaging, demo, lock file."""

from __future__ import annotations

import re
import shutil
import subprocess
import tomllib
import xml.etree.ElementTree as ElementTree
from pathlib import Path

import pytest

from waltzmark.core.judge.judging import RULES
from waltzmark.core.school.school import bundled_schools, load_school
from waltzmark.core.score.words import STANCES
from waltzmark.desktop.menus import _EDIT, _FILE, _HELP, _WALK, _WAY
from waltzmark.desktop.stages import STAGES
from waltzmark.files.manual import found, manual
from waltzmark.files.reading import read_document

ROOT = Path(__file__).resolve().parent.parent


def text(name: str) -> str:
    return (ROOT / name).read_text(encoding="utf-8")


def test_every_picture_is_shown_in_the_readme_and_made_by_the_script() -> None:
    pictures = {path.stem for path in (ROOT / "docs" / "screenshots").glob("*.png")}
    assert pictures == set(re.findall(r'^    "([a-z-]+)": \(', text("scripts/screenshots.py"), re.MULTILINE))
    assert all(f"docs/screenshots/{name}.png" in text("README.md") for name in pictures)


def test_nothing_is_kept_here_that_is_not_of_the_project() -> None:
    git = shutil.which("git")
    told = (
        subprocess.run([git or "git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=False)
        if git
        else None
    )
    if told is None or told.returncode:
        pytest.skip("no checkout to ask")
    kinds = {
        ".py",
        ".waltz",
        ".png",
        ".md",
        ".toml",
        ".json",
        ".svg",
        ".ttf",
        ".xml",
        ".sh",
        ".txt",
        ".qss",
        ".lock",
        ".lark",
        ".desktop",
        ".pot",
        ".po",
        ".srt",
        ".webp",
    }
    names = {".ci/run", ".gitignore", "LICENSE", "Makefile", "src/waltzmark/manual"}
    odd = [name for name in told.stdout.splitlines() if Path(name).suffix not in kinds and name not in names]
    large = [name for name in told.stdout.splitlines() if (ROOT / name).stat().st_size > 800_000]
    assert odd == large == [] and len(told.stdout.splitlines()) > 400


def test_every_rule_action_and_stance_is_documented() -> None:
    model, score = text("docs/model.md"), text("docs/score.md")
    assert all(f"`{rule}`" in model for rule in RULES)
    grammar = text("src/waltzmark/core/score/grammar.lark")
    words = {w for line in grammar.splitlines() for w in re.findall(r"^_?[A-Z]+: /([a-z]+)\\b/i", line)}
    words |= {
        w
        for line in grammar.splitlines()
        for group in re.findall(r"/\(([a-z|]+)\)\\b/i", line)
        for w in group.split("|")
    }
    assert len(words) > 40
    assert [word for word in sorted(words) if not re.search(rf"\b{word}\b", score, re.IGNORECASE)] == []
    assert all(f"`{stance}`" in score for stance in STANCES)


def test_the_examples_of_the_documents_are_read() -> None:
    example = re.search(r"```toml\n(waltzmark = 1.*?)```", text("docs/file-format.md"), re.DOTALL)
    assert example is not None
    read = read_document(example[1])
    assert read.notices == () and len(read.form.postures) == 3
    opening = re.search(r"^opening = \{ left.*$", text("docs/file-format.md"), re.MULTILINE)
    assert opening is not None
    assert read_document(f"waltzmark = 1\n[form]\n{opening[0]}\n").form.opening.feet is not None
    from waltzmark.core.score import read_score

    for name in ("docs/score.md", "README.md"):
        block = re.search(r"```\n( *shift R 100.*?)```", text(name), re.DOTALL)
        assert block is not None
        assert len(read_score(block[1])) >= 4


def test_the_examples_in_the_table_of_actions_are_read() -> None:
    from waltzmark.core.score import read_count, write_count

    rows = re.findall(
        r"^\| `(?:shift|pivot|step|flat|lift|torso|hand|sink|breathe|hold|expect).*?\|(.*?)\|",
        text("docs/score.md"),
        re.MULTILINE,
    )
    examples = [example for row in rows for example in re.findall(r"`([^`]+)`", row)]
    assert len(examples) > 35
    for example in examples:
        count = read_count(example)
        assert read_count(write_count(count)) == count


def test_the_lock_file_pins_everything_and_names_no_host() -> None:
    lock, project = text("requirements.lock"), tomllib.loads(text("pyproject.toml"))
    assert "://" not in lock and "index" not in lock
    pinned = {line.split("==")[0].lower() for line in lock.splitlines() if "==" in line}
    wanted = project["project"]["dependencies"] + project["dependency-groups"]["dev"]
    assert {re.split(r"[<>=]", name)[0].lower() for name in wanted} <= pinned
    version = re.search(r"pyside6-essentials==(\d+)\.(\d+)", lock)
    assert version is not None and (6, 8) <= (int(version[1]), int(version[2])) < (6, 12)


def test_the_desktop_knows_program_icon_and_file_type() -> None:
    folder, name = ROOT / "packaging", "org.waltzmark.Waltzmark"
    entry = dict(line.split("=", 1) for line in text(f"packaging/{name}.desktop").splitlines() if "=" in line)
    assert (entry["Exec"], entry["Icon"], entry["MimeType"]) == ("waltzmark %f", name, "application/x-waltzmark+toml;")
    mime = ElementTree.parse(folder / f"{name}.mime.xml").getroot()
    space = "{http://www.freedesktop.org/standards/shared-mime-info}"
    assert mime[0].get("type") == "application/x-waltzmark+toml"
    assert [glob.get("pattern") for glob in mime.iter(f"{space}glob")] == ["*.waltz"]
    about = ElementTree.parse(folder / f"{name}.metainfo.xml").getroot()
    assert about.findtext("id") == name and about.findtext("launchable") == f"{name}.desktop"
    assert about.find("releases/release").get("version") == tomllib.loads(text("pyproject.toml"))["project"]["version"]  # type: ignore[union-attr]
    assert ElementTree.parse(ROOT / "src/waltzmark/desktop/resources/waltzmark.svg").getroot().tag.endswith("svg")


@pytest.mark.parametrize("name", bundled_schools())
def test_every_rule_and_every_limit_of_a_school_is_told_of(name: str) -> None:
    model = (ROOT / "docs" / "model.md").read_text(encoding="utf-8")
    told = set(re.findall(r"^\| `([a-z]+\.[a-z-]+)` \|", model, re.MULTILINE))
    assert told == set(RULES)
    graves = dict(re.findall(r"^\| `([a-z]+\.[a-z-]+)` \| (\w+) \|", model, re.MULTILINE))
    assert graves == {rule.id: rule.severity for rule in RULES.values()}
    school, base = load_school(name), load_school("broad-frame")
    for rule, setting in school.rules.items():
        assert set(setting.limits) <= set(base.rules[rule].limits) and setting.why.endswith((".", "?"))


def test_every_link_of_the_documents_leads_somewhere() -> None:
    """Pages, headings in them, pictures and schemas: the same pages are the help in the window."""
    pages = ["README.md", "CONTRIBUTING.md", *(f"docs/{page.name}" for page in (ROOT / "docs").glob("*.md"))]
    headings = {
        page: {
            re.sub(r"[^a-z0-9 -]", "", line.lstrip("# ").lower()).replace(" ", "-")
            for line in text(page).splitlines()
            if line.startswith("#")
        }
        for page in pages
    }
    broken = []
    for page in pages:
        for link in re.findall(r"\]\(([^)\s]+)\)", text(page)):
            if "://" in link:
                continue
            target, _, heading = link.partition("#")
            there = Path(page).parent.joinpath(target).as_posix() if target else page
            if not (ROOT / there).exists() or (heading and heading not in headings[there]):
                broken.append((page, link))
    assert broken == []


def test_the_manual_in_the_window_has_the_pages_of_docs_and_a_heading_for_every_stage() -> None:
    topics = manual()
    assert {topic.page for topic in topics} < {page.stem for page in (ROOT / "docs").glob("*.md")}
    assert {row.help for row in STAGES} <= {topic.title for topic in topics if topic.page == "guide"}
    for topic in topics:  # not a word of them is lost on the way, but for the pictures
        words = re.sub(r"!\[[^\]]*\]\([^)]*\)\n*", "", text(f"docs/{topic.page}.md"))
        assert topic.text in words and "![" not in topic.text
        assert topic in [each for each, _ in found(topic.title)]
    assert found("") == found("zzyzx") == ()


def test_every_folder_of_the_package_is_one_that_a_wheel_takes_in() -> None:
    folders = {path.parent for path in (ROOT / "src" / "waltzmark").rglob("*.py")}
    assert [folder for folder in folders if not (folder / "__init__.py").exists()] == [] and len(folders) > 25


#: Keys that a field takes by itself, and a switch that the window makes.
OWN_KEYS = {"Shift+Return", "Shift+Tab", "Ctrl+D"}


def test_every_key_that_the_documents_name_is_one() -> None:
    known = {row.key for row in STAGES} | OWN_KEYS
    acts = [act for listed in (_FILE, _EDIT, _WALK, _WAY, _HELP) for act in listed]
    acts += [act for row in STAGES for _, listed in row.acts().by_menu for act in listed]
    for act in acts:
        known.update(() if act is None else act.keys)
    for name in ("README.md", "docs/guide.md", "docs/plotting.md", "docs/words.md"):
        said = re.findall(r"\b(?:(?:Ctrl|Alt|Shift)\+)+(?:F?\d+|[A-Z][a-zA-Z]*|[\[\]−+])|\bF\d+\b", text(name))
        same = {each.replace("Enter", "Return").replace("PgDn", "PgDown").replace("−", "-") for each in said}
        assert same - known == set(), name
    # The section of a stage says its key.
    sections = {part.partition("\n")[0]: part for part in text("docs/guide.md").split("\n## ")}
    for row in STAGES:
        title = row.title.replace("&", "")
        (section,) = [part for head, part in sections.items() if re.match(rf"{title}\b", head)]
        own = set(re.findall(r"\*\*(Ctrl\+\d)\*\*", section))
        assert own <= ({row.key} if title != "Ready" else {"Ctrl+1", "Ctrl+8"}), title  # there, from which to which
