"""Trees from text, one caller at a time."""

import ast
import gc
import sys
from concurrent.futures import ThreadPoolExecutor

import pytest

from oddsum.languages.python.parsing import expression_of, literal, module_of

VALUE = "[1, (2, [3, -4]), {'a': 5}]"


@pytest.fixture
def crowded():
    """Threads that change places as often as can be, in the middle of a parse too."""

    def work(phase, info):
        sum(range(200))

    interval, threshold = sys.getswitchinterval(), gc.get_threshold()
    sys.setswitchinterval(1e-6)
    gc.set_threshold(1)
    gc.callbacks.append(work)
    yield
    gc.callbacks.remove(work)
    gc.set_threshold(*threshold)
    sys.setswitchinterval(interval)


def test_threads_that_parse_at_once_do_not_disturb_each_other(crowded):
    def parse(_):
        return literal(VALUE) == [1, (2, [3, -4]), {"a": 5}] and bool(
            module_of(f"x = {VALUE}").body
        )

    with ThreadPoolExecutor(4) as pool:
        assert all(pool.map(parse, range(2000)))


def test_an_expression_is_its_tree_and_a_literal_its_value():
    assert ast.unparse(expression_of("a+b")) == "a + b"
    assert literal(expression_of("(1, 'two')")) == (1, "two")


@pytest.mark.parametrize("text", ["1 +", "x = 1", ""])
def test_what_is_no_expression_is_a_syntax_error(text):
    with pytest.raises(SyntaxError):
        expression_of(text)


def test_more_than_a_literal_is_not_worked_out():
    with pytest.raises(ValueError, match="malformed"):
        literal("open('ferry.txt')")
