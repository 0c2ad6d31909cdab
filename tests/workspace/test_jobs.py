"""Jobs: what they tell arrives in order, on one thread, and never after they were replaced."""

from __future__ import annotations

import threading

import pytest
from desk import Desk, until

from oddsum.model.errors import OddSumError
from oddsum.workspace.jobs import Jobs, Unforeseen


@pytest.fixture
def desk():
    return Desk()


@pytest.fixture
def jobs(desk):
    """Jobs that run when the desk says so."""
    return Jobs(desk.post, lambda name, work: desk.work.append(work))


def never(_: object) -> None:
    raise AssertionError("nobody was to hear of it")


def test_a_job_tells_what_it_finds_and_then_how_it_ended(jobs, desk):
    heard = []

    def work(job):
        job.tell(heard.append, 1)
        job.tell(heard.append, 2)
        return 3

    job = jobs.start("count", work, done=heard.append, failed=never)
    assert heard == [] and not job.over
    desk.run()
    assert heard == [1, 2, 3] and job.over and not jobs.running


def test_jobs_have_numbers_of_their_own(jobs):
    numbers = [jobs.start("x", lambda job: None, done=never, failed=never).number for _ in range(3)]
    assert len(set(numbers)) == 3


@pytest.mark.parametrize("how", ["replaced", "cancelled"])
def test_what_comes_from_a_job_that_was_replaced_reaches_nobody(jobs, desk, how):
    heard = []

    def work(job):
        job.tell(heard.append, "late")
        job.went(heard.append, "later")
        return "too late"

    first = jobs.start("search", work, done=heard.append, failed=never)
    desk.work.popleft()()  # it ran to its end; what it tells is on its way
    if how == "replaced":
        jobs.start("search", lambda job: "new", done=heard.append, failed=never, replaces=first)
    else:
        jobs.cancel(first)
    desk.run()
    assert first.stop.is_set()
    assert heard == (["new"] if how == "replaced" else [])


def test_the_newest_progress_stands_for_what_still_waits(jobs, desk):
    heard = []

    def work(job):
        for n in range(1000):
            job.went(heard.append, n)

    jobs.start("count", work, done=lambda _: heard.append("end"), failed=never)
    desk.run()
    assert heard == [999, "end"]


def test_an_error_is_told_as_it_is_and_an_exception_of_ours_as_a_sentence(jobs, desk):
    heard = []

    def refuse(job):
        raise OddSumError("It cannot be read.")

    def stumble(job):
        return {}["no such key"]

    jobs.start("check", refuse, done=never, failed=heard.append)
    jobs.start("check", stumble, done=never, failed=heard.append)
    desk.run()
    assert heard[0].text == "It cannot be read."
    assert isinstance(heard[1], Unforeseen) and "KeyError" in str(heard[1])
    assert isinstance(jobs.unforeseen[0], KeyError)


def test_jobs_of_one_lane_run_in_the_order_they_were_begun(desk):
    jobs, heard, gate = Jobs(desk.post), [], threading.Event()

    def slow(job):
        gate.wait(10)
        heard.append(0)

    jobs.start("record", slow, done=lambda _: None, failed=never, lane="record")
    for n in range(1, 20):
        work = lambda job, n=n: heard.append(n)  # noqa: E731
        jobs.start("record", work, done=lambda _: None, failed=never, lane="record")
    gate.set()
    until(lambda: not jobs.running, desk)
    assert heard == list(range(20))


def test_a_window_that_closes_stops_all_but_what_is_to_be_finished(jobs, desk):
    heard = []
    check = jobs.start("check", lambda job: 1, done=heard.append, failed=never)
    record = jobs.start("record", lambda job: 2, done=heard.append, failed=never)
    jobs.close(but_not=frozenset({"record"}))
    desk.run()
    assert (check.stop.is_set(), record.stop.is_set()) == (True, False)
    assert heard == []
