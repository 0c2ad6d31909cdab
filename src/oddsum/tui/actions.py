"""What can be done at each station: one table that bindings, key line, help and palette read."""

from __future__ import annotations

from dataclasses import dataclass

from textual.binding import Binding


@dataclass(frozen=True)
class Action:
    """One thing a user can do. ``keys`` as Textual names them, ``label`` as they are shown."""

    keys: str
    label: str
    words: str
    tip: str
    action: str
    shown: bool = True  # in the key line; help and palette have every action

    def binding(self) -> Binding:
        """The binding for it."""
        keys = self.keys
        if len(keys) == 1 and keys.isalpha():
            keys = f"{keys},{keys.upper()}"  # with or without Shift or Caps Lock
        return Binding(keys, self.action, self.words, show=False, tooltip=self.tip)


EVERYWHERE = (
    Action("r", "R", "check again", "Run the whole plan again.", "app.check", shown=False),
    Action("1", "1", "go to Check", "The cases and how they came out.", "app.go('check')", False),
    Action("2", "2", "go to Trace", "One case, step by step.", "app.go('trace')", False),
    Action("3", "3", "go to Pinpoint", "Where the fault may be.", "app.go('pinpoint')", False),
    Action("4", "4", "go to Mend", "Change the program.", "app.go('mend')", False),
    Action("5", "5", "go to Record", "What happened so far.", "app.go('record')", False),
    Action("d", "D", "side by side", "Expected and actual, whole.", "app.side_by_side", False),
    Action("m", "M", "mend", "Change the program, at the line in hand.", "app.mend", False),
    Action("z", "Z", "words A to Z", "What the words on this screen mean.", "app.glossary"),
    Action("question_mark", "?", "all keys", "Every key of this station.", "app.keys"),
    Action("escape", "Esc", "stop the work", "Stop what is running.", "app.stop_work", False),
    Action("ctrl+q", "Ctrl+Q", "leave", "Leave Odd Sum.", "app.quit", shown=False),
)
CHECK = (
    Action("up,down", "↑ ↓", "choose a case", "Move through the cases.", ""),
    Action("t", "T", "trace it", "Follow this case step by step.", "trace"),
    Action("r", "R", "check again", "Run the whole plan again.", "app.check"),
    Action("o", "O", "only the odd", "Show or hide the cases that agree.", "only_odd"),
    Action("a", "A", "add a case", "Write another case of the plan.", "app.add_case"),
    Action("v", "V", "record live", "Run the program and keep what you type as a case.",
           "app.record_case"),
    Action("e", "E", "edit", "Change the case in hand.", "app.edit_case"),
    Action("l", "L", "what is missing", "Limits, branches and kinds that no case tries.",
           "app.advice"),
    Action("d", "D", "side by side", "Expected and actual, whole.", "app.side_by_side", False),
    Action("y", "Y", "yes, it is right", "Say what an open case should give.", "app.say_right",
           False),
    Action("j", "J", "just this case", "Run the case in hand alone.", "app.check_this", False),
    Action("n", "N", "the odd and open", "Run those that do not agree.", "app.check_odd",
           False),
    Action("plus", "+", "a copy", "Put a copy of the case behind it.", "app.copy_case", False),
    Action("minus", "-", "set aside", "Keep the case and do not run it; or take it back.",
           "app.set_aside", False),
    Action("shift+up", "Shift+↑", "move up", "Move the case up in the plan.",
           "app.move_case(-1)", False),
    Action("shift+down", "Shift+↓", "move down", "Move the case down in the plan.",
           "app.move_case(1)", False),
    Action("delete", "Delete", "delete", "Take the case out of the plan.", "app.delete_case",
           False),
    Action("ctrl+z", "Ctrl+Z", "take back", "Undo the last change of the plan.", "app.take_back",
           False),
    Action("ctrl+o", "Ctrl+O", "another plan", "Choose among the plans of this program.",
           "app.choose_plan", False),
)  # fmt: skip
TRACE = (
    Action("down", "↓", "a step on", "One step forward in time.", "step(1)"),
    Action("up", "↑", "back", "One step back in time.", "step(-1)"),
    Action("right", "→", "into", "Into the next call made from here.", "into"),
    Action("left", "←", "out", "On to where the caller goes on.", "out"),
    Action("shift+down", "Shift+↓", "over a call", "On, past any call made here.", "over", False),
    Action("space", "Space", "to the next ‖", "Run on to the next line that is held.", "run(1)"),
    Action("backspace", "Backspace", "to the ‖ before", "Back to the last line held.", "run(-1)",
           False),
    Action("h", "H", "hold here", "Hold at this line, or no longer.", "hold"),
    Action("ampersand", "&", "hold where", "Hold at this line under a condition, or in one round.",
           "hold_where", False),
    Action("x", "X", "line apart", "The order in which this line was worked out.", "apart"),
    Action("f", "F", "where from", "Where the value in hand, or this step, comes from.", "lineage"),
    Action("asterisk", "*", "rounds", "Every loop: its rounds, how it ended, what it missed.",
           "loops"),
    Action("left_parenthesis", "(", "calls", "Every call: what went in, what came out.", "calls"),
    Action("at", "@", "names and lists", "Which name holds which list, as numbered entries.",
           "ledger", False),
    Action("g", "G", "guess", "Fill in what you think comes next.", "forecast"),
    Action("k", "K", "keep an eye on", "An expression as a column of the table.", "watch", False),
    Action("a", "A", "add a claim", "Say what must hold here, in every case.", "claim", False),
    Action("slash", "/", "when is it true", "Go to where a condition becomes true.", "find", False),
    Action("semicolon", ";", "where it goes odd", "To the first place that is not as it should be.",
           "odd_place", False),
    Action("full_stop", ".", "this line again", "To the next time this line runs.", "same_line(1)",
           False),
    Action("comma", ",", "the time before", "To the last time this line ran.", "same_line(-1)",
           False),
    Action("tab", "Tab", "next column", "Take a variable in hand.", "column(1)", False),
    Action("shift+tab", "Shift+Tab", "column before", "Take the variable before in hand.",
           "column(-1)", False),
    Action("greater_than_sign", ">", "its next change", "To the next change of the variable in "
           "hand.", "change(1)", False),
    Action("less_than_sign", "<", "its last change", "To the last change of the variable in hand.",
           "change(-1)", False),
    Action("tilde", "~", "what it mattered for", "What the value in hand went on to influence.",
           "influence", False),
    Action("p", "P", "plot", "Draw the variable in hand, with one that is pinned; a list as bars.",
           "plot", False),
    Action("vertical_line", "|", "two runs", "This run beside the one traced before it.",
           "two_runs", False),
    Action("minus", "-", "set column aside", "Hide the column in hand.", "hide", False),
    Action("circumflex_accent", "^", "pin the column", "Keep the column in hand at the front.",
           "pin", False),
    Action("percent_sign", "%", "only this function", "Only the rows of the function in hand.",
           "only", False),
    Action("0", "0", "all of the table", "Every column and row again.", "all_columns", False),
    Action("number_sign", "#", "a step by number", "Go to a step by its number.", "by_number",
           False),
    Action("enter", "Enter", "values whole", "Every value of this step, uncut.", "whole"),
    Action("equals_sign", "=", "fill down", "Show old values too, dimmed.", "fill_down", False),
    Action("pagedown", "PgDn", "ten on", "Ten steps forward.", "step(10)", False),
    Action("pageup", "PgUp", "ten back", "Ten steps back.", "step(-10)", False),
    Action("home", "Home", "first step", "To the first step.", "to_end(-1)", False),
    Action("end", "End", "last step", "To the last step.", "to_end(1)", False),
    Action("shift+right", "Shift+→", "columns right", "Scroll the trace table.", "scroll(12)",
           False),
    Action("shift+left", "Shift+←", "columns left", "Scroll the trace table.", "scroll(-12)",
           False),
    Action("t", "T", "record it anew", "Record this case once more.", "again", False),
)  # fmt: skip
PINPOINT = (
    Action("up,down", "↑ ↓", "choose a lead", "Move through the leads.", ""),
    Action("enter", "Enter", "uncover more", "Where, then what, then how.", "uncover"),
    Action("t", "T", "trace it", "Follow the case that shows it best.", "trace"),
    Action("g", "G", "guess", "Name the line you suspect; see what speaks for it.", "guess"),
    Action("m", "M", "mend", "Change the program there; what is uncovered is taken over.",
           "app.mend"),
    Action("q", "Q", "questions", "Say of values whether they are right, and be led.", "judge"),
    Action("r", "R", "check again", "Run the plan again, then look again.", "app.check"),
)  # fmt: skip
MEND = (
    Action("e", "E", "edit", "Go into the program. Esc leaves it; then letters act.", "edit"),
    Action("s", "Ctrl+S", "keep it", "Write the change into the file, and run the whole plan.",
           "keep"),
    Action("minus", "Ctrl+L", "line off, or on", "Switch a line off to see what it does. "
           "Outside of the program - does the same.", "switch"),
    Action("ctrl+z", "Ctrl+Z", "take back", "Undo what was typed last; Ctrl+Y does it again.", ""),
    Action("b", "B", "put back", "The text as the file has it.", "put_back"),
    Action("m", "M", "mend", "Take over the mend of the lead in hand, where it is uncovered.",
           "mend", False),
    Action("slash", "Ctrl+F", "find", "Find a text. Outside of the program / does the same.",
           "find", False),
    Action("number_sign", "Ctrl+G", "go to a line", "By its number. Outside of the program # does "
           "the same.", "by_line", False),
    Action("c", "Ctrl+/", "comment", "Make the marked lines comments, or take that back.",
           "comment", False),
    Action("shift+tab", "Shift+Tab", "further out", "Move the marked lines out; Tab moves them in.",
           "", False),
    Action("ctrl+o", "Ctrl+O", "another file", "Another file of the program.", "another_file",
           False),
    Action("u", "U", "your own editor", "Open the text in the editor that EDITOR names.",
           "own_editor"),
    Action("t", "T", "trace it", "Follow the case in hand, once the change is kept.", "trace",
           False),
    Action("l", "L", "what is missing", "Limits, branches and kinds that no case tries.",
           "app.advice", False),
    Action("d", "D", "side by side", "Expected and actual, whole.", "side_by_side", False),
    Action("r", "R", "check again", "Run the whole plan again.", "app.check", False),
    Action("escape", "Esc", "leave the field", "Leave the program or the search; else stop what "
           "is running.", "leave_find", False),
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
STATIONS = {"check": CHECK, "trace": TRACE, "pinpoint": PINPOINT, "mend": MEND, "record": RECORD}


def actions_of(station: str) -> tuple[Action, ...]:
    """A station's own actions, then those that hold everywhere and are not among them."""
    own = STATIONS[station]
    labels = {a.label for a in own}
    return own + tuple(a for a in EVERYWHERE if a.label not in labels)


def bindings_of(station: str) -> list[Binding]:
    """The bindings of a station; actions without a name are carried out by its widgets."""
    return [a.binding() for a in actions_of(station) if a.action]
