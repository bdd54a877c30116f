"""The score as plain text, the trace as CSV, and CSV read back as a score."""

from __future__ import annotations

import csv
import io

from waltzmark.core.base.errors import Position
from waltzmark.core.base.leftright import SIDES, Contact
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score.read import plain_line, read_line
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.trace import Trace
from waltzmark.files.cells import from_cell, to_cell
from waltzmark.files.values import DocumentError

__all__ = ["TRACE_COLUMNS", "form_from_csv", "score_on_paper", "trace_csv"]

#: The header of the trace: metres and degrees of the floor frame, shares of the weight in percent.
TRACE_COLUMNS = (
    "posture",
    "name",
    "count",
    "text",
    "beats",
    "left_x",
    "left_y",
    "left_heading",
    "left_contact",
    "right_x",
    "right_y",
    "right_heading",
    "right_contact",
    "left_percent",
    "right_percent",
    "torso",
    "gaze",
    "centre_x",
    "centre_y",
)
_LARGEST = 20_000


def score_on_paper(form: Form) -> str:
    """The whole score to be read on paper: a heading for each posture, and its lines as walked."""
    parts = [form.title or "Untitled form", "=" * max(len(form.title), 4)]
    for posture in form.postures:
        parts += ["", posture.title, "-" * len(posture.title)]
        if posture.note:
            parts.append(f"({posture.note})")
        parts += [write_count(line) for line in form.lines(posture)]
    return "\n".join(parts) + "\n"


def trace_csv(form: Form, trace: Trace) -> str:
    """One row a count, the opening first, with the columns of `TRACE_COLUMNS`."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(TRACE_COLUMNS)
    for index in range(len(trace)):
        row = trace.row(index)
        feet: list[object] = []
        for side in SIDES:
            foot = row.pose.foot(side)
            feet += [f"{foot.x:.4f}", f"{foot.y:.4f}", f"{foot.heading:.2f}", Contact(foot.contact).word]
        posture = form.posture(row.posture) if row.posture else None
        name = "Opening" if posture is None else posture.name or posture.id
        shares = [f"{100 * row.pose.share(side):.1f}" for side in SIDES]
        heading = [f"{row.pose.torso:.2f}", f"{row.pose.gaze:.2f}"]
        centre = [f"{value:.4f}" for value in trace.centres[index]]
        text = write_count(row.written)
        rows.writerow(
            [
                row.posture or "",
                to_cell(name),
                row.count,
                to_cell(text),
                f"{row.written.beats:g}",
                *feet,
                *shares,
                *heading,
                *centre,
            ]
        )
    return out.getvalue()


def form_from_csv(text: str, base: Form) -> Form:
    """A form with the postures of a table, for the body, school and room of *base*.

    The header must have the columns ``posture`` (an id, the same for all rows of one) and ``text`` (a count); ``name``
    is used when it is there, all others are passed over. Rows without a posture are too. Raises DocumentError.
    """
    rows = csv.reader(io.StringIO(text.removeprefix("\ufeff")))
    try:
        header = [name.strip().lower() for name in next(rows, [])]
        if "posture" not in header or "text" not in header:
            raise DocumentError.of("table.columns", Position(1), found=", ".join(header))
        listed: list[tuple[str, str, list[str]]] = []
        for row in rows:
            values = dict(zip(header, row, strict=False))
            posture, name = values.get("posture", "").strip(), from_cell(values.get("name", "").strip())
            if not posture:
                continue
            if not listed or listed[-1][0] != posture:
                listed.append((posture, name, []))
            listed[-1][2].append(from_cell(values.get("text", "")))
            if rows.line_num > _LARGEST:
                raise DocumentError.of("table.long", Position(rows.line_num), most=_LARGEST)
    except csv.Error as error:
        raise DocumentError.of("table.csv", Position(rows.line_num), reason=str(error)) from None
    ids = [posture for posture, _, _ in listed]
    for number, posture in enumerate(ids):
        if posture in ids[:number]:
            raise DocumentError.of("table.apart", posture=posture)
    postures = tuple(
        Posture(posture, name, tuple(read_line(line, base.school.stance_names) for line in lines if plain_line(line)))
        for posture, name, lines in listed
    )
    return Form(base.title, base.twelve, base.opening, base.torso, base.school, base.body, base.room, postures)
