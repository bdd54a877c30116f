"""What the build adds to pyproject.toml: catalogues of words are compiled, and the grammar becomes a parser."""

from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py

PACKAGE = Path(__file__).parent / "src" / "waltzmark"


def compile_catalogues() -> None:
    """Makes a ``.mo`` of every ``.po``."""
    from babel.messages.mofile import write_mo
    from babel.messages.pofile import read_po

    for source in (PACKAGE / "words" / "catalogues").glob("*/LC_MESSAGES/*.po"):
        with source.open("rb") as file:
            catalogue = read_po(file, locale=source.parent.parent.name)
        with source.with_suffix(".mo").open("wb") as file:
            write_mo(file, catalogue)


def tables_of(grammar: str) -> str:
    """The tables by which a text of a grammar is read, as a module: Lark works them out, a start only takes them."""
    import re
    from pprint import pformat

    from lark import Lark
    from lark.grammar import Terminal

    lark = Lark(
        grammar, start="count", parser="lalr", lexer="contextual", maybe_placeholders=True, g_regex_flags=re.ASCII
    )
    table = lark.parser.parser._parse_table  # Lark writes the same into the parsers that it makes
    lexers = lark.parser.lexer.lexers
    (ignored,) = lark.ignore_tokens

    words, patterns = {}, {}
    for each in lark.terminals:
        alone = re.fullmatch(r"\(?([a-z|]+)\)?\\b", each.pattern.value)
        if alone and set(each.pattern.flags) == {"i"}:
            words[each.name] = tuple(alone[1].split("|"))
        else:
            patterns[each.name] = each.pattern.to_regexp()

    rules = []
    for rule in lark.rules:
        assert not rule.options.keep_all_tokens
        placeholders = rule.options.empty_indices or (False,) * len(rule.expansion)
        left = iter(enumerate(rule.expansion))
        parts = []
        for missing in placeholders:
            if missing:
                parts.append((-1, False))
                continue
            at, symbol = next(left)
            if not (isinstance(symbol, Terminal) and symbol.filter_out):
                parts.append((at, symbol.name.startswith("_")))
        inner = rule.origin.name.startswith("_")
        name = None if inner else str(rule.alias or rule.origin.name)
        alone = bool(rule.options.expand1 and not rule.alias)
        rules.append((str(rule.origin.name), len(rule.expansion), name, alone, tuple(parts)))

    numbers = {table.start_states["count"]: 0}
    order, acts, turns = [*numbers], [], []
    for state in order:  # which grows with the states that are come to
        row, act, turn = table.states[state], {}, {}
        # In the order in which Lark looks for them.
        known = [each.name for each in lexers[state].terminals if each.name != ignored] + ["$END"]
        for name in [*(each for each in known if each in row), *sorted(set(row).difference(known))]:
            kind, arg = row[name]
            if str(kind) == "Shift":
                if arg not in numbers:
                    numbers[arg] = len(order)
                    order.append(arg)
                (act if name in known else turn)[str(name)] = numbers[arg]
            else:
                act[str(name)] = -1 - lark.rules.index(arg)
        acts.append(act)
        turns.append(turn)

    parts = {
        "IGNORED: str": patterns.pop(ignored),
        "WORDS: dict[str, tuple[str, ...]]": words,
        "PATTERNS: dict[str, str]": patterns,
        "RULES: tuple[tuple[str, int, str | None, bool, tuple[tuple[int, bool], ...]], ...]": tuple(rules),
        "ACTS: tuple[dict[str, int], ...]": tuple(acts),
        "TURNS: tuple[dict[str, int], ...]": tuple(turns),
        "LAST: int": numbers[table.end_states["count"]],
    }
    lines = [f"{name} = {pformat(part, width=110, sort_dicts=False)}" for name, part in parts.items()]
    return "\n".join(['"""Made of grammar.lark by the build: see setup.py and machine.py."""', "", *lines, ""])


def generate_parser() -> None:
    """Writes the tables of the score language."""
    score = PACKAGE / "core" / "score"
    grammar = (score / "grammar.lark").read_text(encoding="utf-8")
    (score / "generated.py").write_text(tables_of(grammar), encoding="utf-8")


class Build(build_py):
    """Makes these before the package is put together."""

    def run(self) -> None:
        compile_catalogues()
        generate_parser()
        super().run()


setup(cmdclass={"build_py": Build})
