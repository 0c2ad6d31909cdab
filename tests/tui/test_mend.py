"""Mend: what is typed is tried on a copy, kept when asked, and never written over unasked."""

from __future__ import annotations

import pytest
from piloting import NARROW, opened, said, screen, sizes, until

from oddsum.model.lead import Edit, Lead, Mend
from oddsum.record.autosave import left_behind
from oddsum.source.program import Source
from oddsum.tui.widgets.program_editor import ProgramEditor
from oddsum.workspace.draft import Draft
from oddsum.workspace.interface import EVERYTHING
from oddsum.workspace.pinpointing import Search

LINE = 10  # of fares.py: if age <= 16:


async def at_mend(pilot, line: int = LINE) -> ProgramEditor:
    await pilot.press("4")
    await until(pilot, lambda: bool(pilot.app.screen.query("#editor")))
    editor = pilot.app.screen.query_one(ProgramEditor)
    await until(pilot, lambda: bool(editor.text))
    editor.move_cursor((line - 1, len(editor.document[line - 1])))
    return editor


async def change(pilot, editor: ProgramEditor, old: str, new: str) -> None:
    """Type over a text, and wait until the change is tried."""
    row = next(n for n in range(editor.document.line_count) if old in editor.document[n])
    column = editor.document[row].index(old)
    editor.selection = type(editor.selection)((row, column), (row, column + len(old)))
    await pilot.press(*new)
    draft = pilot.app.workspace.mending.draft
    await until(pilot, lambda: draft.shown or not draft.changed)


@pytest.mark.parametrize("size", sizes(NARROW))
async def test_a_change_is_tried_kept_and_remembered(demo, size):
    path = demo / "fares.py"
    before = path.read_text()
    async with opened(path, size) as pilot:
        app = pilot.app
        editor = await at_mend(pilot)
        await change(pilot, editor, "<=", "<")
        text = screen(pilot)
        assert "2 settled   0 broke   9 of 9 agree" in text and "≠ → =" in text
        assert "Ctrl+S keeps it" in text and "not kept" in text
        assert path.read_text() == before
        await pilot.press("ctrl+s")
        await until(
            pilot, lambda: app.workspace.checking.complete() and not app.workspace.checking.odd()
        )
        await until(
            pilot,
            lambda: (
                len(app.workspace.recording.record.entries) == 1 and app.workspace.tries.all != ()
            ),
        )
        await until(
            pilot,
            lambda: app.workspace.tries.all[0].kept and app.workspace.recording.record.count == 2,
        )
        assert path.read_text() == before.replace("<=", "<")
        (page,) = app.workspace.recording.record.entries
        assert page.where == "fares.py, line 10, in fare" and "age < 16" in page.how
        assert not app.workspace.mending.draft.changed and "as the file has it" in screen(pilot)
        await until(pilot, lambda: "that no one has tried yet" in screen(pilot))
        first = app.workspace.history.version(app.workspace.recording.record.runs[0].version)
        assert first.files["fares.py"] == before  # the version before is not lost


async def left(demo, old="<=", new="<"):
    """Change fares.py in a window that ends without leaving."""
    async with opened(demo / "fares.py") as pilot:
        app = pilot.app
        await change(pilot, await at_mend(pilot), old, new)
        await until(pilot, lambda: bool(left_behind(app.workspace.history)))


async def test_a_change_outlives_its_window_and_is_taken_up_again(demo):
    path = demo / "fares.py"
    before = path.read_text()
    await left(demo)
    assert path.read_text() == before
    async with opened(path) as pilot:
        app = pilot.app
        await until(pilot, lambda: "A CHANGE FROM BEFORE" in screen(pilot))
        text = screen(pilot)
        assert "if age <= 16: → if age < 16:" in text and "as it was then" in text
        await pilot.press("right", "enter")
        await until(
            pilot,
            lambda: app.workspace.mending.draft is not None and app.workspace.mending.draft.shown,
        )
        assert "9 of 9 agree" in screen(pilot) and "4 Mend" in screen(pilot)
        assert path.read_text() == before
        await pilot.press("ctrl+s")
        await until(
            pilot,
            lambda: (
                not app.workspace.mending.draft.changed and not left_behind(app.workspace.history)
            ),
        )
    async with opened(path) as pilot:
        assert not pilot.app.screen.query("#card")


