"""The words on each screen, explained as to a first-year student."""

from __future__ import annotations

_GENERAL = {
    "station": "One of the places you work in: Check, Trace, Pinpoint. The line under the name of "
    "the program shows them in order.",
    "stale": "Old: the program has changed since. It is shown dimmed, with ~, until the new "
    "result is there.",
}
WORDS: dict[str, dict[str, str]] = {
    "check": {
        "plan": "A list of cases kept in a file beside your program. The whole list is run every "
        "time.",
        "case": "One try of your program: what is typed in, and what should come out.",
        "expected": "What should come out, as you or your teacher worked it out by hand.",
        "actual": "What your program really gave.",
        "agrees =": "Actual and expected are the same.",
        "differs ≠": "The program ended, and something that was expected does not hold.",
        "stopped !": "An error ended the program before it was done.",
        "endless ∞": "The program did not end within its time, or it printed without end.",
        "open ?": "Nothing is expected of this case yet, so nobody can say whether it is right.",
        "odd": "Not as it should be: a case that differs, stopped or is endless.",
        "normal": "A case with everyday data.",
        "boundary": "A case right at a limit: if the limit is 16, then 15, 16 and 17.",
        "invalid": "A case with data that should be refused.",
        "limit": "A number that a condition compares with: in `age < 16` it is 16. Try both sides "
        "of it, right where it decides.",
        "off by": "What was given, less what was expected, where one number differs.",
        "settled, broke": "Since the run before: a case that was odd no longer is, or one that was "
        "not odd now is.",
        "set aside": "A case that is kept in the plan and not run.",
        "record": "Run the program live, type the answers, and keep what you typed as a case.",
        "round": "One pass through the body of a loop. Books also call it an iteration.",
    },
    "trace": {
        "trace table": "A row for each step, a column for each variable. Only what changed is "
        "written.",
        "step": "One visit of one line, or the moment when a function is called or goes on.",
        "call": "The moment a function begins to run. Its inputs are shown.",
        "back": "The moment a line goes on after the function it called has ended.",
        "gives": "What a function returns to the line that called it.",
        "condition": "A question with the answer True or False, as after if and while.",
        "round": "One pass through the body of a loop.",
        "depth": "How many calls are under way, one inside the other. 0 is the main part.",
        "hold ‖": "A line to stop at. Books call it a breakpoint. H sets it, Space runs to the "
        "next.",
        "hold where": "Stop at a line only where a condition is True, or only in one round.",
        "lineage": "Where a value comes from: back through the steps that made it, to what was "
        "typed in and what is written in the program. F shows it.",
        "claim ≟": "What you say must hold at a line, such as total == 24. It is kept beside your "
        "program and looked at in every case.",
        "guess": "Say what comes next before you look. The first cell where you and the machine "
        "differ is where to think.",
        "keep an eye on": "An expression as a column of its own. Books call it a watch.",
        "line apart": "The parts of a line in the order Python worked them out.",
        "column in hand": "The variable that Tab has chosen: < and > go through its changes.",
        "two runs": "The run before and this one, beside each other from where they part.",
        "[name]": "A thread or a task: a part of the program that takes turns with others.",
        "×5": "How often this line has run, up to the step you are at.",
        "12 → 17": "The value was 12 and is now 17.",
        "departs": "The first moment at which the output can no longer become the expected one.",
    },
    "pinpoint": {
        "lead": "A place worth looking at, with what speaks for it and against it. It can be "
        "wrong.",
        "uncover": "A lead tells where first, then what may be wrong, then how to change it. "
        "You say how far.",
        "trial": "One small change, tried on a copy of your program with the cases of the plan.",
        "mend": "A small change of the program that puts something right.",
        "settles": "A mend settles a case when the case agrees after it, and did not before.",
        "breaks": "A mend breaks a case when the case agreed before it, and no longer does.",
        "strong, fair, weak": "How well a lead explains what is odd.",
        "the account": "What speaks for a lead and against it: trials of small changes, notes, "
        "where wrong values come from (lineage), what a loop never reached, in which cases the "
        "line runs.",
        "▪ in the margin": "How much speaks against a line: it runs in odd cases more than in "
        "others, and wrong values come from it.",
        "note": "Something a reader of the program would ask about, found without running it.",
        "questions": "Say of values whether they are right; each answer halves what is left.",
        "speaks for it": "What makes this place likely.",
        "speaks against it": "What makes it less likely. Read both sides.",
    },
}


def words_of(station: str) -> dict[str, str]:
    """Word to meaning, those of the station first."""
    return {**WORDS[station], **_GENERAL}
