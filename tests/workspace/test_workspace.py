"""What one station does to the others: decided without a screen, tried without one."""

from __future__ import annotations

import sys

import pytest
from desk import until, workspace

from oddsum.model.lead import Edit, Lead, Mend
from oddsum.model.outcome import Outcome
from oddsum.plan.read import read_plan
from oddsum.workspace.jobs import Jobs
from oddsum.workspace.pinpointing import Search
from oddsum.workspace.tracing import Wish

PROGRAM = "n = int(input('Cars? '))\nprint('Lanes:', n // 4)\n"
PLAN = """\
[[case]]
name = "four"
stdin = "4\\n"
stdout = "Lanes: 1\\n"

[[case]]
name = "five"
stdin = "5\\n"
stdout = "Lanes: 2\\n"
"""


@pytest.fixture
def begun(program):
    """A workspace on a small program, its plan run."""

    def begin(source=PROGRAM, plan=PLAN):
        path = program(source, plan)
        work, desk = workspace(path, sys.executable)
        work.begin()
        desk.run()
        return work, desk, path

    return begin


def lead(work, line=2, before="print('Lanes:', n // 4)", after="print('Lanes:', -(-n // 4))",
         file="ferry.py"):  # fmt: skip
    edit = Edit(file=file, line=line, end=line, before=(before,), after=(after,))
    return Lead(rank=1, lines=(line,), file=file, function="", kind="x", where="w", what="x",
                how="h", mend=Mend(edits=(edit,), settles=(2,), breaks=()), score=0.9,
                evidence=())  # fmt: skip


def test_it_begins_with_a_check_and_the_first_odd_case_in_hand(begun):
    work, _, _ = begun()
    checking = work.checking
    assert [r.outcome for r in checking.in_order()] == [Outcome.AGREES, Outcome.DIFFERS]
    assert checking.selected == 2 and checking.complete() and not checking.busy
    assert work.recording.record.count == 1


def test_a_save_while_a_search_runs_drops_the_search(begun):
    work, desk, path = begun()
    work.arrived("pinpoint")
    search = work.pinpointing.search
    assert work.pinpointing.busy and search.doing
    path.write_text(PROGRAM + "# a remark\n")
    work.files_changed(frozenset({path}))
    assert search.stale and not search.doing
    assert all(r.stale for r in work.checking.in_order())
    desk.run()  # the old search comes to its end, late; the plan runs; a new search follows
    assert work.pinpointing.search is not search and work.pinpointing.search.found is not None
    assert search.found is None and search.leads == ()


def test_a_save_that_changes_nothing_leaves_the_check_alone(begun):
    work, desk, path = begun()
    path.write_text(PROGRAM + "# a remark\n")
    work.files_changed(frozenset({path}))
    desk.run()
    first = work.checking.job
    for _ in range(3):
        path.write_text(PROGRAM + "# a remark\n")
        work.files_changed(frozenset({path}))
    assert work.checking.job is first and work.checking.complete()
    path.write_text(PROGRAM)
    work.files_changed(frozenset({path}))
    assert work.checking.job is not first and work.checking.stale


def test_a_search_that_was_stopped_cannot_end_the_next_one(begun):
    work, desk, _ = begun()
    work.arrived("pinpoint")
    desk.work.popleft()()  # it runs to its end: its result is on its way
    work.stop()
    assert work.pinpointing.search.stopped
    work.arrived("pinpoint")
    second = work.pinpointing.search
    desk.deliver()
    assert second.doing and second.found is None and not second.stopped
    desk.run()
    assert second.found is not None and not second.doing


def test_what_was_found_before_a_search_was_stopped_stays(begun):
    work, desk, _ = begun()
    work.arrived("pinpoint")
    work.pinpointing._so_far((lead(work),))
    work.stop()
    assert work.pinpointing.search.leads and desk.heard("Stopped")


def test_a_lead_in_an_imported_module_leads_to_that_module(program):
    path = program("import deck\nfor _ in range(2):\n    print(deck.lanes(int(input())))\n",
                   '[[case]]\nname = "a"\nstdin = "4\\n5\\n"\nstdout = "1\\n2\\n"\n')  # fmt: skip
    (path.parent / "deck.py").write_text("def lanes(cars):\n    return cars // 4\n")
    work, desk = workspace(path, sys.executable)
    work.begin()
    desk.run()
    work.pinpointing.search = Search(leads=(lead(work, 2, file="deck.py"),))
    work.pinpointing.trace()
    desk.run()
    traced = work.tracing.traced
    step = traced.story.step(traced.step)
    assert (step.statement.file, step.line) == ("deck.py", 2)


def test_a_lead_is_taken_over_only_while_nothing_else_is_in_hand(begun):
    work, desk, path = begun()
    (path.parent / "other.py").write_text("a = 1\n")
    work.mending.open()
    work.mending.type(PROGRAM + "\n")
    work.pinpointing.search = Search(leads=(lead(work, file="other.py"),), first=2)
    work.station = "pinpoint"
    work.mend()
    assert desk.gone == [] and desk.heard("Keep or put back what you changed in ferry.py first")
    work.mending.put_back()
    work.pinpointing.search = Search(leads=(lead(work),), first=2)
    work.mend()
    assert desk.gone == ["mend"] and "-(-n // 4)" in work.mending.draft.text
    assert work.mending.draft.taken == "the mend of lead A"


