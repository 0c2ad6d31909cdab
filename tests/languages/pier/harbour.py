"""Pier, a language of a dozen words, and the probe that runs it: it imports nothing of Odd Sum.

    ask "How many? " n        set total = 0          while n > 0 ... end
    if n > 3 ... end          say "Total:" total     def fare(age) ... give 6 ... end

Started as a script it speaks the wire: a case plain, a case recorded (its events as json), trials.
"""

from __future__ import annotations

import base64
import json
import os
import re
import sys
import time

WORD = re.compile(r'\s*("[^"]*"|\d+|[A-Za-z_]\w*|<=|>=|==|!=|[-+*/%<>(),])')
LEVELS = (("<=", ">=", "==", "!=", "<", ">"), ("+", "-"), ("*", "/", "%"))
DO = {
    "+": lambda a, b: a + b, "-": lambda a, b: a - b, "*": lambda a, b: a * b,
    "/": lambda a, b: a // b, "%": lambda a, b: a % b, "<": lambda a, b: a < b,
    ">": lambda a, b: a > b, "<=": lambda a, b: a <= b, ">=": lambda a, b: a >= b,
    "==": lambda a, b: a == b, "!=": lambda a, b: a != b,
}  # fmt: skip


class Mistake(Exception):
    """The program cannot start: why, and its line."""


class Fault(Exception):
    """The program was stopped by an error of its own."""


class OverSteps(Exception):
    """It took more rounds and calls than it may."""


def words_of(text, line=0):
    """The words of a line, without blanks."""
    found, at = [], 0
    text = text.rstrip()
    while at < len(text):
        match = WORD.match(text, at)
        if match is None:
            raise Mistake(f"this means nothing: {text[at:].strip()}", line)
        found.append(match.group(1))
        at = match.end()
    return found


def parse(text, line=0):
    """An expression as nested tuples: ("name", n), ("value", v), ("call", f, arguments) or an
    operator with its two sides."""
    words = words_of(text, line)
    tree, rest = _level(words, 0, line)
    if rest:
        raise Mistake(f"{rest[0]} stands where nothing should", line)
    return tree


def _level(words, level, line):
    if level == len(LEVELS):
        return _one(words, line)
    left, words = _level(words, level + 1, line)
    while words and words[0] in LEVELS[level]:
        sign = words[0]
        right, words = _level(words[1:], level + 1, line)
        left = (sign, left, right)
    return left, words


def _one(words, line):
    if not words:
        raise Mistake("something is missing at its end", line)
    word, rest = words[0], words[1:]
    if word.startswith('"'):
        return ("value", word[1:-1]), rest
    if word.isdigit():
        return ("value", int(word)), rest
    if word == "(":
        inner, rest = _level(rest, 0, line)
        return inner, rest[1:]
    if rest and rest[0] == "(":
        arguments, rest = [], rest[1:]
        while rest and rest[0] != ")":
            one, rest = _level(rest, 0, line)
            arguments.append(one)
            rest = rest[1:] if rest and rest[0] == "," else rest
        return ("call", word, tuple(arguments)), rest[1:]
    return ("name", word), rest


def names_in(tree):
    """The names in an expression."""
    if tree[0] == "name":
        return [tree[1]]
    parts = tree[2] if tree[0] == "call" else tree[1:]
    return [] if tree[0] == "value" else [n for part in parts for n in names_in(part)]


def calls_in(tree):
    """The calls in an expression."""
    if tree[0] in ("value", "name"):
        return []
    parts = tree[2] if tree[0] == "call" else tree[1:]
    inner = [c for part in parts for c in calls_in(part)]
    return [tree, *inner] if tree[0] == "call" else inner


class Statement:
    """One statement: its line, its last line, what it is, and what stands in it."""

    def __init__(self, line, kind, function):
        self.line, self.end, self.kind, self.function = line, line, kind, function
        self.target, self.trees, self.body, self.parameters = "", (), [], ()


def read(text):
    """The statements of a program; raises Mistake."""
    top, lines, function = [], text.split("\n"), ""
    blocks = [top]
    opened = []
    for number, row in enumerate(lines, 1):
        code = row.split("#")[0].strip()
        if not code:
            continue
        head, _, rest = code.partition(" ")
        if head == "end":
            if not opened:
                raise Mistake("an end without a beginning", number)
            closed = opened.pop()
            closed.end = number
            blocks.pop()
            function = "" if closed.kind == "def" else function
            continue
        one = Statement(number, head, function)
        if head == "set":
            one.target, _, value = (p.strip() for p in rest.partition("="))
            one.trees = (parse(value, number),)
        elif head in ("while", "if", "give"):
            one.trees = (parse(rest, number),)
        elif head == "say":
            one.trees = tuple(parse(p, number) for p in re.findall(r'"[^"]*"|\S+', rest)) if (
                "(" not in rest) else (parse(rest, number),)  # fmt: skip
        elif head == "ask":
            said = re.match(r'"([^"]*)"\s+(\w+)$', rest)
            one.trees = (("value", said.group(1)),) if said else (("value", ""),)
            one.target = said.group(2) if said else rest
        elif head == "def":
            named = re.match(r"(\w+)\((.*)\)$", rest)
            if named is None:
                raise Mistake("a def needs a name and its parameters", number)
            one.target, function = named.group(1), named.group(1)
            one.parameters = tuple(p.strip() for p in named.group(2).split(",") if p.strip())
        else:
            raise Mistake(f"{head} is no word of Pier", number)
        blocks[-1].append(one)
        if head in ("while", "if", "def"):
            opened.append(one)
            blocks.append(one.body)
    if opened:
        raise Mistake("this block has no end", opened[-1].line)
    return top