async def test_a_change_from_before_waits_until_it_is_let_go(demo):
    await left(demo)
    for keys, still in (("escape",), 1), (("right", "right", "enter"), 0):
        async with opened(demo / "fares.py") as pilot:
            history = pilot.app.workspace.history
            await until(pilot, lambda: "A CHANGE FROM BEFORE" in screen(pilot))
            await pilot.press(*keys)
            await until(pilot, lambda n=still, h=history: len(left_behind(h)) == n)
            assert pilot.app.workspace.mending.draft is None


async def test_a_change_from_before_says_that_the_file_was_changed_since(demo):
    path = demo / "fares.py"
    await left(demo)
    path.write_text(path.read_text().replace("CHILD = 3", "CHILD = 4"))
    async with opened(path) as pilot:
        await until(pilot, lambda: "changed since" in " ".join(screen(pilot).split()))
        await pilot.press("right", "enter")
        await until(pilot, lambda: pilot.app.workspace.mending.draft is not None)
        assert len(pilot.app.workspace.mending.draft.edits) == 2


async def test_leaving_without_a_change_does_not_bring_it_back(demo):
    async with opened(demo / "fares.py") as pilot:
        app = pilot.app
        await change(pilot, await at_mend(pilot), "<=", "<")
        await until(pilot, lambda: bool(left_behind(app.workspace.history)))
        await pilot.press("ctrl+q")
        await until(pilot, lambda: "A CHANGE IS NOT KEPT" in screen(pilot))
        await pilot.press("right", "enter")
    assert left_behind(app.workspace.history) == ()


async def test_a_change_put_back_is_not_held(demo):
    async with opened(demo / "fares.py") as pilot:
        app = pilot.app
        await change(pilot, await at_mend(pilot), "<=", "<")
        await until(pilot, lambda: bool(left_behind(app.workspace.history)))
        app.workspace.mending.put_back()
        await until(pilot, lambda: not left_behind(app.workspace.history))


async def test_a_copy_that_cannot_start_says_where_and_ctrl_z_takes_it_back(demo):
    async with opened(demo / "fares.py") as pilot:
        editor = await at_mend(pilot)
        await change(pilot, editor, "<= 16:", "<= 16")
        assert "fares.py, line 10: the program cannot start" in " ".join(screen(pilot).split())
        assert "the copy cannot start yet" in screen(pilot)
        for _ in range(20):
            if not pilot.app.workspace.mending.draft.changed:
                break
            await pilot.press("ctrl+z")
            await pilot.pause()
        assert not pilot.app.workspace.mending.draft.changed and "7 of 9 agree" in screen(pilot)


async def test_a_line_goes_off_and_on_and_more_places_are_told(demo):
    async with opened(demo / "fares.py") as pilot:
        editor, app = await at_mend(pilot, 22), pilot.app
        before = editor.text
        await pilot.press("ctrl+l")
        await until(pilot, lambda: app.workspace.mending.draft.shown)
        assert "pass  # off: total = total + fare(age)" in editor.text
        assert "off" in screen(pilot) and "broke" in screen(pilot)
        await change(pilot, editor, "CHILD = 3", "CHILD = 4")
        assert "This try changes 2 places (lines 3 and 22)" in " ".join(screen(pilot).split())
        editor.move_cursor((21, 0))
        await pilot.press("ctrl+l")
        await change(pilot, editor, "CHILD = 4", "CHILD = 3")
        assert editor.text == before and not app.workspace.mending.draft.changed
        await pilot.press("escape", "b")
        assert "as the file has it" in screen(pilot)
        editor.move_cursor((12, 0))
        await pilot.press("minus")
        await until(pilot, lambda: "has no statement" in said(pilot))


async def test_the_same_try_is_known_again(demo):
    async with opened(demo / "fares.py") as pilot:
        editor, app = await at_mend(pilot), pilot.app
        await change(pilot, editor, "<= 16", "<= 17")
        await pilot.press("escape", "b")  # what was looked at goes into the list
        await until(
            pilot,
            lambda: len(app.workspace.tries.all) == 1 and not app.workspace.mending.draft.changed,
        )
        assert "not kept" in screen(pilot)
        app.workspace.mending.draft.listed = ""  # as when it is opened another time
        await pilot.press("e")
        await change(pilot, editor, "<= 16", "<= 17")
        await until(pilot, lambda: "You tried exactly this before" in screen(pilot))
        await until(pilot, lambda: "tried 2 times" in screen(pilot))  # it stood for two seconds
        assert "You tried exactly this before" in screen(pilot)


