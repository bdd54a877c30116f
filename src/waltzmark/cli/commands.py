"""The commands by name, each with an example and what it does: a window that starts need not import what they do."""

from __future__ import annotations

from waltzmark.words.language import N_

__all__ = ["COMMANDS", "DRAWN"]

#: What is typed after ``waltzmark``, and what it gives.
COMMANDS = {
    "trace": ("trace FILE --json", N_("where everything is after each count")),
    "check": ("check FILE", N_("findings and the three answers")),
    "room": ("room FILE --class 6", N_("where to stand, ways to make it fit, and a class")),
    "home": ("home FILE --close 1 -o OUT.waltz", N_("where each posture takes it, and ways to close the gap")),
    "fit": ("fit FILE --body BODY.toml", N_("the nearest form that a body can walk")),
    "loop": ("loop FILE --make 1 -o OUT.waltz", N_("loops inside it, as drills")),
    "sides": ("sides FILE --json", N_("whether its sides mirror")),
    "compare": ("compare A.waltz B.waltz", N_("what differs between two forms")),
    "mirror": ("mirror FILE -o OUT.waltz", N_("the mirror image of the form")),
    "draft": ("draft WORDS.txt --after FORM.waltz", N_("plain instructions drafted as counts")),
    "scale": ("scale --plates 2", N_("a simulated scale")),
}
#: Those that draw, and so need what a window needs.
DRAWN = {
    "figure": ("figure FILE --count 12 --side right -o OUT.svg", N_("the body in space, or drawn from a side")),
    "film": ("film FILE --voice all -o OUT.webm", N_("the form walked, as a film or its sound")),
    "sheet": ("sheet FILE --kind chart --scale 1:20 -o OUT.pdf", N_("a page to print")),
}