def every(statements):
    """All statements, those in blocks as well."""
    for one in statements:
        yield one
        yield from every(one.body)


class Run:
    """Runs a program; ``note`` takes the events of a recording, as they are."""

    def __init__(self, text, typed, say, note=None, most=10_000_000, seconds=60.0):
        self.top, self.typed, self.say = read(text), typed, say
        self.note = note or (lambda *events: None)
        self.number = {id(s): n for n, s in enumerate(every(self.top))}
        self.functions, self.names, self.frames, self.calls = {}, {}, [], 0
        self.left, self.line, self.until = most, 0, time.process_time() + seconds

    def slots(self):
        """The variables, each with its function: what the recording's slots are."""
        found = []
        for one in every(self.top):
            inside = [(one.target, p) for p in one.parameters]
            own = [(one.function, one.target)] if one.kind in ("set", "ask") else []
            found += [s for s in (*own, *inside) if s not in found]
        return found

    def go(self):
        """Run it to its end."""
        self.block(self.top)

    def bind(self, name, value):
        scope = self.frames[-1] if self.frames else ("", self.names)
        scope[1][name] = value
        self.note(value, ~self.slots().index((scope[0], name)))

    def block(self, statements):
        """Run statements; what a ``give`` gave, None where none did."""
        for one in statements:
            gave = self.statement(one)
            if gave is not None:
                return gave
        return None

    def statement(self, one):
        self.line = one.line
        self.note(self.number[id(one)])
        self.tick()
        if one.kind == "def":
            self.functions[one.target] = one
        elif one.kind == "set":
            self.bind(one.target, self.value(one.trees[0], one))
        elif one.kind == "ask":
            self.bind(one.target, self.ask(one.trees[0][1]))
        elif one.kind == "say":
            text = " ".join(str(self.value(t, one)) for t in one.trees) + "\n"
            self.note(text, "o")
            self.say(text.encode())
        elif one.kind == "give":
            gave = self.value(one.trees[0], one)
            self.note(gave, "r")
            return (gave,)
        elif one.kind == "if":
            if self.holds(one):
                return self.block(one.body)
        elif one.kind == "while":
            while self.holds(one):
                gave = self.block(one.body)
                if gave is not None:
                    return gave
                self.line = one.line
                self.note(self.number[id(one)])
        return None

    def tick(self):
        self.left -= 1
        if self.left < 0 or time.process_time() > self.until:
            raise OverSteps

    def holds(self, one):
        self.tick()
        answer = bool(self.value(one.trees[0], one))
        self.note(answer)
        return answer

    def ask(self, prompt):
        self.note(prompt, "o")
        self.say(None, prompt)
        if not self.typed:
            raise Fault("there is no more input")
        text = self.typed.pop(0)
        self.note(text, "i")
        self.say(text)
        if not re.fullmatch(r"-?\d+", text.strip()):
            raise Fault(f"{text!r} is no number")
        return int(text)

    def value(self, tree, one):
        kind = tree[0]
        if kind == "value":
            return tree[1]
        if kind == "name":
            for names in (*(f[1] for f in self.frames[-1:]), self.names):
                if tree[1] in names:
                    return names[tree[1]]
            raise Fault(f"{tree[1]} has no value yet")
        if kind == "call":
            return self.call(tree, one)
        left, right = self.value(tree[1], one), self.value(tree[2], one)
        if kind in "/%" and right == 0:
            raise Fault("something is divided by 0")
        return DO[kind](left, right)

    def call(self, tree, one):
        if tree[1] not in self.functions:
            raise Fault(f"there is no function {tree[1]}")
        function = self.functions[tree[1]]
        values = [self.value(t, one) for t in tree[2]]
        self.calls += 1
        self.note(self.number[id(function)], self.calls, "call")
        self.frames.append((function.target, {}))
        for name, value in zip(function.parameters, values, strict=True):
            self.bind(name, value)
        gave = self.block(function.body)
        self.frames.pop()
        if gave is None:
            self.note(0, "r")
        self.line = one.line
        self.note(self.number[id(one)], "back")
        return gave[0] if gave is not None else 0


# -- the probe -----------------------------------------------------------------------------------


