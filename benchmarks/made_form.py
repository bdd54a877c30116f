"""A made form of any length, for measuring: walking steps to both sides with turns, mirrors and repeats."""

from __future__ import annotations

from waltzmark.core.form import Form
from waltzmark.files.reading import read_document

__all__ = ["made_form", "made_text"]

_FACINGS = ("12", "1:30", "3", "4:30", "6", "7:30", "9", "10:30")


def made_text(counts: int = 1500, each: int = 14) -> str:
    """The text of a document with so many counts, in postures of *each* counts, no two of them alike."""
    lines = [
        "waltzmark = 1",
        "[form]",
        'title = "Made"',
        "[room]",
        "outline = [[-60, -60], [60, -60], [60, 60], [-60, 60]]",
    ]
    for number in range(-(-counts // each)):
        facing = _FACINGS[number % 8]
        lines += ["[[posture]]", f'id = "p{number}"', f'name = "Posture {number}"', f'ends = "{facing}"', "counts = ["]
        for k in range(min(each, counts - number * each)):
            width = 30 + (number * each + k) % 97 / 10
            side, other = ("L", "R") if k // 7 % 2 == 0 else ("R", "L")
            lines.append('  "' + (
                f"shift {other} 80, torso {facing}, breathe in",
                f"pivot {side} heel out 30 # {number}.{k}",
                f"shift {other} 100, torso {facing}",
                f"step {side} {facing} bow {40 + number % 13}x{width:g}, hand {side} {facing} chest guard",
                f"shift {side} 70, torso {facing}, breathe out @2",
                f"pivot {other} heel out 10, torso {facing}",
                f"hold, hand {other} {facing} chest push",
            )[k % 7] + '",')  # fmt: skip
        lines.append("]")
    return "\n".join(lines) + "\n"


def made_form(counts: int = 1500) -> Form:
    """The form of `made_text`."""
    return read_document(made_text(counts)).form
