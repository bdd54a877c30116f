"""Meets the window as a screen reader does, over the session bus: run by ``make access``, in an X server of its own.

It has no eyes and no mouse: keys go in, and what the accessibility bus tells comes out. What is wrong is printed, and
the status is 1.
"""

from __future__ import annotations

import subprocess
import sys
import time
from collections.abc import Callable, Iterator

import gi

gi.require_version("Atspi", "2.0")
from gi.repository import Atspi, GLib  # noqa: E402

STAGES = ("Ready", "Words", "Plot", "Room", "Return", "Sides", "Practise", "Log")
#: Roles that say nothing of what a control is.
EMPTY = {Atspi.Role.FILLER, Atspi.Role.UNKNOWN, Atspi.Role.INVALID}
LISTS = {Atspi.Role.TABLE, Atspi.Role.LIST, Atspi.Role.TREE, Atspi.Role.LIST_BOX, Atspi.Role.TREE_TABLE}
CELLS = {Atspi.Role.TABLE_CELL, Atspi.Role.LIST_ITEM, Atspi.Role.TREE_ITEM}
PICTURES = {Atspi.Role.IMAGE, Atspi.Role.CHART}
TABS, ROWS = 30, 12  # how often Tab is pressed on a stage, and how many rows of a list are heard

wrong: list[str] = []
announced: list[str] = []


def keys(*names: str) -> None:
    subprocess.run(["xdotool", "key", "--delay", "30", *names], check=True)


def heard(seconds: float = 0.05) -> None:
    """Lets what the bus tells come in."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        while GLib.MainContext.default().iteration(False):
            pass
        time.sleep(0.005)


def until(met: Callable[[], object], what: str, seconds: float = 20.0) -> bool:
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if met():
            return True
        heard()
    wrong.append(f"{what}: not within {seconds:.0f} s")
    return False


def has(it: Atspi.Accessible, state: Atspi.StateType) -> bool:
    return bool(it.get_state_set().contains(state))


def children(it: Atspi.Accessible) -> Iterator[Atspi.Accessible]:
    for number in range(min(it.get_child_count(), 400)):
        child = it.get_child_at_index(number)
        if child is not None:
            yield child


def shown(it: Atspi.Accessible) -> Iterator[Atspi.Accessible]:
    """Everything in it that is shown, down to what is in lists."""
    yield it
    if it.get_role() in LISTS:
        return
    for child in children(it):
        if has(child, Atspi.StateType.SHOWING):
            yield from shown(child)


def focused(window: Atspi.Accessible) -> list[Atspi.Accessible]:
    return [it for it in shown(window) if has(it, Atspi.StateType.FOCUSED)]


def named(it: Atspi.Accessible) -> str:
    return f"{it.get_role_name()} “{it.get_name()}”"


def application() -> Atspi.Accessible | None:
    found = [it for it in children(Atspi.get_desktop(0)) if it.get_name() == "waltzmark" and it.get_child_count()]
    return found[0] if found else None


def go(window: Atspi.Accessible, number: int, stage: str) -> None:
    def there() -> bool:
        return any(
            it.get_role() in (Atspi.Role.TOGGLE_BUTTON, Atspi.Role.CHECK_BOX, Atspi.Role.PUSH_BUTTON)
            and it.get_name() == stage
            and has(it, Atspi.StateType.CHECKED)
            for it in shown(window)
        )

    keys(f"ctrl+{number}")
    until(there, f"{stage} is not told as the stage that is on")
    heard(1.0)


def controls(window: Atspi.Accessible, stage: str) -> int:
    """Every control has a name, a role and a state."""
    seen = 0
    for it in shown(window):
        if not has(it, Atspi.StateType.FOCUSABLE) or it.get_role() == Atspi.Role.FRAME:
            continue
        seen += 1
        if not it.get_name() and it.get_role() not in (Atspi.Role.SCROLL_PANE, Atspi.Role.SCROLL_BAR):
            wrong.append(f"{stage}: a {it.get_role_name()} has no name")
        if it.get_role() in EMPTY:
            wrong.append(f"{stage}: {named(it)} says not what it is")
        if has(it, Atspi.StateType.SENSITIVE) and not has(it, Atspi.StateType.ENABLED):
            wrong.append(f"{stage}: {named(it)} has a state that cannot be")
    return seen


def lists(window: Atspi.Accessible, stage: str) -> int:
    """Lists and tables can be read: each row that is met has words."""
    read = 0
    for it in [each for each in shown(window) if each.get_role() in LISTS]:
        cells = (each for each in children(it) if each.get_role() in CELLS and has(each, Atspi.StateType.SHOWING))
        words = [cell.get_name() or cell.get_description() for _, cell in zip(range(ROWS), cells, strict=False)]
        read += len(words)
        if words and not any(words):
            wrong.append(f"{stage}: {named(it)}: its rows say nothing")
    return read


def pictures(window: Atspi.Accessible, stage: str) -> int:
    """What is drawn says what it shows."""
    seen = 0
    for it in shown(window):
        if it.get_role() in PICTURES:
            seen += 1
            if not it.get_name() or not it.get_description():
                wrong.append(f"{stage}: {named(it)} does not say what it shows")
    return seen


def tabs(window: Atspi.Accessible, stage: str) -> int:
    """The focus goes from control to control and is never lost."""
    met = set[tuple[str, str]]()
    for _ in range(TABS):
        keys("Tab")
        heard(0.08)
        at = focused(window)
        if not at:
            heard(0.4)
            at = focused(window)
        if not at:
            wrong.append(f"{stage}: the focus is lost")
            return len(met)
        met.add((at[-1].get_role_name(), at[-1].get_name()))
        if at[-1].get_role() == Atspi.Role.TEXT and has(at[-1], Atspi.StateType.MULTI_LINE):
            keys("Escape")  # a page of text keeps Tab for itself
    if len(met) < 3:
        wrong.append(f"{stage}: Tab reaches no more than {sorted(met)}")
    return len(met)


def main() -> int:
    Atspi.init()
    listener = Atspi.EventListener.new(lambda event: announced.append(str(event.any_data)))
    listener.register("object:announcement")
    if not until(lambda: application() is not None, "the application is on the bus", 40.0):
        print("\n".join(wrong))
        return 1
    app = application()
    assert app is not None
    window = next(iter(children(app)))
    subprocess.run(["xdotool", "search", "--sync", "--onlyvisible", "--name", "Waltzmark", "windowfocus"], check=True)
    heard(2.0)
    for number, stage in enumerate(STAGES, 1):
        go(window, number, stage)
        print(
            f"{stage}: {controls(window, stage)} controls, {pictures(window, stage)} pictures, "
            f"{lists(window, stage)} rows, {tabs(window, stage)} reached by Tab",
            flush=True,
        )
    go(window, 3, "Plot")
    announced.clear()
    for _ in range(TABS):
        keys("Tab")
        heard(0.08)
        if any(it.get_role() in PICTURES for it in focused(window)):
            break
    else:
        wrong.append("Plot: Tab does not reach the floor")
    for _ in range(4):
        keys("Next")
        heard(0.3)
    print(f"announced: {announced[-1:]}")
    if not announced:
        wrong.append("Plot: a step of the playhead is not announced")
    print("\n".join(dict.fromkeys(wrong)))
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
