"""A file is written whole or not at all."""

from __future__ import annotations

import errno
import os

import pytest

from oddsum.source.edits import applied, edits_of
from oddsum.source.program import Source
from oddsum.source.save import SaveError, replace_file


@pytest.mark.parametrize("step", ["fsync", "replace"])
def test_a_full_disk_leaves_the_old_file(tmp_path, monkeypatch, step):
    path = tmp_path / "fares.py"
    path.write_bytes(b"old")

    def full(*_):
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, step, full)
    with pytest.raises(SaveError, match="no space left on device"):
        replace_file(path, b"new")
    assert path.read_bytes() == b"old" and [p.name for p in tmp_path.iterdir()] == ["fares.py"]


def test_a_read_only_file_is_refused_and_rights_stay(tmp_path):
    path = tmp_path / "fares.py"
    path.write_bytes(b"old")
    path.chmod(0o444)
    with pytest.raises(SaveError, match="read-only"):
        replace_file(path, b"new")
    path.chmod(0o750)
    replace_file(path, b"new")
    assert path.read_bytes() == b"new" and path.stat().st_mode & 0o777 == 0o750


def test_edits_of_two_texts_lead_from_one_to_the_other():
    old = Source("x.py", "a\nb\nc\nd\n")
    for new in ("a\nB\nc\nd\n", "b\nc\nd\n", "a\nb\nx\ny\nc\nd", "", "a\nb\nc\nd\n\n"):
        assert applied(old, edits_of(old, new)) == new
