"""A made form of any length, for measuring: walking steps to both sides with turns, mirrors and repeats."""

from __future__ import annotations

from waltzmark.core.form.form import Form
from waltzmark.files.reading import read_document

__all__ = ["made_form", "made_text"]

#: Each facing with the clock half a corner to its left and to its right.
_FACINGS = (("12", "10:30", "1:30"), ("6", "4:30", "7:30"))


def made_text(counts: int = 1500, each: int = 14) -> str:
    """The text of a document with so many counts, in postures of *each* counts, no two of them alike.

    Step after step to both sides, there and back again, as a form is walked: few findings, but some in every turn.
    """
    lines = [
        "waltzmark = 1",
        "[form]",
        'title = "Made"',
        "[body]",
        "knee_bend = 60",
        "ankle = 48",
        "[room]",
        "outline = [[-60, -60], [60, -60], [60, 60], [-60, 60]]",
    ]
    for number in range(-(-counts // each)):
        facing, left, right = _FACINGS[number // 8 % 2]
        lines += ["[[posture]]", f'id = "p{number}"', f'name = "Posture {number}"', f'ends = "{facing}"', "counts = ["]
        for k in range(min(each, counts - number * each)):
            width = 33 + (number * each + k) % 37 / 10
            side, other, out = ("L", "R", right) if k // 7 % 2 else ("R", "L", left)
            lines.append(
                '  "'
                + (
                    f"shift {side} 80, torso {facing}, breathe in",
                    f"pivot {other} heel {out}, torso {facing}",
                    f"shift {other} 100, torso {out} # {number}.{k}",
                    f"step {side} beside, hand {other} {facing} chest guard",
                    f"step {side} {facing} bow {44 + number % 7}x{width:g}",
                    f"shift {side} 70, torso {facing}, breathe out @2",
                    f"hold, hand {other} {facing} chest push",
                )[k % 7]
                + '",'
            )
        lines.append("]")
    return "\n".join(lines) + "\n"


def made_form(counts: int = 1500) -> Form:
    """The form of `made_text`."""
    return read_document(made_text(counts)).form