@pytest.mark.parametrize("answer", ["theirs", "mine", "neither"])
async def test_a_file_that_changed_outside_is_not_written_over_unasked(demo, answer):
    path = demo / "fares.py"
    async with opened(path) as pilot:
        editor, app = await at_mend(pilot), pilot.app
        await change(pilot, editor, "<= 16", "< 16")
        mine = editor.text
        theirs = path.read_text() + "# theirs\n"
        path.write_text(theirs)
        await until(
            pilot,
            lambda: app.workspace.mending.draft.conflict and app.workspace.checking.complete(),
        )
        assert editor.text == mine and "changed outside" in screen(pilot)
        await pilot.press("ctrl+s")
        await until(pilot, lambda: "THE FILE HAS CHANGED" in screen(pilot))
        assert path.read_text() == theirs
        await pilot.press(*{"theirs": ["right", "right", "enter"], "mine": ["right", "enter"],
                            "neither": ["escape"]}[answer])  # fmt: skip
        if answer == "mine":
            await until(pilot, lambda: path.read_text() == mine)
        elif answer == "theirs":
            await until(pilot, lambda: editor.text == theirs)
            assert path.read_text() == theirs
        else:
            assert (editor.text, path.read_text()) == (mine, theirs)


def lead(line: int) -> Lead:
    edit = Edit("fares.py", line, line, ("    if age <= 16:",), ("    if age < 16:",))
    return Lead(rank=1, lines=(line,), file="fares.py", function="fare", kind="comparison",
                where="Look at line 10, in fare.", what="W.", how="H.",
                mend=Mend((edit,), (6, 7), ()), score=0.9)  # fmt: skip


async def test_a_mend_is_taken_over_only_where_it_is_uncovered(demo):
    async with opened(demo / "fares.py") as pilot:
        app = pilot.app
        app.workspace.pinpointing.search = Search(leads=(lead(LINE),), found=None)
        app.workspace.pinpointing.search.stopped = False
        app.workspace.pinpointing.begin = lambda: None  # this one is given
        await pilot.press("3", "m")
        await until(
            pilot,
            lambda: bool(app.screen.query("#editor")) and app.workspace.mending.draft is not None,
        )
        editor = app.screen.query_one(ProgramEditor)
        await until(pilot, lambda: editor.cursor_location[0] == LINE - 1)
        assert not app.workspace.mending.draft.changed
        app.workspace.pinpointing.search.revealed["fares.py", (LINE,)] = 2
        await pilot.press("escape", "3", "m")
        await until(pilot, lambda: app.workspace.mending.draft.shown)
        text = screen(pilot)
        assert "if age < 16:" in editor.text and "Taken over: the mend of lead A" in text
        assert "2 settled" in text
        await pilot.press("e", "ctrl+z")
        await until(pilot, lambda: not app.workspace.mending.draft.changed)


async def test_a_read_only_file_and_a_record_that_cannot_be_kept_are_told(demo, tmp_path):
    path = demo / "fares.py"
    async with opened(path) as pilot:
        editor, app = await at_mend(pilot), pilot.app
        await change(pilot, editor, "<= 16", "< 16")
        path.chmod(0o444)
        await pilot.press("ctrl+s")
        await until(pilot, lambda: "read-only" in said(pilot))
        assert app.workspace.mending.draft.changed and "<= 16" in path.read_text()
        path.chmod(0o644)
        (tmp_path / "blocked").write_text("")
        app.workspace.history.store.path = tmp_path / "blocked" / "h.db"
        app.workspace.history.store._ready = False
        await pilot.press("ctrl+s")
        await until(pilot, lambda: "THE VERSION BEFORE" in screen(pilot))
        assert "<= 16" in path.read_text()
        await pilot.press("right", "enter")
        await until(
            pilot, lambda: "< 16" in path.read_text() and not app.workspace.mending.draft.changed
        )
        await until(
            pilot, lambda: app.workspace.checking.complete() and not app.workspace.checking.odd()
        )


