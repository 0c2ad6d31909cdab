"""Each kind of edit: what it proposes, and that it touches nothing else."""

from __future__ import annotations

import ast
import os

import pytest

from conftest import DATA, FERRY
from oddsum.languages.python.edits import EDIT_RULES, place, trial_edits, with_edit
from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.edits.unprinted import Unprinted
from oddsum.model.lead import TrialEdit
from oddsum.source.edits import applied, edits_of, lines_of
from oddsum.source.program import Source

LOOP = "def f(xs):\n    t = 0\n    for x in xs:\n        t += x\n    return t\n"
# For each kind: a program with the edit, and the line or lines that should be among the proposals.
WANTED = [
    ("comparison", "if a < b: pass", "a <= b"),
    ("comparison", "if a is 3: pass", "a == 3"),
    ("bounds", "for i in range(1, n - 1): pass", "range(1, n)"),
    ("bounds", "for i in range(n): pass", "range(1, n)"),
    ("bounds", "y = s[:3]", "s[:4]"),
    ("bounds", "y = s[:]", "s[1:]"),
    ("bounds", "y = s[i:n]", "s[i:i + n]"),
    ("bounds", "y = s[i + 1:n // 2]", "s[i + 1:i + 1 + n // 2]"),
    ("bounds", "y = s[i:i + n]", "s[i:n]"),
    ("bounds", "y = s[i:n + i]", "s[i:n]"),
    ("parentheses", "x = a + b / 2", "(a + b) / 2"),
    ("parentheses", "x = (a + b) * 2 + c", "a + b * 2 + c"),
    ("parentheses", "if a or b and c: pass", "(a or b) and c"),
    ("arithmetic", "x = a // b", "a / b"),
    ("arithmetic", "x -= a", "x += a"),
    ("unit", "x = m / 100", "m / 60"),
    ("unit", "x = 60 * h + m", "3600 * h"),
    ("unit", "x = h % 12", "h % 24"),
    ("turning", "import turtle\nturtle.left(90)", "turtle.right(90)"),
    ("turning", "from turtle import *\npenup()", "pendown()"),
    ("augmented", "for x in y:\n    t = x", "t += x"),
    ("augmented", "d[k] = 1", "d[k] = d.get(k, 0) + 1"),
    ("augmented", "t = s + p", "t = t + p"),
    ("logic", "if a > 1 and b: pass", "a > 1 or b"),
    ("logic", "if not a: pass", "if a: pass"),
    ("logic", "if a in b: pass", "a not in b"),
    ("logic", "if f(a): pass", "not f(a)"),
    ("branch", "if a:\n    x = 1\nif b:\n    x = 2", "elif b:"),
    ("branch", "if a:\n    x = 1\nelif b:\n    x = 2", "\nif b:"),
    ("branch", "if a:\n    x = 1\nx = 2", "else:\n    x = 2"),
    ("index", "y = s[0]", "s[-1]"),
    ("index", "y = s[i]", "s[i - 1]"),
    ("index", "y = s.pop()", "s.pop(0)"),
    ("row and column", "y = g[a][b]", "g[b][a]"),
    ("row and column", "y = g[a + k][b]", "g[a][b + k]"),
    ("alias", "def f(xs):\n    ys = xs\n    return ys", "ys = xs[:]"),
    ("alias", "def f(x, xs):\n    xs = xs + [x]", "xs += [x]"),
    ("alias", "g = [[0] * n] * m", "[[0] * n for _ in range(m)]"),
    ("alias", "def f(a, xs=[]):\n    return xs", "if xs is None:\n        xs = []"),
    ("alias", "def f(a, xs=set()):\n    return xs", "if xs is None:\n        xs = set()"),
    ("belonging", "class A:\n    xs = []\n\n    def f(self):\n        self.xs.append(1)", "self.xs = []"),
    ("late", "for z in y:\n    def f(a):\n        return a + z", "def f(a, z=z):"),
    ("late", "fs = [lambda: z for z in y]", "lambda z=z: z"),
    ("remembered", "def f(a, b):\n    key = a\n    return k[key]", "key = (a, b)"),
    (
        "remembered",
        "class A:\n    def __init__(self):\n        self.k = {}\n\n    def s(self, v):\n"
        "        self.v = v\n\n    def g(self, n):\n        return n in self.k",
        "self.v = v\n        self.k.clear()",
    ),
    ("sorting", "y = sorted(xs)", "sorted(xs, reverse=True)"),
    ("sorting", "y = sorted(xs, key=len)", "sorted(xs)"),
    ("sorting", "xs.sort(key=len)", "xs.sort()"),
    ("sorting", "y = max(d)", "max(d, key=d.get)"),
    ("sorting", "xs.sort(key=lambda r: r[0])", "lambda r: (r[0], r[2])"),
    ("sorting", "b.a = b.c = 1\nxs.sort(key=lambda r: r.a)", "lambda r: (r.a, r.c)"),
    ("sorting", "y = min(xs, key=lambda r: (r[1], r[0]))", "lambda r: (-r[1], r[0])"),
    ("given back", "def f(x):\n    print(x)", "return x"),
    ("given back", "def f(x):\n    f(x - 1) + 1", "return f(x - 1) + 1"),
    ("used up", "x = (a for a in b)", "x = [a for a in b]"),
    ("used up", "x = map(f, b)", "x = list(map(f, b))"),
    ("logic", "y = d == 'a' or 'b'", "d == 'a' or d == 'b'"),
    ("conversion", "y = e > str(n)", "int(e) > n"),
    ("rounding", "y = sum(round(a) for a in b)", "round(sum(a for a in b))"),
    ("mutated", "for x in xs:\n    xs.remove(x)", "for x in list(xs):"),
    ("lost update", "a = b\nb = a", "a, b = b, a"),
    ("lost update", "for x in y:\n    d[x] = []", "d.setdefault(x, [])"),
    ("lost update", "h = p[0]\np[0] = p[1]\np[1] = p[0]", "p[1] = h"),
    ("global", "n = 0\ndef f():\n    n = 1", "    global n\n    n = 1"),
    ("discarded", "s.strip()", "s = s.strip()"),
    ("discarded", "y = 1\nxs = xs.sort()", "\nxs.sort()"),
    ("commented", "x = 0\n# x += 1", "\nx += 1"),
    ("leaving", "for x in y:\n    break", "continue"),
    ("leaving", "def f(y):\n    for x in y:\n        if x:\n            return x", "\n    return x"),
    ("placement", LOOP.replace("    return", "        return"), "\n    return t"),
    ("placement", "for x in xs:\n    t = 0\n    t += x", "t = 0\nfor x in xs:"),
    ("placement", "if a:\n    x = 1\ny = 2", "    x = 1\n    y = 2"),
    ("order", "a = 1\nb = 2", "b = 2\na = 1"),
    ("order", "if a > 1:\n    x = 1\nelif a > 0:\n    x = 2", "if a > 0:\n    x = 2\nelif a > 1:"),
    ("inner loop", "if a >= b:\n    a -= b", "while a >= b:"),
    ("rounding", "x = round(a / b)", "round(a / b, 2)"),
    ("rounding", "x = round(a, 1) * 100", "round(a * 100, 1)"),
    ("folding", "a = input()\nif a == b: pass", "input().strip()"),
    ("folding", "x = s.strip().lower()", "x = s.strip()\n"),
    ("conversion", "n = input()", "int(input())"),
    ("conversion", "x = int(a)", "x = a\n"),
    ("arguments", "x = f(a, b)", "f(b, a)"),
    ("arguments", "x = a - b", "b - a"),
    ("arguments", "x = a * b / 100", "a * 100 / b"),
    ("arguments", "def f(a, b): pass", "def f(b, a)"),
    ("attribute", "x = min(a, b)", "max(a, b)"),
    ("attribute", "xs.append(a)", "xs.remove(a)"),
    ("attribute", "xs.append(a)", "xs.insert(0, a)"),
    ("variable", "def f(a, b):\n    return a + 1", "return b + 1"),
    ("initial", "t = 0", "t = 1"),
    ("initial", "t = 0", 't = float("inf")'),
    ("initial", "for n, x in enumerate(y): pass", "enumerate(y, 1)"),
    ("initial", "for n, x in enumerate(y, start=1): pass", "start=0"),
    ("constant", "x = 16", "x = 15"),
    ("constant", "x = 61", "x = 16"),
    ("constant", "x = 0.5", "x = 0.05"),
    ("constant", "x = True", "x = False"),
    ("constant", "x = f'{y:.1f} {z:04d}'", "{y:.2f}"),
    ("constant", "x = f'{y:.1f} {z:04d}'", "{z:05d}"),
    ("missing part", "def f(a, b):\n    return b - a", "return b - a + 1"),
    ("missing part", "def f(a, b):\n    return b", "return b * a"),
    ("missing part", "x = n // 60\ny = 24", "x = (n // 60) % 24"),
    ("missing part", "class B:\n    def __init__(self, n):\n        self.n = n\n        self.xs = []\n\n"
     "    def f(self):\n        return self.n", "return self.n - len(self.xs)"),
    ("missing part", "def f(xs, x):\n    xs.append(x)", "if x not in xs:\n        xs.append(x)"),
    ("doubled", "a += 1\na += 1", "a += 1\n"),
    ("missing", "n = 0\nfor x in y:\n    print(x)", "    n += 1"),
    ("missing", "def f(a):\n    b = a", "return b"),
    ("missing", "class B:\n    def f(self, x):\n        if x in self.xs:\n            self.n = 1",
     "            self.xs.remove(x)"),
    ("missing", "def put(box, x, n):\n    box[x] = n\ndef f(box, a, b, n):\n    print(a)\n    n += 1",
     "    put(box, b, n)\n"),
    ("missing", "def f(xs):\n    for x in xs:\n        t += x\n        print(t)", "t = 0\n    for"),
    ("missing", "class B:\n    def __init__(self):\n        self.n = 0\n\n    def f(self, xs):\n"
     "        if not xs:\n            return self.n\n        return 0",
     "            self.n += len(xs)\n            return self.n"),
    ("missing", "def f(a, xs):\n    for x in xs:\n        print(a // x)", "        a %= x\n"),
    ("bounds", "def f(a, b):\n    for i in range(a, b): pass", "range(a, b, a)"),
    ("initial", "ws = [h]\nxs = set()", "xs = {h}"),
    ("initial", "def f(h):\n    xs = []", "xs = [h]"),
    ("index", "y = int(s[0])", "s[:-1]"),
    ("index", "for c in xs:\n    t = xs[0].n", "t = c.n"),
    ("initial", "def f(x):\n    t = 0\ny = x['own']", "t = x['own']"),
    ("conversion", "def f(x, xs):\n    for a in xs:\n        x += 1", "for a in set(xs):"),
    ("unit", "v = m / t\nw = 2", "m / (t / 60)"),
    ("conversion", "y = {k: ', '.join(v) for k, v in d.items()}", "', '.join(sorted(v))"),
    ("branch", "for c in s:\n    if c > 'a':\n        t += c * 2", "    else:\n        t += c\n"),
    ("logic", "if n > m or c < d: pass", "n > m or (n == m and c < d)"),
    ("deeper", "def f(x):\n    t = x['own']\n    for p in x['all']:\n        t += p['own']\n    return t",
     "t += f(p)"),
    ("missing", "def f(a, b):\n    if a.n:\n        b = 1\n    return b\ndef g(a):\n    a.n -= 1",
     "        a.n += 1"),
    ("missing", "def f(a, b):\n    if a not in box.get(b, []):\n        return 0\n    return 1",
     "box[b].remove(a)"),
    ("lost update", "class A:\n    def f(self, a, b):\n        self.d[a] = [b]",
     "self.d.setdefault(a, []).append(b)"),
    ("missing part", "def f(a, b):\n    b[a] = t\n    return None",
     "    if b[a] is None or t < b[a]:\n        b[a] = t"),
    ("missing part", "y = [c for c in s]", "[c for c in s if c.isalpha()]"),
    ("unused", "n = 9\nroom = n - 2\nt = n + 1", "t = min(n + 1, room)"),
    ("missing", "def f(a, b):\n    o.a += a\n    t = 1", "o.b += b"),
    ("lost update", "for x in y:\n    d[x] = [n]", "d.setdefault(x, []).append(n)"),
    ("missing part", "def f(a, b):\n    t = a.count(1)\n    return t", "min(a.count(1), b.count(1))"),
    ("missing part", "for x in y:\n    p = f(x)\n    return p", "    if p is not None:\n        return p"),
    ("conversion", "while xs > t: pass\nif xs > xs: pass", "len(xs) > len(xs)"),
    ("logic", "t = a or b", "t = a + b"),
    ("constant", "x = f'{y:4d} {z:04d}'", "{y:04d}"),
    ("unit", "v = m / t", "v = m / t * 60"),
    ("unit", "v = h + m", "v = h * 60 + m"),
    ("unused", "def f(n, low):\n    if n >= 9:\n        k = 1\n    else:\n        k = 2\n    return k",
     "    elif n <= low:\n"),
    ("unused", "def f(n, low):\n    return n > 3", "return n > low"),
    ("unused", "def f(n, each):\n    return n", "return n * each"),
    ("inherited", "class A:\n    def f(self, n):\n        return n + 1\n\n\nclass B(A):\n"
     "    def f(self, n):\n        c = n * 2\n        return c", "c = super().f(n)"),
    ("inherited", "class A:\n    def __init__(self, n):\n        self.n = n\n\n\nclass B(A):\n"
     "    def __init__(self, n):\n        self.m = 2", "        super().__init__(n)\n        self.m"),
    ("missing", "i, j = 0, len(s)\nwhile i < j:\n    i += 1", "    j -= 1"),
    ("missing", "def f(y):\n    xs = []\n    for x in y:\n        if p[0] in xs:\n            x = 1",
     "        xs.append(p[0])"),
    ("missing", "class B:\n    def __init__(self):\n        self.xs = []\n\n    def f(self, x):\n"
     "        if x:\n            return len(self.xs)\n        return 0", "self.xs.append(x)"),
    ("missing", "for n, c in enumerate(y):\n    if c and s is not None:\n        t.append((s, n - s))",
     "\nif s is not None:\n    t.append((s, len(y) - s))"),
    ("missing", "for n, c in y:\n    if c:\n        t.append(xs[n - 1])", "\nif xs:\n    t.append(xs[-1])"),
    ("index", "d[k] = 1\nt = n - d[k]\ny = e[k]", "n - d.pop(k)"),
    ("initial", "h = [1]\nxs = []\nxs.append(tuple(h))\nxs.append(p)", "xs = [tuple(h)]"),
    ("unused", "def f(c):\n    h, m = c.split(':')\n    return int(h) * 60", "return (int(h) * 60) + int(m)"),
    ("missing part", "def f(a):\n    b = min(a, 3)\n    return b", "return a - b"),
    ("unused", "def g(k, n=1):\n    return k * n\nk, c = t\ny = g(k)", "y = g(k, c)"),
    ("missing part", "def f(y):\n    return y - 10", "return max(0, y - 10)"),
    ("missing part", "g = g - len(y)", "g = len(y) - (g - len(y))"),
    ("comparison", "w = 'no' if n else 'yes'\nfor s in ('far', 'near'):\n    t = s == 'far'", "s != 'near'"),
    ("deeper", "def f(w):\n    return w\ndef g(p):\n    return f(p['w'])\nt = f(p['w'])", "t = g(p)"),
    ("constant", "x = f'{t // 100}:{t % 100}'\ny = 60", "{t // 60}:{t % 60}"),
    ("constant", "x = f'{y:>8.1f}'", "{y:>8.2f}"),
    ("bounds", "for i in range(a, n - 1):\n    xs[i] = xs[i + 1]", "range(a, n - 1, 2)"),
    ("unit", "def f(s):\n    return float(s)", "return float(s) / 1000"),
    ("sorting", "for k in sorted(x): pass", "key=lambda key: (-x[key], key)"),
    ("discarded", "def f(a, t):\n    t.take(a)", "a -= t.take(a)"),
    ("missing", "class A:\n    def f(self, m):\n        self.v += m\n\n    def g(self, n):\n"
     "        k = min(n, self.v)\n        return k", "        self.v -= k\n"),
    ("missing", "c = 0\nfor n in y:\n    c += 1\nprint(n)", "    c += 1\n"),
]  # fmt: skip


