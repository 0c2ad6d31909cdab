"""What can be done at each station: one table that bindings, key line, help and palette read."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from textual.binding import Binding

from oddsum.tui.glyphs import own
from oddsum.workspace.interface import StationName

# Where the keys go: to the station itself, or into a field of it that takes letters.
Focus = Literal["station", "program", "search"]
HERE: tuple[Focus, ...] = ("station",)
TYPING: tuple[Focus, ...] = ("program",)
ANYWHERE: tuple[Focus, ...] = ("station", "program", "search")


@dataclass(frozen=True)
class Action:
    """One thing a user can do. ``keys`` as Textual names them, ``label`` as they are shown.

    ``under`` tells under which focus the keys hold. ``also`` are older, second keys, at the station
    alone: some of them need AltGr or are dead keys on keyboards that people have. ``action`` is
    blank where a widget carries it out; ``question`` is what it answers in a learner's words, blank
    where it answers none.
    """

    keys: str
    label: str
    words: str
    tip: str
    action: str
    shown: bool = True  # in the key line; help and palette have every action
    under: tuple[Focus, ...] = HERE
    also: str = ""
    question: str = ""

    def bindings(self) -> list[Binding]:
        """The bindings for it; ahead of a field that would take the keys, where they hold there."""
        keys = self.keys
        if len(keys) == 1 and keys.isalpha():
            keys = f"{keys},{keys.upper()}"  # with or without Shift or Caps Lock
        first = self.under != HERE
        made = [Binding(keys, self.action, self.words, show=False, tooltip=self.tip,
                        priority=first)]  # fmt: skip
        if self.also:
            made.append(Binding(self.also, self.action, self.words, show=False, tooltip=self.tip))
        return made


EVERYWHERE = (
    Action("r", "R", "check again", "Run the whole plan again.", "check", shown=False),
    Action("1", "1", "go to Check", "The cases and how they came out.", "go('check')", False),
    Action("2", "2", "go to Trace", "One case, step by step.", "go('trace')", False),
    Action("3", "3", "go to Pinpoint", "Where the fault may be.", "go('pinpoint')", False),
    Action("4", "4", "go to Mend", "Change the program.", "go('mend')", False),
    Action("5", "5", "go to Record", "What happened so far.", "go('record')", False),
    Action("d", "D", "side by side", "Expected and actual, whole.", "side_by_side", False),
    Action("m", "M", "mend", "Change the program, at the line in hand.", "mend", False),
    Action("ctrl+right", "Ctrl+→", "left panel wider", "Move the rule between the panels; the "
           "mouse does it too.", "widen(4)", False),
    Action("ctrl+left", "Ctrl+←", "right panel wider", "Move the rule between the panels.",
           "widen(-4)", False),
    Action("z", "Z", "words A to Z", "What the words on this screen mean.", "glossary"),
    Action("question_mark", "?", "all keys", "Every key of this station.", "keys"),
    Action("escape", "Esc", "stop the work", "Stop what is running.", "stop_work", False),
    # The application has these two bound: they hold over every dialog as well.
    Action("ctrl+p", "Ctrl+P", "every action", "Find an action or a setting by its name.", "",
           False, ANYWHERE),
    Action("ctrl+q", "Ctrl+Q", "leave", "Leave Odd Sum.", "", False, ANYWHERE),
)  # fmt: skip
CHECK = (
    Action("up,down", "↑ ↓", "choose a case", "Move through the cases.", ""),
    Action("t", "T", "trace it", "Follow this case step by step.", "trace"),
    Action("r", "R", "check again", "Run the whole plan again.", "check"),
    Action("o", "O", "only the odd", "Show or hide the cases that agree.", "only_odd"),
    Action("a", "A", "add a case", "Write another case of the plan.", "dialog('add')"),
    Action("v", "V", "record live", "Run the program and keep what you type as a case.",
           "dialog('record')"),
    Action("e", "E", "edit", "Change the case in hand.", "dialog('edit')"),
    Action("l", "L", "what is missing", "Limits, branches and kinds that no case tries.",
           "advice"),
    Action("d", "D", "side by side", "Expected and actual, whole.", "side_by_side", False),
    Action("enter", "Enter", "the case whole", "What was expected and what came out.", "", False),
    Action("space", "Space", "more of the case", "The rest of what is told of the case in hand.",
           "more", False),
    Action("y", "Y", "yes, it is right", "Say what an open case should give.",
           "dialog('say_right')", False),
    Action("ctrl+r", "Ctrl+R", "just this case", "Run the case in hand alone.", "check_this",
           False),
    Action("n", "N", "the odd and open", "Run those that do not agree.", "check_odd",
           False),
    Action("i", "I", "take cases in", "From the program's own examples, a sheet, text files.",
           "dialog('take_in')", False),
    Action("plus", "+", "a copy", "Put a copy of the case behind it.", "copy_case", False),
    Action("minus", "-", "set aside", "Keep the case and do not run it; or take it back.",
           "set_aside", False),
    Action("shift+up", "Shift+↑", "move up", "Move the case up in the plan.",
           "move_case(-1)", False),
    Action("shift+down", "Shift+↓", "move down", "Move the case down in the plan.",
           "move_case(1)", False),
    Action("delete", "Delete", "delete", "Take the case out of the plan.", "delete_case",
           False),
    Action("ctrl+z", "Ctrl+Z", "take back", "Undo the last change of the plan.", "take_back",
           False),
    Action("ctrl+o", "Ctrl+O", "another plan", "Choose among the plans of this program.",
           "dialog('choose_plan')", False),
)  # fmt: skip
TRACE = (
    Action(
        "o",
        "O",
        "the odd step",
        "To the first step that is not as it should be.",
        "walk('odd_place')",
        also="semicolon",
        question="Where does it first go odd?",
    ),
    Action(
        "j",
        "J",
        "ask a question",
        "What do you want to know? Everything a run can be asked, in words.",
        "questions",
    ),
    Action("down", "↓", "on", "One step forward in time.", "walk('step', 1)"),
    Action("up", "↑", "back", "One step back in time.", "walk('step', -1)"),
    Action("right", "→", "into", "Into the next call made from here.", "walk('into')"),
    Action("left", "←", "out", "On to where the caller goes on.", "walk('out')"),
    Action(
        "ctrl+o",
        "Ctrl+O",
        "another panel",
        "The table, every value now, or what was printed: where there is room for one.",
        "panel",
    ),
    Action(
        "shift+down",
        "Shift+↓",
        "over a call",
        "On, past any call made here.",
        "walk('over')",
        False,
    ),
    Action(
        "space", "Space", "to the next ‖", "Run on to the next line that is held.", "walk('run', 1)"
    ),
    Action(
        "backspace",
        "Backspace",
        "to the ‖ before",
        "Back to the last line held.",
        "walk('run', -1)",
        False,
    ),
    Action("h", "H", "hold here", "Hold at this line, or no longer.", "walk('toggle_breakpoint')"),
    Action(
        "ampersand",
        "&",
        "hold where",
        "Hold at this line under a condition, or in one round.",
        "ask('hold_where')",
        False,
        question="Stop at this line only in one round, or under a condition",
    ),
    Action(
        "x",
        "X",
        "line apart",
        "The order in which this line was worked out.",
        "ask('apart')",
        question="How was this line worked out, part by part?",
    ),
    Action(
        "f",
        "F",
        "where from",
        "Where the value in hand, or this step, comes from.",
        "ask('lineage')",
        question="Where does this value come from?",
    ),
    Action(
        "asterisk",
        "*",
        "rounds",
        "Every loop: its rounds, how it ended, what it missed.",
        "ask('loops')",
        question="How often does each loop go round, and what does it miss?",
    ),
    Action(
        "left_parenthesis",
        "(",
        "calls",
        "Every call: what went in, what came out.",
        "ask('calls')",
        question="What went into each call, and what did it give?",
    ),
    Action(
        "ctrl+n",
        "Ctrl+N",
        "names and lists",
        "Which name holds which list, as numbered entries.",
        "ask('ledger')",
        False,
        also="at",
        question="Which names hold one and the same list?",
    ),
    Action(
        "g",
        "G",
        "guess",
        "Fill in what you think comes next.",
        "ask('forecast')",
        question="What do I think comes next? Let me fill it in",
    ),
    Action(
        "k",
        "K",
        "keep an eye on",
        "An expression as a column of the table.",
        "ask('watch')",
        False,
        question="Show an expression of mine at every step",
    ),
    Action(
        "a",
        "A",
        "add a claim",
        "Say what must hold here, in every case.",
        "ask('claim')",
        False,
        question="Tell me where what must hold here does not",
    ),
    Action(
        "slash",
        "/",
        "when is it true",
        "Go to where a condition becomes true.",
        "ask('find')",
        False,
        question="When does a condition become true?",
    ),
    Action(
        "full_stop",
        ".",
        "this line again",
        "To the next time this line runs.",
        "walk('same_line', 1)",
        False,
        question="When does this line run again?",
    ),
    Action(
        "comma",
        ",",
        "the time before",
        "To the last time this line ran.",
        "walk('same_line', -1)",
        False,
        question="When did this line run before?",
    ),
    Action("tab", "Tab", "next column", "Take a variable in hand.", "walk('column', 1)", False),
    Action(
        "shift+tab",
        "Shift+Tab",
        "column before",
        "Take the variable before in hand.",
        "walk('column', -1)",
        False,
    ),
    Action(
        "greater_than_sign",
        ">",
        "its next change",
        "To the next change of the variable in hand.",
        "walk('change', 1)",
        False,
        question="When does the variable in hand change next?",
    ),
    Action(
        "less_than_sign",
        "<",
        "its last change",
        "To the last change of the variable in hand.",
        "walk('change', -1)",
        False,
        question="When did the variable in hand change before?",
    ),
    Action(
        "ctrl+e",
        "Ctrl+E",
        "what it mattered for",
        "What the value in hand went on to influence.",
        "ask('influence')",
        False,
        also="tilde",
        question="What did this value go on to matter for?",
    ),
    Action(
        "p",
        "P",
        "plot",
        "Draw the variable in hand, with one that is pinned; a list as bars.",
        "ask('plot')",
        False,
        question="What does the variable in hand look like, drawn?",
    ),
    Action(
        "ctrl+d",
        "Ctrl+D",
        "two runs",
        "This run beside the one traced before it.",
        "ask('two_runs')",
        False,
        also="vertical_line",
        question="Where does this run part from the one traced before it?",
    ),
    Action("minus", "-", "set column aside", "Hide the column in hand.", "walk('hide')", False),
    Action(
        "plus",
        "+",
        "pin the column",
        "Keep the column in hand at the front.",
        "walk('pin')",
        False,
        also="circumflex_accent",
    ),
    Action(
        "percent_sign",
        "%",
        "only this function",
        "Only the rows of the function in hand.",
        "walk('only')",
        False,
    ),
    Action(
        "0", "0", "all of the table", "Every column and row again.", "walk('all_columns')", False
    ),
    Action(
        "ctrl+g",
        "Ctrl+G",
        "a step by number",
        "Go to a step by its number.",
        "ask('number')",
        False,
        also="number_sign",
    ),
    Action(
        "enter",
        "Enter",
        "values whole",
        "Every value of this step, uncut.",
        "ask('whole')",
        question="What is every value now, uncut?",
    ),
    Action(
        "equals_sign", "=", "fill down", "Show old values too, dimmed.", "walk('fill_down')", False
    ),
    Action("pagedown", "PgDn", "ten on", "Ten steps forward.", "walk('step', 10)", False),
    Action("pageup", "PgUp", "ten back", "Ten steps back.", "walk('step', -10)", False),
    Action("home", "Home", "first step", "To the first step.", "walk('to_end', -1)", False),
    Action("end", "End", "last step", "To the last step.", "walk('to_end', 1)", False),
    Action(
        "shift+right",
        "Shift+→",
        "other columns",
        "The columns after those in sight.",
        "columns(1)",
        False,
    ),
    Action(
        "shift+left",
        "Shift+←",
        "columns before",
        "The columns before those in sight.",
        "columns(-1)",
        False,
    ),
    Action("t", "T", "record it anew", "Record this case once more.", "again", False),
)
PINPOINT = (
    Action("up,down", "↑ ↓", "choose a lead", "Move through the leads.", ""),
    Action("enter", "Enter", "uncover more", "Where, then what, then how.", "uncover"),
    Action("t", "T", "trace it", "Follow the case that shows it best.", "trace"),
    Action("g", "G", "guess", "Name the line you suspect; see what speaks for it.", "guess"),
    Action("m", "M", "mend", "Change the program there; what is uncovered is taken over.",
           "mend"),
    Action("space", "Space", "more of the lead", "The rest of what is told of it.", "more", False),
    Action("q", "Q", "questions", "Say of values whether they are right, and be led.", "judge"),
    Action("a", "A", "add what decides", "Several mends fit: say what should come out where they "
           "differ.", "decide"),
    Action("r", "R", "check again", "Run the plan again, then look again.", "check"),
)  # fmt: skip
MEND = (
    Action("e", "E", "edit", "Go into the program. Esc leaves it; then letters act.", "edit"),
    Action("escape", "Esc", "leaves the program", "Then the letters act.", "leave_field",
           under=TYPING),
    Action("enter", "Enter", "the next place", "Where the text stands next.", "",
           under=("search",)),
    Action("escape", "Esc", "back to the program", "Put the search away.", "leave_field",
           under=("search",)),
    Action("ctrl+s", "Ctrl+S", "keep it", "Write the change into the file, and run the whole plan.",
           "keep", under=ANYWHERE),
    Action("ctrl+z", "Ctrl+Z", "take back", "Undo what was changed last.", "editor('undo')",
           under=ANYWHERE),
    Action("ctrl+y", "Ctrl+Y", "do it again", "What was taken back last.", "editor('redo')", False,
           under=ANYWHERE),
    Action("ctrl+l", "Ctrl+L", "line off, or on", "Switch a line off to see what it does. Outside "
           "of the program - does the same.", "switch", under=ANYWHERE, also="minus"),
    Action("b", "B", "put back", "The text as the file has it.", "put_back"),
    Action("m", "M", "mend", "Take over the mend of the lead in hand, where it is uncovered.",
           "mend", False),
    Action("ctrl+f", "Ctrl+F", "find", "Find a text. Outside of the program / does the same.",
           "find", under=("station", "program"), also="slash"),
    Action("ctrl+g", "Ctrl+G", "go to a line", "By its number.", "by_line",
           under=("station", "program"), also="number_sign"),
    Action("ctrl+k", "Ctrl+K", "comment", "Make the marked lines comments, or take that back. "
           "Outside of the program C does the same.", "editor('comment')",
           under=("station", "program"), also="c,C,ctrl+underscore,ctrl+slash"),
    Action("tab,shift+tab", "Tab Shift+Tab", "in and out", "Move the marked lines a level further "
           "in, or out.", "", under=TYPING),
    Action("ctrl+o", "Ctrl+O", "another file", "Another file of the program.", "another_file",
           False, under=ANYWHERE),
    Action("u", "U", "your own editor", "Open the text in the editor that EDITOR names.",
           "own_editor"),
    Action("t", "T", "trace it", "Follow the case in hand, once the change is kept.", "trace",
           False),
    Action("l", "L", "what is missing", "Limits, branches and kinds that no case tries.",
           "advice", False),
    Action("d", "D", "side by side", "Expected and actual, whole.", "side_by_side", False),
    Action("up,down", "↑ ↓", "choose a case", "Move through the cases.", "", False),
    Action("enter", "Enter", "the case whole", "What was expected and what came out.", "", False),
    Action("r", "R", "check again", "Run the whole plan again.", "check", False),
)  # fmt: skip
RECORD = (
    Action("left,right", "← →", "choose a run", "Move through the runs.", ""),
    Action("up,down", "↑ ↓", "choose a page", "Move through the notebook.", ""),
    Action("space", "Space", "mark the run", "Mark a run, to hold another one against it.", "mark"),
    Action("d", "D", "side by side", "The marked run and this one: programs and outcomes.",
           "side_by_side"),
    Action("b", "B", "put back", "Take the program of this run up again in Mend.", "put_back"),
    Action("e", "E", "edit", "Write in the notebook's page in hand.", "edit"),
    Action("a", "A", "add a page", "Begin a page of the notebook.", "add"),
    Action("delete", "Delete", "delete", "Take the page out of the notebook.", "delete", False),
    Action("w", "W", "write the report", "One file with it all, to hand in or to ask for help.",
           "report"),
    Action("pageup,pagedown", "PgUp PgDn", "more cases", "Cases that are out of sight.", "", False),
    Action("home", "Home", "first run", "To the first run that is shown.", "to_end(-1)", False),
    Action("end", "End", "last run", "To the last run.", "to_end(1)", False),
)  # fmt: skip
STATIONS: dict[StationName, tuple[Action, ...]] = {
    "check": CHECK, "trace": TRACE, "pinpoint": PINPOINT, "mend": MEND, "record": RECORD,
}  # fmt: skip


def actions_of(station: StationName) -> tuple[Action, ...]:
    """A station's own actions, then those that hold everywhere and are not among them."""
    own = STATIONS[station]
    labels = {a.label for a in own if "station" in a.under}
    return own + tuple(a for a in EVERYWHERE if a.label not in labels)


