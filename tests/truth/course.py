"""Random programs of the kind a course has: loops whose headers call, closures, classes with
attributes of their own, generators, ``finally``, lists with two names. They always end."""

from __future__ import annotations

from hypothesis import strategies as st

HEAD = """
def items(n):
    return [k * 2 for k in range(n % 4)]


def going(n):
    return n < 3


def upto(n):
    k = 0
    while k < n % 4:
        yield k
        k += 1


def twice(n):
    yield from upto(n)
    yield n


def tried(n, log):
    for k in range(3):
        try:
            if k == n:
                return k
            log.append(k)
        except TypeError:
            return -1
        finally:
            log.append(-k)
    return n


def strict(n):
    if n > 2:
        raise ValueError(n)
    return n


def counter(start):
    seen = []

    def step(by):
        nonlocal start
        start += by
        seen.append(start)
        return start

    return step


class Boat:
    made = 0
    names = []
    rate = 2

    def __init__(self, name):
        self.name = name
        self.log = []
        Boat.made += 1
        Boat.names.append(name)

    def board(self, n):
        self.log.append(n)
        self.last = n
        return self.rate * len(self.log)


class Ferry(Boat):
    pass


a, b, n = 1, 2, 3
xs = [4, 5, 6]
ys = xs
step = counter(1)
other = counter(10)
boat = Boat("Tern")
ferry = Ferry("Gull")
"""
_VALUES = [
    "a", "b", "n", "0", "1", "3", "len(xs)", "step(1)", "other(n)", "boat.board(a)", "ferry.rate",
    "Boat.made", "sum(items(n))", "tried(a, ys)", "xs[0]", "ferry.board(2)", "strict(b)",
    "next(upto(1), 0)", "max(xs, key=lambda v: -v)", "(lambda v: v + a)(b)",
]  # fmt: skip
_LINES = [
    "xs.append(n)", "ys = list(xs)", "ys = xs", "xs[0] = a", "xs.pop()", "xs.sort(key=lambda v: -v)",
    "Boat.made += 1", "Boat.rate = n", "ferry.rate = 9", "boat.log = []", "del xs[0]", "xs += [1]",
    "Ferry.rate = a", "n += 1", "boat, ferry = ferry, boat", "step = other", "a, b = b, a",
    "print(a, b, n, xs)", "setattr(Boat, 'made', 0)", "xs.insert(0, b)", "xs = [a, b, n]",
]  # fmt: skip
_HEADERS = [
    "for k in items({v}):", "for k in upto({v}):", "for k in twice(n):", "for k in xs[:3]:",
    "for k in sorted(xs[:4], key=lambda v: v % 3):", "for k, v in enumerate(items(n)):",
    "for k in map(lambda v: v + 1, [1, 2]):", "for k in range({v} % 4):", "for k in reversed(ys[:2]):",
]  # fmt: skip


def _indented(block: str) -> str:
    return "\n".join("    " + line for line in block.split("\n"))


def values() -> st.SearchStrategy[str]:
    """Expressions; a number stays small, so that no loop is long."""
    one = st.sampled_from(_VALUES)
    return one | st.tuples(one, st.sampled_from(["+", "-", "*"]), one).map(
        lambda t: f"({t[0]} {t[1]} {t[2]}) % 7"
    )


@st.composite
def blocks(draw: st.DrawFn, depth: int = 2, in_loop: bool = False) -> str:
    """A few statements, some with blocks of their own."""
    lines = []
    for _ in range(draw(st.integers(1, 4))):
        kind = draw(st.integers(0, 9)) if depth else draw(st.integers(0, 3))
        value = draw(values())
        if kind <= 2:
            lines.append(f"{draw(st.sampled_from(['a', 'b', 'n']))} = {value}")
        elif kind <= 4:
            lines.append(draw(st.sampled_from(_LINES)))
        elif kind <= 6:
            header = draw(st.sampled_from(_HEADERS)).format(v=value)
            body = _indented(draw(blocks(depth - 1, True)))
            leave = draw(st.sampled_from(["", "\n    if a > b:\n        break", "\n    continue"]))
            lines.append(f"{header}\n{body}{leave}")
        elif kind == 7:
            body = _indented(draw(blocks(depth - 1, True)))
            lines.append(f"w{depth} = 0\nwhile going(w{depth}):\n    w{depth} += 1\n{body}")
        elif kind == 8:
            yes, no = (_indented(draw(blocks(depth - 1, in_loop))) for _ in range(2))
            lines.append(f"if {value} > {draw(values())}:\n{yes}\nelse:\n{no}")
        else:
            body, caught = (_indented(draw(blocks(depth - 1, in_loop))) for _ in range(2))
            after = "\nfinally:\n    b = 0" if draw(st.booleans()) else ""
            lines.append(f"try:\n{body}\nexcept (ValueError, IndexError):\n{caught}{after}")
    return "\n".join(lines)


@st.composite
def courses(draw: st.DrawFn) -> str:
    """A whole program, its main part perhaps in a function."""
    body = draw(blocks())
    if draw(st.booleans()):
        given = "a=1, b=2, n=3, xs=xs, ys=ys, boat=boat, ferry=ferry, step=step, other=other"
        body = f"def main({given}):\n{_indented(body)}\n    return a\n\n\nprint(main())"
    return HEAD + body + "\n"
