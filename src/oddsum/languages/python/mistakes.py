"""What the interpreter says of a program that cannot start, in plain words."""

from __future__ import annotations

import re

from oddsum.languages.python.brackets import unclosed
from oddsum.source.program import Source

# The interpreter's message (any version from 3.9 on) to a sentence; the first that fits is told.
_SAID: tuple[tuple[str, str], ...] = (
    (
        r"inconsistent use of tabs",
        "tabs and blanks are mixed where the lines are set in: use blanks only",
    ),
    (
        r"Non-UTF-8 code",
        "it has a letter in another encoding than UTF-8: save the file as UTF-8 in your editor",
    ),
    (r"null bytes", "it has zero bytes in it: this is no text, or text in another encoding"),
    (r"expected ':'", "a colon is missing at the end of this line"),
    (r"expected an indented block", "the line under a colon has to be set in, by four blanks"),
    (r"unexpected indent", "this line is set in further than the one above, for no reason"),
    (
        r"unindent does not match|inconsistent dedent",
        "this line begins at a column where no line above it began",
    ),
    (
        r"unterminated (f-)?string|EOL while scanning",
        "a text begins here and is not closed: its quote is missing, at its end or its beginning",
    ),
    (
        r"unterminated triple-quoted|EOF while scanning triple",
        "a text over several lines begins and its three quotes at the end are missing",
    ),
    (r"was never closed|unexpected EOF", "a bracket is opened and never closed"),
    (r"unmatched '(.)'", "this {0} closes a bracket that was never opened"),
    (
        r"closing parenthesis '(.)' does not match opening parenthesis '(.)'",
        "a {1} was opened, and it is closed by a {0}",
    ),
    (
        r"Maybe you meant '==' or ':=' instead of '='|cannot assign to .* here",
        "a condition asks with `==`; a single `=` gives a value",
    ),
    (r"cannot assign to", "what stands left of the `=` can be given no value"),
    (r"Perhaps you forgot a comma", "a comma or an operator may be missing between two values"),
    (
        r"recursion depth exceeded|too many nested parentheses|nested too deeply|too complex",
        "an expression goes deeper, or on for longer, than Python reads",
    ),
    (r"Missing parentheses in call to 'print'", "print needs brackets: print(...)"),
    (r"invalid character '?(.)'?", "the character {0} belongs to no program; retype it"),
    (r"'return' outside function", "a return stands outside of any function"),
    (r"'(break|continue)'? (outside|not properly)", "a {0} stands outside of any loop"),
    (r"leading zeros", "a whole number cannot begin with 0"),
    (r"invalid decimal literal", "a name cannot begin with a digit, or an operator is missing"),
    (r"invalid syntax", "something is missing here, or stands where it cannot"),
)


# Where the interpreter only says that something is wrong: what stands there, to a sentence.
_WRITTEN: tuple[tuple[str, str], ...] = (
    (r"=>", "`=>` is written `>=`"),
    (r"=<", "`=<` is written `<=`"),
    (r"=!", "`=!` is written `!=`"),
    (r"<>", "`<>` is written `!=`"),
    (r"&&", "`&&` is written `and`"),
    (r"\|\|", "`||` is written `or`"),
    (r"\+\+", "there is no `++`: write `+= 1`"),
    (r"\belse +if\b", "`else if` is written `elif`"),
    (r"^\s*(elif|else|except|finally)\b",
     "no block that this `{0}` could belong to ends just above it, at the same column"),
    (r"(?<![=!<>])!(?!=)", "`!` is written `not`"),
)  # fmt: skip
_TEXTS = re.compile(r"#.*|'(?:\\.|[^'\\])*'|\"(?:\\.|[^\"\\])*\"")


def plain_mistake(message: str, text: str = "", column: int = 0) -> str:
    """The message in plain words, blank where we know none."""
    if re.search("invalid syntax|expected ':'", message) and text:
        code = _TEXTS.sub(lambda m: "·" * len(m.group()), text)
        for pattern, words in _WRITTEN:
            match = re.search(pattern, code)
            if match is not None:
                return words.format(*match.groups())
    for pattern, words in _SAID:
        match = re.search(pattern, message)
        if match is not None:
            return words.format(*match.groups())
    return ""


def opened_at(source: Source, message: str) -> str:
    """Where the bracket, text or block that the message is about was opened, as a sentence; else
    blank."""
    block = re.search(r"expected an indented block after .* on line (\d+)", message)
    if block is not None and _only_a_comment(source, int(block.group(1))):
        return (
            f"Under line {block.group(1)} stands a comment only, and that does nothing: write "
            "`pass` where nothing is to be done."
        )
    about = r"closed|EOF|does not match|triple-quoted|invalid syntax|comma|unterminated"
    found = unclosed(source.text) if re.search(about, message) else None
    if found is None:
        return ""
    sign, (line, column) = found
    return f"The {sign} opened on line {line}, column {column}, is never closed."


def _only_a_comment(source: Source, line: int) -> bool:
    """Whether a comment is all that is set in under a line."""
    for text in source.lines[line:]:
        if text.strip() and not text.lstrip().startswith("#"):
            return False
        if text.strip():
            return True
    return False
