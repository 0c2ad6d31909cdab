"""Random small programs, for properties of the recorder: they always end, and may raise."""

from __future__ import annotations

from hypothesis import strategies as st

NAMES = ("a", "b", "n", "xs", "ys")
NUMBERS = st.integers(-3, 9).map(str)


def expressions(depth: int = 2) -> st.SearchStrategy[str]:
    """Expressions over a few names; some of them raise when they are worked out."""
    leaf = NUMBERS | st.sampled_from(["a", "b", "n", "len(xs)", "xs[0]", "ys[-1]", "'t'", "f(a)"])
    if depth == 0:
        return leaf
    inner = expressions(depth - 1)
    return leaf | st.one_of(
        # A number at the right: what doubles itself in a loop would grow past all bounds.
        st.tuples(inner, st.sampled_from(["+", "-", "//", "%", "<", "=="]), NUMBERS).map(
            lambda t: f"({t[0]} {t[1]} {t[2]})"
        ),
        st.tuples(inner, st.sampled_from(["and", "or"]), inner).map(
            lambda t: f"({t[0]} {t[1]} {t[2]})"
        ),
        inner.map(lambda e: f"(not {e})"),
        st.tuples(inner, inner, inner).map(lambda t: f"({t[0]} if {t[1]} else {t[2]})"),
        inner.map(lambda e: f"[len(str({e})), 1]"),
        inner.map(lambda e: f"[i for i in (1, 2) if {e}]"),
        inner.map(lambda e: f"(lambda v: v)({e})"),
        inner.map(lambda e: f"(w := {e})"),
    )  # fmt: skip


def _indented(block: str) -> str:
    return "\n".join("    " + line for line in block.split("\n"))


@st.composite
def simple(draw: st.DrawFn) -> str:
    """One simple statement."""
    e, f = draw(expressions()), draw(expressions(1))
    return draw(
        st.sampled_from(
            [
                f"a = {e}", f"b = {e}", "n += 2", f"a, b = b, {e}", f"xs = [len(str({f}))]",
                "ys = xs", "xs.append(b)", "xs[0] = n", f"xs[0] = len(str({e}))", "xs += [7]",
                "ys.insert(0, 5)", "xs.sort()", f"print({e})", f"a = g({f})", "del xs[0]", "pass",
                f"assert {e}, 'no'", "d[n] = n", "xs = ys[:]", "a = b = n", "h(xs, n)", "z = 1",
                f"xs[n % len(xs)] = {e}", "xs[n % 2] = n", "ys[(n - 1) // 2] += 1", "d[xs[0]] = n",
                "xs[ys[0] % 2] = b", "xs[xs[0] % 2] = b", "g1[n % 2][n * 1 % 2] = a", "g1[0][d[3]] = 1",
                "g1[g1[1][0]].append(n)", "g1[xs[-1]][0] = 0", "g1[0] = g1[1]", "g1[1] = [0, 1]",
                "o.n += 1", "g1[o.n % 2][o.n % 2] = n", "o.seen[o.n] = n",
            ]
        )
    )  # fmt: skip


@st.composite
def blocks(draw: st.DrawFn, depth: int = 2) -> str:
    """A few statements, some of them with blocks of their own."""
    lines = []
    for _ in range(draw(st.integers(1, 4))):
        kind = draw(st.integers(0, 8)) if depth else 0
        if kind <= 4:
            lines.append(draw(simple()))
            continue
        body, other = _indented(draw(blocks(depth - 1))), _indented(draw(blocks(depth - 1)))
        e = draw(expressions(1))
        lines.append(
            {
                5: f"if {e}:\n{body}\nelse:\n{other}",
                6: f"for i in range(3):\n{body}\n    if {e}: break",
                7: f"k{depth} = 0\nwhile k{depth} < 3:\n    k{depth} += 1\n{body}\nelse:\n{other}",
                8: f"try:\n{body}\nexcept Exception as err:\n{other}\nfinally:\n    n = 1",
            }[kind]
        )
    return "\n".join(lines)


HEAD = """
d = {3: 1}
a, b, n = 1, 2, 3
xs = [4, 5]
ys = xs
g1 = [[0, 1], [1, 0]]
class O:
    def __init__(self):
        self.n, self.seen = 1, {}
    def __repr__(self):
        return f"O(n={self.n!r}, seen={self.seen!r})"
o = O()
def f(v):
    return v
def g(v):
    t = 0
    for u in range(2):
        t = t + u
    if v:
        return [v, t]
def h(list_, v):
    list_.append(v)
    return list_
"""


@st.composite
def programs(draw: st.DrawFn) -> str:
    """A whole program: names, three functions, and a random main part, perhaps in a function."""
    body = draw(blocks())
    if draw(st.booleans()):
        given = "a=1, b=2, n=3, xs=xs, ys=ys"
        body = f"def main({given}):\n{_indented(body)}\n    return a\nprint(main())"
    return HEAD + body + "\n"
