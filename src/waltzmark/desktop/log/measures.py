"""Measures over time against their plan, drawn by pyqtgraph, which is imported when this is first shown."""

from __future__ import annotations

import statistics
from html import escape
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QVBoxLayout, QWidget

from waltzmark.core.practice.advice import Series
from waltzmark.desktop.plain import Label
from waltzmark.desktop.theme import Theme
from waltzmark.words.language import tr
from waltzmark.words.measures import measure_name

__all__ = ["MeasureChart", "against_plan"]


def against_plan(series: Series) -> tuple[list[float], float | None]:
    """The figures that are drawn and their plan: as measured where the plan is one, off the plan where it changes."""
    plans = {each for each in series.planned if each is not None}
    if len(plans) > 1 and None not in series.planned:
        return [m - (p or 0.0) for m, p in zip(series.measured, series.planned, strict=True)], 0.0
    return list(series.measured), plans.pop() if len(plans) == 1 else None


class MeasureChart(QWidget):
    """One measure: a mark each time, its plan as a dashed line, the mean with its spread as a band."""

    role = QAccessible.Role.Chart

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._plot: Any = None
        self.series: Series | None = None
        self.setAccessibleName(tr("A measure over time"))
        self.setMinimumSize(320, 240)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(16, 12, 16, 8)
        self.empty = Label(tr("Nothing has been measured yet.\nScales, Recall and Turns in Practise take measures."))
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._column.addWidget(self.empty)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.show_series(self.series)

    def show_series(self, series: Series | None) -> None:
        """Shows a measure, or that there is none."""
        self.series = series
        self.empty.setVisible(series is None)
        if series is None:
            if self._plot is not None:
                self._plot.hide()
            return
        import pyqtgraph as graph  # takes half a second: not before it is wanted

        theme = self._theme
        values, plan = against_plan(series)
        if self._plot is None:
            self._plot = graph.PlotWidget(axisItems={"bottom": graph.DateAxisItem()})
            self._plot.setMenuEnabled(False)
            self._column.addWidget(self._plot, 1)
        plot = self._plot
        plot.show()
        plot.clear()
        plot.setBackground(theme.color("paper"))
        for name in ("bottom", "left"):
            axis = plot.getAxis(name)
            axis.setPen(theme.color("faint"))
            axis.setTextPen(theme.color("ink"))
        what = measure_name(series.what)
        if plan == 0.0 and series.planned[0]:
            what = tr("{measure}, off its target", measure=what)
        # The label is made a document: what somebody has called a posture must not be one.
        plot.setLabel("left", escape(f"{what} ({series.unit})" if series.unit else what), color=theme.ink)
        plot.showGrid(x=False, y=True, alpha=0.2)
        times = [each.timestamp() for each in series.when]
        mean, spread = statistics.fmean(values), statistics.stdev(values) if len(values) > 1 else 0.0
        band = graph.LinearRegionItem(
            (mean - spread, mean + spread),
            "horizontal",
            theme.color("note", 0.14),
            theme.color("note", 0.4),
            movable=False,
        )
        plot.addItem(band)
        plot.addItem(graph.InfiniteLine(mean, 0, graph.mkPen(theme.color("faint"), width=1.5)))
        if plan is not None:
            pen = graph.mkPen(theme.color("good"), width=2, style=Qt.PenStyle.DashLine)
            plot.addItem(
                graph.InfiniteLine(plan, 0, pen, label="planned", labelOpts={"color": theme.good, "position": 0.06})
            )
        plot.plot(
            times,
            values,
            pen=graph.mkPen(theme.color("centre", 0.6), width=1.5),
            symbol="o",
            symbolSize=8,
            symbolBrush=theme.color("centre"),
            symbolPen=theme.color("paper"),
        )
        plot.autoRange()