def actions_under(station: StationName, focus: Focus) -> tuple[Action, ...]:
    """Those of a station's actions whose keys hold with the focus where it is."""
    return tuple(a for a in actions_of(station) if focus in a.under)


def bindings_of(station: StationName) -> list[Binding]:
    """The bindings of a station; actions without a name are carried out by its widgets."""
    return [b for a in actions_of(station) if a.action for b in a.bindings()]


# -- dialogs -------------------------------------------------------------------------------------

_LEAVES = Action("escape", "Esc", "leaves", "Close it; nothing is changed.", "leave")
_TYPED_STAYS = Action(
    "escape", "Esc", "leaves, your words stay", "They stand here the next time.", "leave"
)
_AWAY = Action("escape", "Esc", "puts this away", "Back to the station.", "leave")
_ANSWERS = (
    Action(
        "left,right", "← →", "choose", "Move through the answers; or the letter underlined.", ""
    ),
    Action("enter", "Enter", "answers", "The answer in hand.", ""),
)
_KEEPS = Action("ctrl+s", "Ctrl+S", "keeps it", "Close with what was written.", "keep_typed",
                under=ANYWHERE)  # fmt: skip
DIALOGS: dict[str, tuple[Action, ...]] = {
    "advice": (
        Action("space", "Space", "chooses an input", "Or no longer.", "choose"),
        Action("a", "A", "adds it", "Those chosen, or the one in hand, to the plan.", "add"),
        _AWAY,
    ),
    "ask": (Action("enter", "Enter", "takes it", "Close with what was typed.", ""), _LEAVES),
    "case_card": (_KEEPS, _TYPED_STAYS),
    "file_card": (_KEEPS, _LEAVES),
    "how_run": (_KEEPS, _LEAVES),
    "import": (
        Action("enter", "Enter", "looks there", "See what would be added.", ""),
        Action("ctrl+s", "Ctrl+S", "adds the new ones", "", "keep_typed", under=ANYWHERE),
        _LEAVES,
    ),
    "choose": (*_ANSWERS, Action("escape", "Esc", "changes nothing", "", "leave")),
    "choose_file": (
        Action("up,down", "↑ ↓", "choose", "Move through the files.", ""),
        Action("enter", "Enter", "takes it", "Use the file in hand.", ""), _LEAVES,
    ),
    "forecast": (
        Action("enter", "Enter", "looks", "Hold what you filled in against what happened.", ""),
        _LEAVES,
    ),
    "is_it_right": (*_ANSWERS, Action("escape", "Esc", "leaves it open", "", "leave")),
    "judge": (*_ANSWERS, _LEAVES),
    "number": (Action("enter", "Enter", "goes there", "To the step.", ""), _LEAVES),
    "page": (
        Action("up,down", "↑ ↓", "scroll", "", "", False),
        Action("enter,question_mark,z,d", "Enter", "puts this away", "", "leave", False), _AWAY,
    ),
    "page_card": (_KEEPS, _LEAVES),
    "pick": (
        Action("up,down", "↑ ↓", "follow", "The run follows the row in hand.", "", False),
        Action("enter", "Enter", "stays there", "", ""),
        Action("escape", "Esc", "goes back", "To where you were.", "leave"),
    ),
    "pick_only": (Action("enter", "Enter", "puts this away", "", "", False), _AWAY),
    "plot": (
        Action("ctrl+s", "Ctrl+S", "saves it as an SVG", "", "save", under=ANYWHERE),
        Action("enter,p,P", "Enter", "puts this away", "", "leave", False), _AWAY,
    ),
    "questions": (
        Action("down", "↓", "the next question", "", "move(1)", False, ANYWHERE),
        Action("up", "↑", "the question before", "", "move(-1)", False, ANYWHERE),
        *(Action(str(n), str(n), "ask at once", "", f"ask_row({n})", False, ANYWHERE)
          for n in range(1, 10)),
        Action("", "1 to 9", "ask at once", "The question with this digit.", ""),
        Action("enter", "Enter", "asks", "The question in hand.", ""), _LEAVES,
    ),
    "recorder": (
        Action("ctrl+c", "Ctrl+C", "stops the program", "", "interrupt", under=ANYWHERE),
        Action("ctrl+d", "Ctrl+D", "ends its input", "", ""),
        Action("escape", "Esc", "leaves", "End the program and keep nothing.", "leave",
               under=ANYWHERE),
    ),
    "texts": (
        Action("up,down", "↑ ↓", "scroll both", "", "", False),
        Action("left,right", "← →", "sideways", "", "", False),
        Action("full_stop", ".", "shows blanks", "", "", False),
        Action("n", "N", "next difference", "", "", False),
        Action("enter,d", "Enter", "puts this away", "", "leave", False), _AWAY,
    ),
    "walk": (
        Action("enter,right,space", "Enter", "the next card", "", "turn(1)"),
        Action("left", "←", "the card before", "", "turn(-1)", False), _LEAVES,
    ),
}  # fmt: skip


def bindings_for(dialog: str) -> list[Binding]:
    """The bindings of a dialog; those of its keys without a name are its widgets'."""
    return [b for a in DIALOGS[dialog] if a.action for b in a.bindings()]


def keys_words(dialog: str) -> str:
    """What a dialog's keys do, for its heading."""
    return own(" · ".join(f"{a.label} {a.words}" for a in DIALOGS[dialog] if a.shown))
