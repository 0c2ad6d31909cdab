"""What an error of node's means, in plain words."""

from __future__ import annotations

from oddsum.languages.stopping import Told, told
from oddsum.model.case import DEFAULT_MEMORY

_SAID: tuple[Told, ...] = (
    ("ReferenceError", r"Cannot access '(.+)' before initialization",
     "`{0}` is used ahead of the line that declares it"),
    ("ReferenceError", r"document|window|localStorage|alert is not defined",
     "this belongs to a browser, and node, which runs the program here, does not have it"),
    ("ReferenceError", r"require is not defined",
     "a file with `import` in it has no `require`: use `import` for this, too"),
    ("ReferenceError", r"(\S+) is not defined",
     "there is nothing named `{0}` at this point: it is misspelt, or declared only inside of "
     "another block"),
    ("TypeError",
     r"Cannot (?:read|set) properties of (undefined|null) \((?:reading|setting) '(.+)'\)",
     "`.{1}` was asked of {0}: what stands before it has no value here"),
    ("TypeError", r"Cannot destructure property '(.+)' of '(.+)' as it is (undefined|null)",
     "`{0}` was to be taken out of `{1}`, which is {2}"),
    ("TypeError", r"Assignment to constant variable",
     "a name declared by `const` was to be given another value; `let` allows that"),
    ("TypeError", r"(\S+) is not a function or its return value is not iterable",
     "`{0}` gives nothing that can be gone through item by item"),
    ("TypeError", r"(\S+) is not a function",
     "`{0}` is called, and is no function: it is misspelt, or has no value, or another one"),
    ("TypeError", r"(\S+) is not a constructor",
     "`new` makes an object of a class, and `{0}` is none"),
    ("TypeError", r"(?:object )?(\S+) is not iterable",
     "`{0}` cannot be gone through item by item: `for ... of` goes over lists and texts"),
    ("TypeError", r"Class constructor (\S+) cannot be invoked without 'new'",
     "an object of `{0}` is made by `new {0}(...)`"),
    ("TypeError", r"Cannot mix BigInt and other types",
     "a whole number with `n` behind it cannot be worked with together with a plain number"),
    ("TypeError", r"Cannot assign to read only property '(.+)'",
     "`{0}` is frozen and stays as it is"),
    ("TypeError", r"Reduce of empty array with no initial value",
     "`reduce` was given an empty list and nothing to begin with"),
    ("TypeError", r"Converting circular structure to JSON",
     "an object holds itself, so it has no text"),
    ("RangeError", r"Maximum call stack size exceeded",
     "a function called itself, over and over, and never came to an end"),
    ("RangeError", r"Invalid array length", "a list cannot have this length"),
    ("RangeError", r"Invalid count value: (.+)", "a text cannot be repeated {0} times"),
    ("SyntaxError", r"JSON", "the text that was to be read as JSON is none"),
    ("Error", r"Cannot find module '(.+)'",
     "there is no file or module {0}: it is misspelt, or not there"),
    ("InputEnded", r"", "it asked for more input than there was"),
    ("thrown", r"(.*)", "the program threw {0} itself, and nothing caught it"),
    ("memory", r"", "it asked for more memory than Odd Sum gives a run (`memory` in the plan, else "
     f"{DEFAULT_MEMORY:,.0f} MB): something grows without end, or it needs more"),
)  # fmt: skip


def plain_stop(kind: str, message: str) -> str:
    """What stopped a program, as a sentence without its end; blank where we know none."""
    return told(_SAID, {}, kind, message)
