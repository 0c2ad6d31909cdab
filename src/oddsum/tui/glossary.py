"""The words on each screen, explained as to a first-year student."""

from __future__ import annotations

_GENERAL = {
    "station": "One of the places you work in: Check, Trace, Pinpoint, Mend, Record. The line "
    "under the name of the program shows them in order.",
    "stale": "Old: the program has changed since. It is shown dimmed, with ~, until the new "
    "result is there.",
}
# Words of the language that stand in a beginner's program.
PYTHON = {
    "if": "The lines under it run only where its condition is True.",
    "elif": "Asked only where every condition above it was False.",
    "else": "Runs where no condition above it was True.",
    "for": "Runs the lines under it once for each item, or each number of a range.",
    "while": "Runs the lines under it again as long as its condition is True.",
    "range": "Numbers in a row: range(3) gives 0, 1, 2; range(1, 4) gives 1, 2, 3. The end is "
    "never in it.",
    "break": "Leaves the loop at once.",
    "continue": "Goes on with the next round of the loop at once.",
    "def": "Gives a name to lines that can be called. They run when they are called, not here.",
    "return": "Ends the call and gives a value back to where it was called. Without it: None.",
    "print": "Writes on the screen. It gives nothing back to the program.",
    "input": "Reads one line that is typed in. It is always a text, also where it looks like a "
    "number.",
    "int": "Makes a whole number of a text or number; int(2.9) is 2, not 3.",
    "float": "Makes a number with a point of a text or number.",
    "str": "Makes a text of a value.",
    "len": "How many items a list has, or letters a text.",
    "append": "Puts one item at the end of a list. It changes the list and gives back None.",
    "and": "True where both sides are True.",
    "or": "True where at least one side is True. Each side must be a question of its own: "
    "age < 0 or age > 120.",
    "not": "True where what follows is False.",
    "in": "Whether an item is in a list, or a text in a text; after for: what to go through.",
    "pass": "Does nothing. It stands where a line is needed.",
    "import": "Takes up another module, so that its names can be used.",
    "True": "The answer yes. A number other than 0 counts as it, too.",
    "False": "The answer no. 0, an empty text and an empty list count as it, too.",
    "None": "No value. What a function gives back that has no return.",
    "global": "Says that a name in a function is the module's, not one of its own.",
    "//": "Divides and drops what is behind the point: 7 // 2 is 3.",
    "%": "What is left over by division: 7 % 2 is 1.",
    "==": "Asks whether two values are the same. A single = gives a value to a name.",
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
        "the run": "The whole run as one line, from left to right in time: a tick for each round "
        "of the loop around you, the depth of calls, and marks. A click goes there.",
        "marks": "In the run: where you are, lines that are held, where it goes odd.",
        "kiosk.takings": "An attribute that changes: the part named takings of what the name "
        "kiosk holds.",
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
        "names and lists": "Each list is an entry with a number; a name carries the number of its "
        "entry. Two names with one number are two names for one list.",
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
        "fence": "What trials run behind: they write in a folder of their own, reach no network "
        "and start no other programs.",
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
    "mend": {
        "try": "Your change, run on a copy of the program with every case. Your file stays as it "
        "is.",
        "keep": "Write the change into your file. The version before it stays in the record.",
        "before, after": "How a case comes out with the program as its file has it, and with your "
        "change.",
        "settled": "The case was odd, and agrees with your change.",
        "broke": "The case agreed, and no longer does with your change.",
        "otherwise": "The case is odd before and after, and something else comes out of it.",
        "±": "A line that is not as your file has it.",
        "off": "A line that is switched off: it stands there as a comment and does nothing.",
        "place": "Lines beside each other that you changed. One place at a time tells most.",
        "version": "The program as it was at one time. None of them is lost.",
        "comment": "Text behind a #: for people; Python passes it over.",
        "put back": "Make the text here what your file has.",
    },
    "record": {
        "run": "One time that the whole plan was run.",
        "runs": "A row is a case, a column is a run, the newest at the right. A mark in bold ink "
        "is where a case was settled or broke.",
        "agree": "Under the double rule: how many cases agreed in each run.",
        "notebook": "A page for each fault: where it was, what it was, how it was mended, and what "
        "you say of it.",
        "mark the run": "Choose a run to hold another one against.",
        "version": "The program as it was at one time. None of them is lost.",
        "report": "One file with the plan, what came out, a trace table, leads, charts, notebook "
        "and program: to hand in, or to ask for help with.",
        "set aside": "Kept and not used, as a record that was damaged.",
    },
}


def words_of(station: str) -> dict[str, str]:
    """Word to meaning: those of the station first, then the other stations', then Python's."""
    found = {**WORDS[station], **_GENERAL}
    for words in (*WORDS.values(), PYTHON):
        found |= {word: meaning for word, meaning in words.items() if word not in found}
    return found


def looked_up(station: str, word: str) -> str:
    """The entry that a word on the screen has: itself, or the one it is a form of; blank for none.

    Marks count as words: ``≠`` is looked up as ``differs``.
    """
    wanted = word.strip(".,:;()[]'\"").lower()
    if not wanted:
        return ""
    entries = words_of(station)
    stems = {wanted, wanted.removesuffix("s"), wanted.removesuffix("ed"), wanted.removesuffix("es"),
             wanted.removesuffix("ies") + "y"}  # fmt: skip
    if wanted in entries:
        return wanted
    for entry in entries:
        parts = entry.lower().replace(",", " ").split()
        if len(parts) <= 2 and stems & set(parts):
            return entry
    return ""
