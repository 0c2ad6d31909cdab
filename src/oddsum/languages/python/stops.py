"""What an exception means, in plain words."""

from __future__ import annotations

from oddsum.languages.stopping import Told, told
from oddsum.model.case import DEFAULT_MEMORY
from oddsum.model.limits import MOST_FILE, MOST_OPEN

# Type of exception, what its message holds, and the sentence; the first that fits is told.
_SAID: tuple[Told, ...] = (
    ("NameError|UnboundLocalError", r"cannot access local variable '(\w+)'|local variable '(\w+)'",
     "`{0}` is used before it is given a value in this function. Where a function gives a name a "
     "value, the name is its own, and not the one outside"),
    ("NameError", r"name '(\w+)'", "there is nothing named `{0}` at this point: it is misspelt, or "
     "is given its value only later, or in a part that did not run"),
    ("TypeError", r"unsupported operand type\(s\) for (\S+): '(\w+)' and '(\w+)'",
     "`{0}` cannot be worked out between {1} and {2}"),
    ("TypeError", r"can only concatenate (\w+) \(not \"(\w+)\"\)",
     "`+` puts {0} and {0} together; here one side is {1}"),
    ("TypeError", r"'(.+)' not supported between instances of '(\w+)' and '(\w+)'",
     "{1} and {2} cannot be compared by `{0}`"),
    ("TypeError", r"'(\w+)' object is not callable",
     "brackets behind a value call it, and {0} cannot be called; a name may have been given "
     "another value"),
    ("TypeError", r"'(\w+)' object is not subscriptable", "{0} has no items to take by [ ]"),
    ("TypeError", r"'(\w+)' object is not iterable", "{0} cannot be gone through item by item"),
    ("TypeError", r"missing (\d+) required positional arguments?: (.+)",
     "the call gives too few values: {1} is missing"),
    ("TypeError", r"takes (.+) positional arguments? but (\d+)",
     "the function takes {0} values, and the call gives {1}"),
    ("TypeError", r"'(\w+)' object cannot be interpreted as an integer",
     "a whole number is needed here, and this is {0}"),
    ("ValueError", r"invalid literal for int\(\) with base 10: (.*)",
     "what int() was given, {0}, is no whole number"),
    ("ValueError", r"could not convert string to float: (.*)",
     "what float() was given, {0}, is no number"),
    ("ValueError", r"(not enough|too many) values to unpack",
     "there are {0} values for the names left of the `=`"),
    ("IndexError", r"^(\w+) (?:assignment )?index out of range",
     "{0} was asked for an item it does not have: the first is [0], the last one less than its "
     "length"),
    ("IndexError", r"pop from empty", "an item was to be taken out of a list that is empty"),
    ("KeyError", r"(.*)", "the dict has no key {0}"),
    ("ZeroDivisionError", r"", "something was divided by 0"),
    ("AttributeError", r"'NoneType' object has no attribute '(\w+)'",
     "`.{0}` was asked of None: what stands before the dot was given no value, as when a function "
     "returns nothing"),
    ("AttributeError", r"'(\w+)' object has no attribute '(\w+)'", "{0} has nothing named `{1}`"),
    ("RecursionError", r"", "a function called itself, over and over, and never came to an end"),
    ("FileNotFoundError", r"No such file or directory: (.*)", "there is no file {0} beside the "
     "program"),
    ("ModuleNotFoundError", r"No module named '(.+)'",
     "there is no module {0} for this interpreter: it is misspelt, or not installed"),
    ("EOFError", r"", "it asked for more input than there was"),
    ("MemoryError", r"", "it asked for more memory than Odd Sum gives a run (`memory` in the plan, "
     f"else {DEFAULT_MEMORY:,.0f} MB): something grows without end, or it needs more"),
    ("RuntimeError", r"can't start new thread", "each thread takes some 8 MB of the memory that "
     f"Odd Sum gives a run (`memory` in the plan, else {DEFAULT_MEMORY:,.0f} MB), and no more is "
     "left"),
    ("OSError", r"Too many open files",
     f"Odd Sum lets a run have {MOST_OPEN:,} files open, and it never closed them"),
    ("OSError", r"File too large",
     f"Odd Sum lets a run write files of {MOST_FILE // 2**20:,} MB, and this one grows beyond"),
    ("KeyboardInterrupt", r"", "it was stopped by Ctrl+C"),
)  # fmt: skip
_NAMED = {"str": "text", "int": "a whole number", "float": "a number with decimals",
          "NoneType": "None", "list": "a list", "dict": "a dict", "tuple": "a tuple",
          "function": "a function", "builtin_function_or_method": "a function",
          "bool": "True or False", "set": "a set", "string": "a text",
          "range": "a range"}  # fmt: skip


def plain_stop(kind: str, message: str) -> str:
    """What stopped a program, as a sentence without its end; blank where we know none."""
    return told(_SAID, _NAMED, kind, message)
