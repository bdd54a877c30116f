"""The score as text, the trace as CSV, and CSV read back."""

from __future__ import annotations

import csv
import io

import pytest

from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form
from waltzmark.core.score import read_count, write_count
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import DocumentError, read_document
from waltzmark.files.tables import TRACE_COLUMNS, form_from_csv, score_on_paper, trace_csv

DEMO = read_document(demo_text()).form


def test_the_text_has_every_line_of_every_posture() -> None:
    text = score_on_paper(DEMO)
    assert text.startswith("The ferry round\n===============\n")
    for posture in DEMO.postures:
        assert f"\n{posture.title}\n{'-' * len(posture.title)}\n" in text
        assert all(f"\n{write_count(line)}\n" in text for line in DEMO.lines(posture))
    assert "(Half a turn to the right.)" in text


def test_the_table_has_a_row_for_every_count() -> None:
    trace = walk(DEMO)
    rows = list(csv.DictReader(io.StringIO(trace_csv(DEMO, trace))))
    assert tuple(rows[0]) == TRACE_COLUMNS and len(rows) == len(trace)
    assert (rows[0]["posture"], rows[0]["name"], rows[0]["count"]) == ("", "Opening", "0")
    for index in (3, 40, 121):
        row = rows[index]
        assert float(row["left_x"]) == pytest.approx(trace.heels[index, 0, 0], abs=1e-4)
        assert float(row["right_heading"]) == pytest.approx(trace.headings[index, 1], abs=0.01)
        assert float(row["left_percent"]) + float(row["right_percent"]) == pytest.approx(100)
        assert float(row["centre_y"]) == pytest.approx(trace.centres[index, 1], abs=1e-4)


def test_an_exported_trace_comes_back_as_a_form_that_walks_the_same() -> None:
    trace = walk(DEMO)
    again = form_from_csv(trace_csv(DEMO, trace), replace(DEMO, postures=()))
    assert [p.title for p in again.postures] == [p.title for p in DEMO.postures]
    assert walk(again).table[:, :14].tolist() == trace.table[:, :14].tolist()


def test_a_table_of_ones_own_is_read_and_bad_counts_are_kept() -> None:
    text = "\ufeffText,Posture,remark\nR 100,a,x\npivott,a,\n,,\nhold,b,\n"
    form = form_from_csv(text, Form(title="Mine"))
    assert [(p.id, len(p.lines)) for p in form.postures] == [("a", 2), ("b", 1)] and form.title == "Mine"
    assert form.postures[0].lines[0] == read_count("shift R 100")
    assert form.postures[0].lines[1].unread is not None


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("", "1 table.columns(found=)"),
        ("a,b\n1,2\n", "1 table.columns(found=a, b)"),
        ("posture,text\na,hold\nb,hold\na,hold\n", "table.apart(posture=a)"),
        ("posture,text\n" + "a,hold\n" * 20_001, "20001 table.long(most=20000)"),
        ("posture,text\na," + "x" * 200_000 + "\n", "2 table.csv"),
    ],
)
def test_what_is_no_table_is_refused(text: str, told: str) -> None:
    with pytest.raises(DocumentError) as caught:
        form_from_csv(text, Form())
    assert told in str(caught.value)


def test_what_a_spreadsheet_would_reckon_is_text_in_a_table_and_comes_back() -> None:
    for name in ("=1+1", "+cmd", "-2", "@a", "'=1", "''+", "'quoted'", "plain"):
        form = replace(DEMO, postures=(replace(DEMO.postures[0], name=name),))
        text = trace_csv(form, walk(form))
        rows = list(csv.DictReader(io.StringIO(text)))
        assert rows[1]["name"][0] not in "=+-@" and form_from_csv(text, Form()).postures[0].name == name