def test_a_change_is_tried_once_typing_pauses_and_a_key_begins_it_anew(begun):
    work, desk, _ = begun()
    work.mending.open()
    work.mending.type(PROGRAM.replace("n // 4", "n // 5"))
    assert not desk.work
    work.mending.type(PROGRAM.replace("n // 4", "-(-n // 4)"))
    assert len([s for s, _ in desk.timers]) == 1
    desk.pass_time()
    assert work.mending.draft.done == 0
    desk.run()
    effect = work.mending.draft.effect(work.checking.results)
    assert (effect.settled, effect.broke) == ((2,), ())
    work.mending.type(PROGRAM)
    assert not work.mending.draft.shown


def test_a_try_that_ends_late_is_not_taken_for_the_text_that_is_there_now(begun):
    work, desk, _ = begun()
    work.mending.open()
    work.mending.type(PROGRAM.replace("n // 4", "n // 5"))
    desk.pass_time()
    desk.work.popleft()()  # autosave
    desk.work.popleft()()  # the try has run; its results are on their way
    work.mending.type(PROGRAM.replace("n // 4", "n // 6"))
    desk.deliver()
    assert work.mending.draft.results == {} and not work.mending.draft.shown


@pytest.mark.parametrize("early", [False, True], ids=["word first", "news first"])
def test_a_change_that_is_kept_is_written_recorded_and_checked(begun, early):
    work, desk, path = begun()
    work.mending.open()
    work.mending.type(PROGRAM.replace("n // 4", "-(-n // 4)"))
    desk.pass_time()
    desk.run()
    work.mending.keep()
    if early:  # the save is noticed before the word comes that it was written
        desk.work.popleft()()
        work.files_changed(frozenset({path}))
    desk.run()
    assert "-(-n // 4)" in path.read_text() and not work.mending.draft.changed
    assert not work.checking.odd() and work.checking.complete()
    assert desk.heard("Kept. ") and len(work.recording.record.entries) == 1
    (page,) = work.recording.record.entries
    assert page.how == "line 2: print('Lanes:', n // 4) → print('Lanes:', -(-n // 4))"
    assert work.tries.all[0].kept and work.recording.record.count == 2
    first = work.history.version(work.recording.record.runs[0].version)
    assert first.files["ferry.py"] == PROGRAM
    work.files_changed(frozenset({path}))  # news of our own writing
    assert not desk.work and work.checking.complete()


def test_a_change_is_checked_and_recorded_where_another_file_is_in_hand_by_then(begun):
    work, desk, path = begun()
    (path.parent / "tides.py").write_text("HIGH = 4\n")
    work.mending.open()
    work.mending.type(PROGRAM.replace("n // 4", "-(-n // 4)"))
    desk.pass_time()
    desk.run()
    work.mending.keep()
    desk.work.popleft()()
    work.files_changed(frozenset({path}))
    assert work.mending.open("tides.py").source.name == "tides.py"
    desk.run()
    assert work.checking.complete() and not work.checking.odd()
    assert work.tries.all[0].kept and work.recording.record.count == 2


def test_a_text_that_is_typed_again_counts_as_tried_again(begun):
    work, desk, _ = begun()
    work.mending.open()
    for times in (1, 2):
        work.mending.type(PROGRAM.replace("n // 4", "n // 5"))
        for _ in range(2):  # typing pauses; what it shows stands for a moment
            desk.pass_time()
            desk.run()
        assert [t.times for t in work.tries.all] == [times]
        work.mending.put_back()
        desk.pass_time()
        desk.run()
        work.mending.draft.listed = ""  # as when it is opened another time


@pytest.mark.parametrize(
    ("answer", "stands"), [("mine", "// 5"), ("theirs", "// 7"), ("leave", "// 7")]
)
def test_somebody_elses_change_is_not_written_over_unasked(begun, answer, stands):
    work, desk, path = begun()
    work.mending.open()
    work.mending.type(PROGRAM.replace("// 4", "// 5"))
    path.write_text(PROGRAM.replace("// 4", "// 7"))
    work.files_changed(frozenset({path}))
    desk.run()
    assert work.mending.draft.conflict
    desk.answers = [answer]
    work.mending.keep()
    desk.run()
    assert stands in path.read_text()
    assert work.mending.draft.changed == (answer == "leave")


def test_a_change_of_what_is_expected_does_not_make_a_program_depend_on_the_clock(begun):
    work, desk, path = begun()
    work.tracing.open(work.checking.case_in_hand())
    desk.run()
    plan = path.with_suffix(".cases.toml")
    for change in (PLAN.replace("Lanes: 2", "Lanes: 3"),
                   PLAN.replace('"5\\n"', '"9\\n"'),
                   PLAN.replace("[[case]]", "[[case]]\ntimeout = 5", 1)):  # fmt: skip
        plan.write_text(change)
        work.files_changed(frozenset({plan}))
        desk.run()
        work.tracing.open(work.checking.case_numbered(2))
        desk.run()
    assert not desk.heard("depends on something that changes")