APPROVED = DATA / "edits"


def proposals(kind: str, text: str) -> list[str]:
    """The whole text after each edit that a rule proposes for a program, in its order."""
    types = dict.fromkeys(("f.xs", "xs"), frozenset({"list"}))
    types |= dict.fromkeys(("f.x", "f.t", "f.a", "f.b", "x", "n"), frozenset({"int"}))
    types |= {"x": frozenset({"dict"})} if kind == "sorting" else {}
    types |= {"a": frozenset({"str"}), "s": frozenset({"str"})} if kind == "folding" else {}
    source = Source("x.py", text + "\n")
    return [with_edit(source, edit) for edit in EDIT_RULES[kind].edits(Scene(source, types))]


@pytest.mark.parametrize(("kind", "text", "wanted"), WANTED)
def test_each_kind_proposes_the_edit_that_undoes_the_edit(kind, text, wanted):
    proposed = proposals(kind, text)
    assert [one for one in proposed if wanted in one], proposed


@pytest.mark.parametrize("kind", dict.fromkeys(kind for kind, _, _ in WANTED))
def test_a_rule_proposes_what_its_table_says_and_no_more(kind):
    """Its programs with all that it proposes for them, read and approved. To write a file anew:
    ODDSUM_NEW_EDITS=1 and this test; then read what has changed in it.
    """
    told = ""
    for text in dict.fromkeys(text for one, text, _ in WANTED if one == kind):
        told += f"{text}\n" + "=" * 20 + "\n"
        told += ("-" * 20 + "\n").join(proposals(kind, text)) + "=" * 20 + "\n\n"
    file = APPROVED / f"{kind.replace(' ', '-')}.txt"
    if os.environ.get("ODDSUM_NEW_EDITS"):
        APPROVED.mkdir(exist_ok=True)
        file.write_text(told, encoding="utf-8")
    assert told == file.read_text(encoding="utf-8")


