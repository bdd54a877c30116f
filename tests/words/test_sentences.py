"""Every kind that is told has a sentence, and every sentence has what it speaks of."""

from __future__ import annotations

import ast
import string
from collections.abc import Iterator
from typing import Any

import pytest

from tests.sources import sources
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.messages import Change, Heading, Message, message
from waltzmark.core.judge.judging import RULES
from waltzmark.words import findings, rules
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import languages, set_language
from waltzmark.words.sentences import SPECS, Plural, Sentence, _sentences, fill, sentence

KNOWN = _sentences()
#: Of each way to say a field, a value it may have.
SAMPLES: dict[str, Any] = {
    **dict.fromkeys(("length", "cm", "degrees", "halves", "percent", "beats", "turn", "whole"), 2.5),
    **dict.fromkeys(
        ("foot", "knee", "leg", "heel", "shin", "hand", "sole", "toes", "step", "side", "letter"), Side.RIGHT
    ),
    **dict.fromkeys(("list", "or", "parts"), ("one", "two")),
    "": "a thing",
    "change": Change(0.3, 0.4),
    "percents": Change(60.0, 70.0),
    "heading": Heading(45.0, 90.0),
    "part": Contact.BALL,
    "resting": Contact.AIR,
    "rule": "knee.past-toe",
    "name": "First",
    "reason": "It is so.",
    "nth": 2,
}


def specs(text: str) -> dict[str, str]:
    """The fields of a sentence, and how each is said."""
    return {name: spec or "" for _, name, spec, _ in string.Formatter().parse(text) if name}


def plain_sentences() -> Iterator[tuple[str, str]]:
    for kind, said in KNOWN.items():
        for text in (said.one, said.many) if isinstance(said, Plural) else (said,) if isinstance(said, str) else ():
            yield kind, text


@pytest.fixture(params=languages())
def tongue(request: pytest.FixtureRequest) -> Iterator[str]:
    """Each language that ships."""
    set_language(request.param)
    yield request.param
    set_language("en")


@pytest.mark.parametrize("figures", [PLAIN, Figures("own", "in"), Figures("compass", "sw")])
def test_each_sentence_can_be_said_whole(figures: Figures, tongue: str) -> None:
    assert set(SAMPLES) == {*SPECS, ""} and tongue
    for kind, text in plain_sentences():
        fields = {name: SAMPLES[spec] for name, spec in specs(text).items()}
        said = fill(text, fields, figures)
        assert said and ("{" not in said or "{{" in text), kind
        assert "  " not in said and said == said.strip() and ".." not in said.replace("…", ""), said
        assert "None" not in said and " ." not in said and " ," not in said, said


def test_what_is_told_by_itself_ends_as_sentences_do() -> None:
    ends = {
        kind: text
        for kind, text in plain_sentences()
        if kind.split(".")[0] in (*{r.split(".")[0] for r in RULES}, "form", "room")
    }
    told = [text for kind, text in ends.items() if kind in findings.SENTENCES]
    assert told and all(text.endswith((".", "…", "}", "?")) or text[0].islower() for text in told)


def test_every_rule_has_a_title_and_every_finding_what_and_what_to_do() -> None:
    assert set(rules.TITLES) == set(RULES)
    kinds = {kind.removesuffix(":remedy") for kind in findings.SENTENCES if not kind.startswith("opening.")}
    assert all(kind in findings.SENTENCES and f"{kind}:remedy" in findings.SENTENCES for kind in kinds)
    assert {kind for kind in kinds if not any(kind.startswith(rule) for rule in RULES)} == set()


def name_of(call: ast.Call) -> str:
    return call.func.attr if isinstance(call.func, ast.Attribute) else getattr(call.func, "id", "")


def told_by(call: ast.Call) -> ast.expr | None:
    """The kind that a call tells, where it tells one."""
    name, args = name_of(call), call.args
    if name in ("message", "of", "refuse", "SlipError", "tell") or name.endswith("Error"):
        at = {"SlipError": 1, "tell": 2}.get(name, 0)
    elif name in ("fail", "note") and args:
        at = len(args) - 1
    else:
        return None
    return args[at] if len(args) > at else None


def test_every_kind_that_is_told_has_a_sentence_with_what_it_is_given() -> None:
    seen = 0
    for path, call in sources().calls:
        told = told_by(call)
        if not isinstance(told, ast.Constant) or not isinstance(told.value, str) or "." not in told.value:
            continue
        if name_of(call) in ("of", "fail", "note") and told.value not in KNOWN and "/" in told.value:
            continue
        kind, where = told.value, f"{path.name}:{call.lineno}"
        assert kind in KNOWN, f"{where}: {kind}"
        seen += 1
        given = {keyword.arg for keyword in call.keywords}
        if None not in given:
            for each, text in plain_sentences():
                assert each != kind or set(specs(text)) <= given, (
                    f"{where}: {kind} is told without {set(specs(text)) - given}"
                )
    assert seen > 300


def test_every_finding_has_what_its_sentences_speak_of() -> None:
    """`Case.found` is given a rule, what tells the finding apart, and its fields."""
    usual = {"measured", "limit", "side", "other"}
    seen = 0
    for path, call in sources().calls:
        if name_of(call) != "found" or path.parent.name != "judge" or not call.args:
            continue
        rule, given = call.args[0], {keyword.arg: keyword.value for keyword in call.keywords}
        if not isinstance(rule, ast.Constant) or rule.value == "expect.unmet":
            continue
        which = (
            {node.value for node in ast.walk(given["which"]) if isinstance(node, ast.Constant)}
            if "which" in given
            else {""}
        )
        kinds = [
            kind
            for kind in KNOWN
            if kind.removesuffix(":remedy").rpartition(".")[0] == rule.value
            or kind.removesuffix(":remedy") == rule.value
        ]
        for kind in kinds:
            end = kind.removesuffix(":remedy").removeprefix(str(rule.value)).removeprefix(".")
            if end not in which:
                continue
            seen += 1
            for _, text in [(k, t) for k, t in plain_sentences() if k == kind]:
                assert set(specs(text)) <= usual | set(given), f"{path.name}:{call.lineno} {kind}"
    assert seen > 80


def test_a_message_compares_and_is_told_again_in_other_units() -> None:
    told = message("mend.shorten", length=50.0)
    assert told == Message("mend.shorten", (("length", 50.0),)) and hash(told) == hash(
        message("mend.shorten", length=50.0)
    )
    assert sentence(told) != sentence(told, Figures(unit="in"))


def test_numbers_of_things_have_their_plural() -> None:
    both: list[Sentence] = [said for said in KNOWN.values() if isinstance(said, Plural)]
    for said in both:
        assert isinstance(said, Plural)
        fields = {name: SAMPLES[spec] for name, spec in specs(said.many).items()}
        assert fill(said, {**fields, said.of: 1}) != fill(said, {**fields, said.of: 2})
    assert len(both) > 10