async def test_the_editor_has_what_an_editor_has(demo):
    async with opened(demo / "fares.py") as pilot:
        editor, app = await at_mend(pilot, 16), pilot.app
        await pilot.press("enter", *"if total:", "enter", "x", "enter", *"pass", "enter", "y")
        rows = [editor.document[n] for n in range(16, 20)]
        assert rows == ["if total:", "    x", "    pass", "y"]
        editor.selection = type(editor.selection)((16, 0), (18, 4))
        await pilot.press("ctrl+underscore")
        assert [editor.document[n] for n in range(16, 19)] == [
            "# if total:",
            "#     x",
            "#     pass",
        ]
        await pilot.press("ctrl+underscore", "tab")
        assert editor.document[17] == "        x"
        await pilot.press("shift+tab")
        assert editor.document[17] == "    x"
        await pilot.press("escape", "b")
        await until(pilot, lambda: not app.workspace.mending.draft.changed)
        await pilot.press("slash", *"AGE")
        await until(pilot, lambda: "of 10" in screen(pilot))
        first = editor.selection
        await pilot.press("enter")
        assert editor.selection != first and editor.selected_text.lower() == "age"
        await pilot.press(*"zz")
        assert "nowhere" in screen(pilot)
        await pilot.press("escape", "ctrl+g")
        await until(pilot, lambda: "GO TO A LINE" in screen(pilot))
        await pilot.press(*"99", "enter")
        assert "lines 1 to" in screen(pilot)
        await pilot.press("backspace", "backspace", *"12", "enter")
        await until(pilot, lambda: "⟨12⟩" in screen(pilot))
        await pilot.press("home")
        editor.move_cursor((11, 6))
        assert app.screen.word_in_hand() == "return"
        await pilot.press("escape", "z")
        await until(pilot, lambda: "THE WORDS IN MEND" in screen(pilot))
        assert screen(pilot).index("Ends the call") < screen(pilot).index("Your change, run on")


async def test_leaving_with_a_change_that_is_not_kept_is_asked_about(demo):
    async with opened(demo / "fares.py") as pilot:
        editor, app = await at_mend(pilot), pilot.app
        await change(pilot, editor, "<= 16", "< 16")
        await pilot.press("ctrl+q")
        await until(pilot, lambda: "A CHANGE IS NOT KEPT" in screen(pilot))
        await pilot.press("escape")
        assert app.is_running and app.workspace.mending.draft.changed


async def test_an_editor_that_is_not_named_is_told(demo, monkeypatch):
    monkeypatch.delenv("EDITOR", raising=False)
    monkeypatch.delenv("VISUAL", raising=False)
    async with opened(demo / "fares.py") as pilot:
        await at_mend(pilot)
        await pilot.press("escape", "u")
        await until(pilot, lambda: "No editor of your own is named" in said(pilot))


async def test_a_program_that_cannot_start_is_put_right_where_it_is_wrong(demo):
    path = demo / "fares.py"
    path.write_text(path.read_text().replace("def fare(age):", "def fare(age)"))
    async with opened(path, checked=False) as pilot:
        app = pilot.app
        await until(
            pilot,
            lambda: app.workspace.checking.fault is not None and not app.workspace.checking.busy,
        )
        await pilot.press("m")
        await until(pilot, lambda: bool(app.screen.query("#editor")))
        editor = app.screen.query_one(ProgramEditor)
        await until(pilot, lambda: editor.cursor_location[0] == 6)
        assert "The program cannot start" in screen(pilot)
        await change(pilot, editor, "def fare(age)", "def fare(age):")
        assert "7 of 9 agree" in screen(pilot)
        await pilot.press("ctrl+s")
        await until(
            pilot,
            lambda: app.workspace.checking.complete() and app.workspace.checking.fault is None,
        )
        assert len(app.workspace.checking.odd()) == 2


