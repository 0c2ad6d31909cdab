"""What is said, in any language, of edits that are found from values that would be right, and of
kinds that all languages have."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Said:
    """A kind of edit in words: what it is called, how it comes about, and what is asked of it."""

    title: str
    explanation: str
    asks: str


EXPRESSION = Said(
    "an expression that works out something else than what is needed",
    "A formula can be complete and still be another one than is meant. Take the values that "
    "go in, work the result out by hand, and compare it with what the line gives.",
    "{here} does not give what the cases need.",
)
GUARD = Said(
    "a case of its own that nothing asks for",
    "Some inputs are to be treated in another way than all others: the youngest, the empty "
    "list, the last day. Each needs a condition of its own, ahead of what holds for the rest.",
    "What is given back here holds for most inputs. Is there one that needs another result, "
    "and is it asked for anywhere?",
)
DEEPER = Said(
    "parts of parts that are not come to",
    "What has parts may have parts in these as well. A function for the whole calls itself for "
    "each part; what it asks of a part alone goes one level deep.",
    "{here} is of one part alone. What of the parts that are in it?",
)
OF_THE_WHOLE = "{here} goes by one part of {all} alone. Does the rest of it count?"
UNUSED = Said(
    "something that no line uses",
    "What a function is given, or works out, is there for something. Where no line reads it, a "
    "line goes by something else instead, or a question is missing.",
    "No line of {all} reads {here}. What is it there for?",
)
UNPRINTED = Said(
    "a line that is due and that nothing prints",
    "Some inputs need a line of their own: nothing was found, the list is empty, it was the last "
    "one. Ask of each line that is expected: which statement prints it, and when does the program "
    "come there?",
    "A line that is expected is not printed. Which input needs it, and does the program come to a "
    "line here that prints it?",
)