def test_a_text_of_thousands_of_digits_is_no_number_that_could_be_another():
    long = "1" * 5000  # more than the interpreter makes a number of
    assert not [one for one in proposals("constant", f"x = '{long} {long}'") if "2" in one]
    assert "y = x + 11\n" in proposals("constant", f"x = 0x{'f' * 4000}\ny = x + 12")[0]


def test_every_kind_is_tested_and_explained():
    assert {kind for kind, _, _ in WANTED} | {"expression", "guard", "unprinted"} == set(EDIT_RULES)
    assert len(EDIT_RULES) >= 30
    for kind in EDIT_RULES.values():
        assert kind.title
        assert kind.explanation.endswith((".", "?"))


BOARD = """def board(times):
    shown = 0
    for time in times:
        print(time)
        shown += 1


board([7])
"""
PRINTED = [
    ("shown = 0", "before", "", "none\n", "(times):\n    print(\"none\")\n    shown"),
    ("for", "behind", "shown == 0", "none\n",
     "+= 1\n    if shown == 0:\n        print(\"none\")\n\n\nboard"),
    ("for", "before", "shown", "a\nb \n", "if shown:\n        print(\"a\")\n        print(\"b \")\n    for"),
    ("print", "before", "", 'a "b"\n', "times:\n        print('a \"b\"')\n        print(time)"),
    ("board([7])", "behind", "", "end\n", 'board([7])\nprint("end")\n'),
    ("shown = 0", "behind", "", "none\n", None),  # something follows
    ("time in", "before", "", "none\n", None),  # no statement begins there
]  # fmt: skip


