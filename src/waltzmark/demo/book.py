"""A made-up practice book of three months, by two simulated persons; never kept, and never mixed with a real one."""

from __future__ import annotations

import random
from collections.abc import Mapping
from datetime import datetime, timedelta
from typing import Any

from waltzmark.core.base.leftright import Side
from waltzmark.core.form.form import Form
from waltzmark.core.practice.entries import Entry, Kind, Outcome, WhichSide, sides_of_form
from waltzmark.core.practice.turns import turn_name
from waltzmark.core.walk.trace import Trace
from waltzmark.demo import persons

__all__ = ["demo_book"]

_DAYS = 92


def demo_book(form: Form, trace: Trace, today: datetime) -> tuple[Entry, ...]:
    """Three months of practice up to *today*: walks, drills of both sides, recall that grows surer, weights that come
    nearer to what is meant, a left hip that comes round a little further, and once a knee that hurts."""
    dice = random.Random(7)
    sides = sides_of_form(form, trace)
    chosen = [posture.id for posture in form.postures if sides[posture.id]][:8]
    found: list[Entry] = []
    if not chosen:
        return ()
    for day in range(_DAYS, 0, -1):
        done = 1.0 - day / _DAYS  # how far the three months have gone
        at = (today - timedelta(days=day)).replace(hour=18, minute=30, second=0, microsecond=0)
        for person in persons():
            if dice.random() > (0.55 if person == persons()[0] else 0.4):
                continue
            found += _evening(form, chosen, sides, at, person, done, dice)
            at += timedelta(hours=1)
    return tuple(found)


def _evening(
    form: Form,
    chosen: list[str],
    sides: Mapping[str, WhichSide],
    at: datetime,
    person: str,
    done: float,
    dice: random.Random,
) -> list[Entry]:
    """What one person does in an evening."""
    title, found = form.title, []

    def add(minutes: float, kind: Kind, posture: str = "", **more: Any) -> None:
        nonlocal at
        name = form.posture(posture).title if posture else ""
        made = Entry(at, kind, person, title, posture, name, sides.get(posture, ""), minutes=minutes, **more)
        found.append(made)
        at += timedelta(minutes=minutes)

    if dice.random() < 0.6:
        add(6.0, "walk", reps=1)
    for posture in dice.sample(chosen, min(2, len(chosen))):
        weak = 0.28 if sides[posture] == "right" else 0.14  # the right side is the weaker one
        for _ in range(dice.randint(3, 6)):
            missed = dice.random() < weak * (1.3 - done)
            outcome: Outcome = dice.choice(("off", "missed")) if missed else "done"
            add(0.8, "drill", posture, outcome=outcome)
    if dice.random() < 0.5:
        posture = dice.choice(chosen)
        quality = min(5, max(0, round(dice.gauss(2.2 + 2.4 * done, 1.0))))
        add(
            1.0,
            "recall",
            posture,
            what=f"count {dice.randint(1, 4)}",
            measured=quality,
            planned=5.0,
            outcome="done" if quality >= 3 else "missed",
        )
    if dice.random() < 0.5:
        target = dice.choice((30.0, 70.0, 50.0))
        add(
            0.5,
            "scale",
            what="share L",
            unit="%",
            planned=target,
            measured=round(target + dice.gauss(5.0 * (1.0 - done), 2.5), 1),
        )
    if dice.random() < 0.35:
        add(
            0.5,
            "turn",
            what=turn_name(Side.LEFT, "in"),
            unit="°",
            planned=35.0,
            measured=round(29.0 + 5.0 * done + dice.gauss(0.0, 1.2)),
        )
    if 0.5 < done < 0.55 and not any(entry.outcome == "hurts" for entry in found):
        add(0.3, "drill", chosen[0], outcome="hurts", note="the right knee, on the pivot")
    return found
