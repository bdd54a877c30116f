"""Drafts of words: as plain JSON values, as text, and as a form."""

from __future__ import annotations

from typing import Any

from waltzmark.core.base.records import replace
from waltzmark.core.draft.drafting import Draft, free_name, name_of
from waltzmark.core.draft.standing import Made
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score.facings import Clock
from waltzmark.core.score.write import write_count
from waltzmark.files.printed_forms import CountDrafted, DraftAnswer
from waltzmark.words.drafts import reason

__all__ = ["draft_text", "draft_values", "drafted_form"]


def draft_values(found: Draft) -> DraftAnswer:
    """The draft with where everything is from."""
    postures: list[Any] = []
    for each in found.postures:
        values: dict[str, Any] = {"id": each.id, "name": each.name}
        if each.repeat_of is not None:
            values["repeat_of"] = each.repeat_of
        if each.mirror_of is not None:
            values["mirror_of"] = each.mirror_of
        values["counts"] = [_count(made) for made in each.counts]
        postures.append(values)
    return {
        "language": found.language,  # type: ignore[typeddict-item]
        "postures": postures,
        "unused": [{"from": list(each.span), "text": each.text, "why": each.why} for each in found.unused],  # type: ignore[typeddict-item]
    }


def _count(made: Made) -> CountDrafted:
    return {
        "text": write_count(made.count),
        "from": [list(span) for span in made.spans],
        "how": made.how,
        "slots": [
            {"what": slot.what, "how": slot.how, "why": reason(slot), "from": [list(span) for span in slot.spans]}
            for slot in made.slots
        ],
        "others": [write_count(other) for other in made.others],
    }


def draft_text(found: Draft, text: str) -> str:
    """The draft a count a line, with how sure it is, and what was not used."""
    lines: list[str] = []
    for each in found.postures:
        lines.append(f"# {each.name or each.id}")
        lines += [f"{made.how:<9} {write_count(made.count)}" for made in each.counts]
    lines += [f"{each.why:<9} {text[each.span[0] : each.span[1]]!r}" for each in found.unused if each.why != "idle"]
    return "\n".join(lines)


def drafted_form(found: Draft, form: Form) -> Form:
    """A form with what was drafted after its own postures."""
    postures = list(form.postures)
    names: dict[str, str] = {}  # ids in the form, by those of the draft
    ids = {each.id for each in postures}
    for each in found.postures:
        for _ in range(each.copies):
            own = free_name(each.id, ids)
            source = each.repeat_of or each.mirror_of
            known = names.get(source or "", next((p.id for p in reversed(postures) if p.source is None), None))
            if source is not None and known is None:
                continue  # there is nothing to do again
            again = next((p.name for p in postures if p.id == known), "") if source is not None else ""
            name = name_of(each, again, {p.name for p in postures}, found.language)
            posture = Posture(own, name, tuple(made.count for made in each.counts if not made.refused))
            if each.repeat_of is not None:
                posture = replace(posture, lines=(), repeat_of=known)
            elif each.mirror_of is not None:
                posture = replace(posture, lines=(), mirror_of=known, axis=Clock(0))
            names.setdefault(each.id, own)
            ids.add(own)
            postures.append(posture)
    title, twelve = form.title or found.title, found.twelve or form.twelve
    return replace(form, title=title, twelve=twelve, postures=tuple(postures))