@pytest.mark.parametrize(("at", "gap", "condition", "printed", "wanted"), PRINTED)
def test_a_line_that_nothing_prints_is_put_where_it_is_due(at, gap, condition, printed, wanted):
    source = Source("x.py", BOARD)
    start = BOARD.index(at)
    edit = Unprinted().printed(Scene(source, {}), start, gap, condition, printed, 0.4)
    if wanted is None:
        assert edit is None
        return
    text = with_edit(source, edit)
    assert wanted in text
    compile(text, "x.py", "exec")


AWKWARD = '''
# a comment with < in it
x = "a < b"  # 1 + 2
if (a  <
        b): y = f"{a < b} and {1 + 2}"; z = 3
z = ö[1:n - 1][::2] + -a ** 2 - (b + c) * d
t = 1 < a <= 3 != b


@decorated
def f(a, b=[], *, c):
    """A text with = and + in it."""
    while a: a -= 1
    try:
        b.append(a)

        c = b
    except ValueError:
        pass
    else:
        return c
    return b
'''


def test_edits_leave_the_rest_of_the_program_as_it_is():
    source = Source("x.py", AWKWARD)
    found = list(trial_edits(Scene(source)))
    assert len({text for _, text in found}) == len(found) > 200
    for edit, text in found:
        ast.parse(text)
        assert source.text[edit.start : edit.stop] == edit.old
        assert source.text[: edit.start] + edit.new + source.text[edit.stop :] == text
        assert 1 <= edit.line <= len(source.lines)
        assert 0 < edit.likely < 1
        edits = edits_of(source, text)
        assert applied(source, edits) == text
        assert all(1 <= n <= len(source.lines) + 1 for n in lines_of(edits))
        for one in edits:
            assert tuple(source.text.split("\n")[one.line - 1 : one.end]) == one.before