class Wire:
    """One end of the wire: requests in, messages out."""

    def __init__(self, reader, writer):
        self.reader, self.writer, self.nonce = os.fdopen(reader, "rb"), writer, ""

    def receive(self):
        line = self.reader.readline()
        return json.loads(line) if line else None

    def send(self, kind, **fields):
        data = (self.nonce + json.dumps({**fields, "k": kind}) + "\n").encode()
        while data:
            data = data[os.write(self.writer, data) :]


def end_of(run, error, typed):
    """The fields of an ``end``."""
    told = None
    if error is not None:
        told = {"type": "Fault", "message": str(error), "file": run.file, "line": run.line,
                "bases": ["Fault"]}  # fmt: skip
    starved = str(error) == "there is no more input"
    return {"status": 1 if error else 0, "error": told, "starved": starved,
            "unread": "\n".join(typed), "returned": None, "checked": None, "check_error": "",
            "remarks": [], "cpu": 0.001, "skipped": [], "drawn": None}  # fmt: skip


def carry_out(run):
    """Run it; the error that stopped it, None where none did."""
    try:
        run.go()
    except Fault as fault:
        run.note("Fault", str(fault), "x")
        return fault
    return None


def one_case(request, wire):
    path = os.path.join(request["folder"], request["program"])
    with open(path, encoding="utf-8") as file:
        text = file.read()
    typed, log, out = sys.stdin.read().splitlines(), [], sys.stdout.buffer
    mark = b"\0" + request["mark"].encode()

    def say(data, prompt=None):
        if prompt is not None:
            out.write(mark + b"<" + prompt.encode() + mark + b">")
        elif isinstance(data, str):
            wire.send("read", text=data)
        else:
            out.write(data)
        out.flush()

    note = (lambda *events: log.extend(events)) if request["mode"] == "record" else None
    try:
        limits = request["limits"]
        run = Run(text, typed, say, note, limits["steps"] or 10_000_000, limits["cpu"])
    except Mistake as mistake:
        said, line = mistake.args
        wire.send("syntax", message=said, file=request["program"], line=line, column=1, text="")
        return 65
    run.file = request["program"]
    if note is not None:
        rows = [[run.file, s.line, s.end, s.function, s.kind] for s in every(run.top)]
        wire.send("statements", base=0, rows=rows)
        wire.send("slots", base=0, rows=[[f, n, not f] for f, n in run.slots()])
    try:
        error = carry_out(run)
    except OverSteps:
        wire.send("looping", frames=[[path, [run.line], 9, [], []]])
        wire.send("log", events=log)
        return 71
    wire.send("log", events=log)
    wire.send("end", **end_of(run, error, typed))
    return 0


def trials(request, wire):
    cases = {c["number"]: c for c in request["cases"]}
    known = {number: [] for number in cases}
    edits, texts, name = [], {}, request["program"]
    wire.send("hello", python="Pier")
    while (asked := wire.receive()) is not None:
        if asked["do"] == "load":
            edits, texts = asked["edits"], asked["texts"]
            cases.update((c["number"], c) for c in asked["cases"])
            continue
        outcomes, new, seen = [], [], known.setdefault(asked["case"], [])
        for numbers in asked["numbers"]:
            text = texts.get(name)
            if text is None:
                with open(os.path.join(request["folder"], name), encoding="utf-8") as file:
                    text = file.read()
            splices = [s for n in numbers for s in edits[n].get(name, ())]
            for start, stop, instead in sorted(splices, reverse=True):
                text = text[:start] + instead + text[stop:]
            did, ticks = one_trial(text, name, cases[asked["case"]], asked)
            if did not in seen:
                seen.append(did)
                new.append(did)
            outcomes.append(seen.index(did))
        wire.send("tried", id=asked["id"], case=asked["case"], outcomes=outcomes, new=new,
                  dirty=False, spoilt=False, refused=[], ticks=ticks)  # fmt: skip
    return 0


def one_trial(text, name, case, asked_for):
    typed, output, asked = case["stdin"].splitlines(), bytearray(), []

    def say(data, prompt=None):
        if prompt is not None:
            start = len(output)
            output.extend(prompt.encode())
            asked.append([start, len(output), ""])
        elif isinstance(data, str):
            asked[-1][2] = data
        else:
            output.extend(data)

    told, ticks = {"ending": "syntax", "starved": False, "unread": "", "error": None}, 0
    try:
        run = Run(text, typed, say, None, asked_for["rounds"], asked_for["seconds"])
        run.file = name
        error = carry_out(run)
        told = {"ending": "raised" if error else "ended", **end_of(run, error, typed)}
        ticks = asked_for["rounds"] - run.left
    except OverSteps:
        told["ending"] = "time"
    except Mistake:
        pass
    did = {**told, "output": base64.b64encode(bytes(output)).decode(), "asked": asked,
           "written": {}, "drawn": None}  # fmt: skip
    return did, ticks


def main():
    wire = Wire(int(sys.argv[1]), int(sys.argv[2]))
    request = wire.receive()
    wire.nonce = request["nonce"]
    return (trials if request["mode"] == "trials" else one_case)(request, wire)


if __name__ == "__main__":
    sys.exit(main())