async def test_another_file_of_the_program_is_changed(demo):
    (demo / "deck.py").write_text("def room():\n    return 11\n")
    path = demo / "board.py"
    path.write_text("import deck\nprint(deck.room())\n")
    (demo / "board.cases.toml").write_text('[[case]]\nname = "a"\nstdin = ""\nstdout = "12"\n')
    async with opened(path) as pilot:
        editor, app = await at_mend(pilot, 1), pilot.app
        await pilot.press("ctrl+o")
        await until(pilot, lambda: "WHICH FILE?" in screen(pilot))
        await pilot.press("down", "enter")
        await until(pilot, lambda: "def room" in editor.text)
        await change(pilot, editor, "11", "12")
        assert "every case agrees" in screen(pilot)
        await pilot.press("ctrl+s")
        await until(
            pilot, lambda: app.workspace.checking.complete() and not app.workspace.checking.odd()
        )
        assert "return 12" in (demo / "deck.py").read_text()


async def test_the_palette_sets_what_the_settings_keep(demo):
    from oddsum.settings.user import read_settings, settings_file

    async with opened(demo / "fares.py") as pilot:
        app = pilot.app
        found = {title: run for title, _, run in app.settings_commands.commands()}
        found["Theme: Paper, the light one"]()
        found["Marks: plain, for fonts that lack them"]()
        found["Pinpoint begins with: what"]()
        await pilot.pause()
        assert app.workspace.pinpointing.reveal_first == 1 and "# differs" in screen(pilot)
        for title, typed in (("Setting: timeout", "x"), ("Setting: editor", "nano")):
            found[title]()
            await until(pilot, lambda: "Kept in" in screen(pilot))
            await pilot.press(*typed, "enter")
            if typed == "x":
                assert "A number above 0" in screen(pilot)
                await pilot.press("backspace", *"3.5", "enter")
        await until(
            pilot,
            lambda: (
                app.workspace.preferences.settings.editor == "nano"
                and app.workspace.checking.complete()
            ),
        )
        settings, _ = read_settings()
        assert (settings.theme, settings.plain_marks, settings.reveal) == ("paper", True, "what")
        assert (settings.timeout, settings.editor) == (3.5, "nano")
        assert app.workspace.checking.plan.settings.timeout == 3.5
        settings_file().write_text("theme = \n")
        app.settings_commands.toggle_theme()
        await until(pilot, lambda: "cannot be read" in said(pilot))
        assert app.theme == "lamp" and settings_file().read_text() == "theme = \n"
        app.settings_commands.toggle_marks()


async def test_a_key_that_is_not_told_yet_is_not_lost_when_the_screen_is_shown(demo):
    async with opened(demo / "fares.py") as pilot:
        editor, app = await at_mend(pilot, 3), pilot.app
        editor.insert("0")  # the word of it waits in the queue
        app.show(EVERYTHING)
        assert editor.document[2] == "CHILD = 30"
        await until(pilot, lambda: app.workspace.mending.draft.shown)
        editor.insert("0")
        await app.screen.run_action("keep")
        await until(pilot, lambda: "CHILD = 300" in (demo / "fares.py").read_text())


async def test_news_of_somebody_else_s_save_is_news_even_where_it_brings_back_ours(demo):
    path = demo / "fares.py"
    async with opened(path) as pilot:
        editor, app = await at_mend(pilot), pilot.app
        await change(pilot, editor, "<= 16", "< 16")
        await pilot.press("ctrl+s")
        await until(
            pilot, lambda: app.workspace.checking.complete() and not app.workspace.checking.odd()
        )
        ours = path.read_text()
        path.write_text(ours.replace("< 16", "< 9"))
        await until(
            pilot, lambda: app.workspace.checking.complete() and bool(app.workspace.checking.odd())
        )
        path.write_text(ours)
        await until(
            pilot, lambda: app.workspace.checking.complete() and not app.workspace.checking.odd()
        )


def test_lines_that_stayed_the_same_are_known_where_they_stand_now(tmp_path):
    source = Source("x.py", "a\nb\nc\nd\ne\n")
    for text in ("a\nB\nc\nd\ne\n", "new\na\nb\nd\ne\n", "e\n", "", "a\nb\nx\ny\nc\nd\ne\nf\n"):
        draft = Draft(tmp_path, source, text)
        old, new = source.text.split("\n"), text.split("\n")
        found = draft.unchanged_lines()
        assert all(old[a - 1] == new[b - 1] for a, b in found.items())
        assert len(found) == 5 - sum(len(e.before) for e in draft.edits)