def test_a_program_that_does_not_do_the_same_each_time_is_said_to(begun):
    source = "import time\nif time.time_ns() % 2:\n    print('odd')\n" + PROGRAM
    work, desk, _ = begun(source)
    for _ in range(40):
        work.tracing.open(work.checking.case_numbered(1))
        desk.run()
        if desk.heard("depends on something that changes"):
            return
    raise AssertionError("40 times the same, by chance?")


def test_a_recording_goes_where_it_was_wished(begun):
    work, desk, _ = begun()
    case = work.checking.case_numbered(2)
    work.tracing.open(case, Wish(place=("ferry.py", 2)))
    desk.run()
    traced = work.tracing.traced
    assert traced.story.step(traced.step).line == 2
    work.tracing.open(case, Wish(step=1))  # the same recording: it is not made again
    assert not desk.work and work.tracing.traced is traced and traced.step == 1


def test_a_plan_changed_outside_is_not_written_over(begun):
    work, desk, path = begun()
    plan = path.with_suffix(".cases.toml")
    plan.write_text(PLAN.replace('"five"', '"fifth"'))
    work.checking.selected = 1
    work.planning.delete()
    desk.run()
    assert [c.name for c in read_plan(plan, path).cases] == ["four", "fifth"]
    work.planning.delete()
    desk.run()
    assert [c.name for c in read_plan(plan, path).cases] == ["fifth"]
    work.planning.take_back()
    desk.run()
    assert [c.name for c in read_plan(plan, path).cases] == ["four", "fifth"]


def test_a_run_is_written_down_with_the_program_that_ran_not_with_a_later_save(begun):
    work, desk, path = begun()
    work.checking.check_all()
    desk.work.popleft()()  # the check has run
    path.write_text("print('saved meanwhile')\n")
    desk.run()
    last = work.history.version(work.recording.record.runs[-1].version)
    assert last.files["ferry.py"] == PROGRAM


def test_an_exception_of_ours_in_any_job_costs_no_more_than_that_job(begun, monkeypatch):
    work, desk, _ = begun()

    def stumble(*args, **options):
        raise ZeroDivisionError("ours")

    places = ["checking.check", "tracing.trace_case", "pinpointing.pinpoint", "mending.attempt",
              "claims.check_claims", "advising.advise", "shared.find_pattern"]  # fmt: skip
    for place in places:
        module, name = place.split(".")
        monkeypatch.setattr(sys.modules[f"oddsum.workspace.{module}"], name, stumble)
    work.tracing.open(work.checking.case_in_hand())
    work.arrived("pinpoint")
    work.advising.look()
    work.mending.open()
    work.mending.type(PROGRAM + "\n")
    desk.pass_time()
    desk.run()
    assert not work.tracing.busy and work.pinpointing.search.stopped and work.advising.failed
    assert work.mending.draft.fault is not None
    work.checking.check_all()
    desk.run()
    assert "ZeroDivisionError" in str(work.checking.fault) and not work.checking.busy
    monkeypatch.undo()
    work.checking.check_all()
    desk.run()
    assert work.checking.complete() and work.checking.fault is None


def test_on_threads_of_their_own_jobs_do_the_same(program):
    path = program(PROGRAM, PLAN)
    work, desk = workspace(path, sys.executable)
    work.jobs = work.checking._jobs = Jobs(desk.post)
    work.read_files()
    work.checking.check_all()
    until(lambda: work.checking.complete() and not work.checking.busy, desk)
    assert work.checking.counts()[Outcome.DIFFERS] == 1


def test_a_save_while_a_case_is_recorded_makes_the_recording_stale(begun):
    work, desk, path = begun()
    source = work.files.source
    work.tracing.open(work.checking.cases[1])
    path.write_text(PROGRAM.replace("//", "/"))
    work.files_changed(frozenset({path}))
    desk.run()
    traced = work.tracing.traced
    assert traced.stale and traced.source == source != work.files.source


def test_what_a_plan_asks_to_be_allowed_is_asked_once_and_kept(begun):
    work, desk, _ = begun(plan='allow = ["network", "files"]\n' + PLAN)
    ((choice, then),) = desk.choices
    assert "reach the network" in choice.said[1] and choice.answers[0][0] == "no"
    assert work.checking.plan.allow == ()
    then("yes")
    desk.run()
    assert work.checking.plan.allow == ("network", "files") and work.checking.complete()
    work.read_files()
    work.preferences.ask()
    assert len(desk.choices) == 1  # not asked again
    desk.answers = ["no"]
    work.preferences.ask_again()
    assert work.checking.plan.allow == ()
    again, asked = workspace(work.files.program, sys.executable)
    again.begin()
    assert asked.choices == [] and again.checking.plan.allow == ()
