"""What node says of a program that cannot start, in plain words."""

from __future__ import annotations

import re

from oddsum.languages.javascript.parsing import Tree
from oddsum.source.program import Source

# Node's message (any version from 18 on) to a sentence; the first that fits is told.
_SAID: tuple[tuple[str, str], ...] = (
    (r"Invalid or unexpected token",
     "a text is not closed on its line, or a character stands here that belongs to no program"),
    (r"missing \) after argument list", "a bracket `)` is missing after what a call is given"),
    (r"Unexpected end of input", "a bracket is opened and never closed"),
    (r"Unterminated template literal", "a text begins with a backtick and is not closed"),
    (r"Invalid regular expression", "a pattern between slashes cannot be read"),
    (r"Missing initializer in const declaration", "a `const` needs its value at once"),
    (r"Identifier '(.+)' has already been declared", "the name `{0}` is declared a second time"),
    (r"Unexpected token 'else'",
     "this `else` belongs to no `if`: see whether a `}}` or `;` is ahead of it"),
    (r"Unexpected token '([)\]}}])'",
     "this `{0}` closes a bracket that was never opened, or too early"),
    (r"Unexpected token '='", "a single `=` gives a value, and stands where none can be given"),
    (r"Unexpected token '(.+)'",
     "`{0}` stands where it cannot, or something is missing ahead of it"),
    (r"Unexpected identifier(?: '(.+)')?",
     "an operator, a comma or a bracket is missing ahead of this name"),
    (r"Unexpected (string|number|template string)",
     "an operator or a comma is missing ahead of this {0}"),
    (r"Unexpected reserved word|Unexpected strict mode reserved word",
     "this word belongs to the language, and cannot be used here"),
    (r"await is only valid in async functions",
     "`await` can only stand in a function that is `async`"),
    (r"Illegal return statement", "a `return` stands outside of any function"),
    (r"Illegal (break|continue) statement", "a `{0}` stands outside of any loop"),
    (r"Illegal (break|continue)", "a `{0}` stands outside of any loop"),
    (r"Invalid left-hand side in assignment", "what stands left of the `=` can be given no value"),
    (r"Invalid left-hand side", "what stands here can be given no value"),
    (r"Invalid destructuring assignment target",
     "what stands left of the `=` can be given no value"),
    (r"Unexpected eval or arguments in strict mode",
     "`eval` and `arguments` can be given no value"),
    (r"Cannot use import statement outside a module",
     'node takes this file for one of the older kind: name it with the ending .mjs, or write '
     '"type": "module" into a package.json beside it'),
    (r"does not provide an export named '(.+)'",
     "the other file gives nothing that is called `{0}`"),
    (r"require is not defined", "a file with `import` in it has no `require`"),
    (r"Unexpected token", "something is missing here, or stands where it cannot"),
)  # fmt: skip
_CLOSES = {")": "(", "]": "[", "}": "{"}
_SKIPPED = frozenset({"string", "template_string", "regex", "comment"})


def plain_mistake(message: str, text: str = "", column: int = 0) -> str:
    """A sentence of our own for a message, blank for one that we do not know."""
    if "\0" in text or "\ufffd" in text:
        return "the file is saved in another encoding than UTF-8, which is all that node reads"
    for pattern, words in _SAID:
        told = re.search(pattern, message)
        if told:
            return words.format(*(g or "" for g in told.groups()))
    return ""


def opened_at(source: Source, message: str) -> str:
    """Where the bracket that is never closed was opened; else blank."""
    if not re.search(r"Unexpected end of input|missing \) after", message):
        return ""
    opened: list[tuple[str, int]] = []
    for letter, line in _brackets(source.text):
        if letter in "([{":
            opened.append((letter, line))
        elif opened and opened[-1][0] == _CLOSES[letter]:
            opened.pop()
    if not opened:
        return ""
    letter, line = opened[-1]
    return f"The {letter} that was opened on line {line} is not closed."


def _brackets(text: str) -> list[tuple[str, int]]:
    """Every bracket outside of texts and comments, with its line."""
    tree = Tree(text)
    found, todo = [], [tree.root]
    while todo:
        node = todo.pop()
        if node.type in _SKIPPED:
            continue
        if node.child_count == 0 and len(tree.of(node)) == 1 and tree.of(node) in "()[]{}":
            found.append((tree.start(node), tree.of(node), int(node.start_point[0]) + 1))
        todo += node.children
    return [(letter, line) for _, letter, line in sorted(found)]
