"""Random JavaScript programs that end: loops, callbacks, closures, generators, lists and objects.

They mean nothing; each statement does something that a recording has to tell.
"""

from __future__ import annotations

from collections.abc import Callable
from random import Random

NUMBERS, LISTS, OBJECTS = "number", "list", "object"


class Writer:
    """Writes one program. ``names``: those in sight, by what they hold; the innermost last."""

    def __init__(self, random: Random) -> None:
        self.random = random
        self.lines: list[str] = []
        self.names: list[tuple[str, str, bool]] = []  # a name, what it holds, whether it can be set
        self.count = 0
        self.functions: list[str] = []  # of two numbers, giving one

    def program(self, functions: int = 4, statements: int = 8) -> str:
        for _ in range(functions):
            self._function()
        for _ in range(statements):
            self._statement(0, 2)
        for name in self.functions:
            self._line(0, f"console.log({name}({self._number(1)}, {self._number(1)}));")
        self._line(0, "console.log(" + ", ".join(n for n, _, _ in self.names) + ");")
        return "\n".join(self.lines) + "\n"

    # -- names -------------------------------------------------------------------------------

    def _new(self, kind: str, can_be_set: bool = True) -> str:
        self.count += 1
        name = f"{kind[0]}{self.count}"
        self.names.append((name, kind, can_be_set))
        return name

    def _some(self, kind: str, can_be_set: bool = False) -> str | None:
        found = [n for n, k, can in self.names if k == kind and (can or not can_be_set)]
        return self.random.choice(found) if found else None

    def _inside(self, write: Callable[[], None]) -> None:
        """What is declared meanwhile is forgotten again."""
        held = len(self.names)
        write()
        del self.names[held:]

    def _line(self, depth: int, text: str) -> None:
        self.lines.append("  " * depth + text)

    # -- expressions -------------------------------------------------------------------------

    def _number(self, levels: int = 2) -> str:
        one = self.random.randrange(7 if levels else 3)
        name = self._some(NUMBERS)
        if one == 0 or name is None:
            return str(self.random.choice((0, 1, 2, 3, 7, 10, 2.5, -4)))
        if one in (1, 2):
            return name
        if one == 3 and (items := self._some(LISTS)):
            return self.random.choice((f"{items}.length", f"({items}[0] ?? 5)"))
        if one == 4 and (held := self._some(OBJECTS)):
            return f"{held}.left"
        if one == 5 and self.functions and levels == 2:
            return f"{self.random.choice(self.functions)}({self._number(1)}, {self._number(0)})"
        sign = self.random.choice(("+", "-", "*", "%"))
        return f"({self._number(levels - 1)} {sign} {self._number(levels - 1)})"

    def _condition(self) -> str:
        sign = self.random.choice(("<", "<=", ">", ">=", "===", "!=="))
        text = f"{self._number(1)} {sign} {self._number(1)}"
        if self.random.randrange(4) == 0:
            text += f" {self.random.choice(('&&', '||'))} {self._number(0)} < {self._number(0)}"
        return text

    # -- statements --------------------------------------------------------------------------

    def _statement(self, depth: int, levels: int) -> None:
        simple = [self._declare, self._set, self._list, self._object, self._print, self._several]
        whole = [self._if, self._for, self._of, self._while, self._callback, self._late,
                 self._try, self._switch, self._gives]  # fmt: skip
        if levels and self.random.randrange(3) == 0:
            self.random.choice(whole)(depth, levels - 1)
        else:
            self.random.choice(simple)(depth)

    def _block(self, depth: int, levels: int) -> None:
        def write() -> None:
            for _ in range(self.random.randrange(1, 4)):
                self._statement(depth, levels)

        self._inside(write)

    def _declare(self, depth: int) -> None:
        value = self._number()
        self._line(depth, f"let {self._new(NUMBERS)} = {value};")

    def _set(self, depth: int) -> None:
        name = self._some(NUMBERS, can_be_set=True)
        if name is None:
            return self._declare(depth)
        sign = self.random.choice(("=", "+=", "-="))
        text = self.random.choice((f"{name} {sign} {self._number()};", f"{name}++;"))
        self._line(depth, text)

    def _list(self, depth: int) -> None:
        name = self._some(LISTS)
        if name is None or self.random.randrange(4) == 0:
            items = ", ".join(self._number(1) for _ in range(self.random.randrange(4)))
            self._line(depth, f"const {self._new(LISTS)} = [{items}];")
            return
        text = self.random.choice((f"{name}.push({self._number(1)});", f"{name}.pop();",
                                   f"{name}[0] = {self._number(1)};", f"{name}.reverse();",
                                   f"{name}.unshift({self._number(0)});"))  # fmt: skip
        self._line(depth, text)

    def _object(self, depth: int) -> None:
        name = self._some(OBJECTS)
        if name is None or self.random.randrange(4) == 0:
            value, items = self._number(1), self._some(LISTS)
            more = f", items: {items}" if items and self.random.randrange(2) else ""
            self._line(depth, f"const {self._new(OBJECTS)} = {{ left: {value}{more} }};")
            return
        text = self.random.choice((f"{name}.left += {self._number(1)};",
                                   f"{name}.more = {self._number(1)};", f"delete {name}.more;"))  # fmt: skip
        self._line(depth, text)

    def _several(self, depth: int) -> None:
        """Two names from a list at once."""
        values = f"[{self._number(1)}, {self._number(1)}]"
        first, second = self._new(NUMBERS), self._new(NUMBERS)
        self._line(depth, f"let [{first}, {second}] = {values};")

    def _print(self, depth: int) -> None:
        self._line(depth, f"console.log(`{self.count}: ${{{self._number(1)}}}`);")

    def _if(self, depth: int, levels: int) -> None:
        self._line(depth, f"if ({self._condition()}) {{")
        self._block(depth + 1, levels)
        if self.random.randrange(2):
            self._line(depth, "} else {")
            self._block(depth + 1, levels)
        self._line(depth, "}")

    def _rounds(self, depth: int, levels: int, header: str, name: str | None = None) -> None:
        def write() -> None:
            if name is not None:
                self.names.append((name, NUMBERS, False))
            self._line(depth, header)
            self._block(depth + 1, levels)
            if self.random.randrange(3) == 0:
                way = self.random.choice(("break", "continue"))
                self._line(depth + 1, f"if ({self._condition()}) {{ {way}; }}")
            self._line(depth, "}")

        self._inside(write)

    def _for(self, depth: int, levels: int) -> None:
        self.count += 1
        i = f"i{self.count}"
        self._rounds(
            depth, levels, f"for (let {i} = 0; {i} < {self.random.randrange(4)}; {i}++) {{", i
        )

    def _of(self, depth: int, levels: int) -> None:
        self.count += 1
        name = f"e{self.count}"
        items = f"[{', '.join(self._number(1) for _ in range(self.random.randrange(4)))}]"
        self._rounds(depth, levels, f"for (const {name} of {items}) {{", name)

    def _while(self, depth: int, levels: int) -> None:
        self.count += 1
        name = f"w{self.count}"
        self._line(depth, f"let {name} = {self.random.randrange(4)};")
        self._rounds(depth, levels, f"while ({name}-- > 0) {{", name)

    def _callback(self, depth: int, levels: int) -> None:
        self.count += 1
        given = f"g{self.count}"
        items = self._some(LISTS) or "[4, 1, 3]"
        way = self.random.choice(("map", "filter", "forEach"))

        def write() -> None:
            self.names.append((given, NUMBERS, True))
            self._block(depth + 1, levels)
            self._line(depth + 1, f"return {self._number(1)};")

        self._line(depth, f"{items}.slice(0, 4).{way}(({given}) => {{")
        self._inside(write)
        self._line(depth, "});")

    def _late(self, depth: int, levels: int) -> None:
        """Functions that are made in rounds and called when these are over."""
        self.count += 1
        made, i = f"m{self.count}", f"j{self.count}"

        def write() -> None:
            self.names.append((i, NUMBERS, False))
            inner = self._number(1)
            self.names.append((f"t{i}", NUMBERS, False))
            self._line(depth + 1, f"const t{i} = {inner};")
            self._line(depth + 1, f"{made}.push(() => {{")
            self._block(depth + 2, 0)
            self._line(depth + 2, f"return {i} + t{i};")
            self._line(depth + 1, "});")

        self._line(depth, f"const {made} = [];")
        word = self.random.choice(("let", "let", "var"))
        self._line(depth, f"for ({word} {i} = 0; {i} < 3; {i}++) {{")
        self._inside(write)
        self._line(depth, "}")
        self._line(depth, f"console.log({made}.map((one) => one()));")

    def _try(self, depth: int, levels: int) -> None:
        self.count += 1
        self._line(depth, "try {")
        self._block(depth + 1, levels)
        self._line(
            depth + 1, f'if ({self._condition()}) {{ throw new Error("wet {self.count}"); }}'
        )
        self._line(depth, f"}} catch (x{self.count}) {{")
        self._line(depth + 1, f"console.log(x{self.count}.message);")
        if self.random.randrange(2):
            self._line(depth, "} finally {")
            self._block(depth + 1, 0)
        self._line(depth, "}")

    def _switch(self, depth: int, levels: int) -> None:
        self._line(depth, f"switch ({self._number(1)}) {{")
        for value in (0, 2):
            self._line(depth + 1, f"case {value}: {{")
            self._block(depth + 2, levels)
            if self.random.randrange(2):
                self._line(depth + 2, "break;")
            self._line(depth + 1, "}")
        self._line(depth + 1, "default:")
        self._line(depth + 2, f"console.log({self._number(0)});")
        self._line(depth, "}")

    def _gives(self, depth: int, levels: int) -> None:
        """A generator that is gone over, perhaps not to its end."""
        self.count += 1
        name, i = f"y{self.count}", f"k{self.count}"

        def write() -> None:
            self.names.append((i, NUMBERS, False))
            self._line(depth + 1, f"for (let {i} = 0; {i} < 3; {i}++) {{")
            self._block(depth + 2, 0)
            self._line(depth + 2, f"yield {self._number(1)};")
            self._line(depth + 1, "}")

        self._line(depth, f"function* {name}() {{")
        self._inside(write)
        self._line(depth, "}")
        self._rounds(depth, levels, f"for (const v{self.count} of {name}()) {{", f"v{self.count}")

    def _function(self) -> None:
        self.count += 1
        name, one, two = f"f{self.count}", f"a{self.count}", f"b{self.count}"

        def write() -> None:
            self.names += [(one, NUMBERS, True), (two, NUMBERS, False)]
            for _ in range(self.random.randrange(2, 6)):
                self._statement(1, 2)
            self._line(1, f"return {self._number()};")

        self._line(0, f"function {name}({one}, {two}) {{")
        self._inside(write)
        self._line(0, "}")
        self.functions.append(name)
