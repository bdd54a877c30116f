"""The commands by name, each with an example and what it does: a window that starts need not import what they do."""

from __future__ import annotations

__all__ = ["COMMANDS", "DRAWN"]

#: What is typed after ``waltzmark``, and what it gives.
COMMANDS = {
    "trace": ("trace FILE --json", "where everything is after each count"),
    "check": ("check FILE", "findings and the three answers"),
    "room": ("room FILE --class 6", "where to stand, what would make it fit, and a class"),
    "home": ("home FILE --close 1 -o OUT.waltz", "what carries it away and what closes it"),
    "loop": ("loop FILE --make 1 -o OUT.waltz", "the drills hidden in it"),
    "sides": ("sides FILE --json", "whether its sides mirror"),
    "compare": ("compare A.waltz B.waltz", "what differs between two forms"),
    "mirror": ("mirror FILE -o OUT.waltz", "the other side of it all"),
    "scale": ("scale --plates 2", "a simulated scale"),
}
#: Those that draw, and so need what a window needs.
DRAWN = {"sheet": ("sheet FILE --kind chart --scale 1:20 -o OUT.pdf", "a page to print")}