def test_inside_a_text_with_values_only_what_cannot_break_it_is_tried():
    source = Source("x.py", 'x = f"{a < b}: {name}"\n')
    texts = [text for _, text in trial_edits(Scene(source))]
    assert 'x = f"{a <= b}: {name}"\n' in texts
    for text in texts:
        ast.parse(text)


def test_where_nothing_level_is_told_before_the_mend():
    """Where and what never hold the text that the mend would write."""
    source = Source("x.py", LOOP)
    for edit, _ in trial_edits(Scene(source)):
        assert edit.new.strip() not in edit.where or len(edit.new.strip()) < 4
        assert edit.where.startswith("Look at line")
        assert edit.what
        assert edit.how


def test_a_program_that_cannot_be_read_has_no_slips():
    assert list(trial_edits(Scene(Source("x.py", "def f(:\n")))) == []


def test_reading_what_stands_around_an_edit_decides_as_reading_it_all_does(monkeypatch):
    def proposed() -> dict[str, list[TrialEdit]]:
        sources = [Source(path.name, path.read_text()) for path in sorted(FERRY.glob("*.py"))]
        return {s.name: [e for e, _ in trial_edits(Scene(s))] for s in sources}

    def all_of_it(_scene: Scene, _start: int, _stop: int, text: str) -> bool:
        try:
            return bool(ast.parse(text).body)
        except (SyntaxError, ValueError):
            return False

    found = proposed()
    monkeypatch.setattr(place, "_can_be_read", all_of_it)
    assert found == proposed() and sum(map(len, found.values())) > 1_000
