"""The wire between the tool and any language's probe: plain data, a line of json a message.

*Tool to probe*: one request, an object with ``version``, ``nonce``, ``aside``, ``mark``, ``mode``
(``case``, ``record``, ``live`` or ``trials``) and what the mode needs; in trials mode more lines
follow.

*Probe to tool*: lines that begin with the nonce, a random text made for this one run, followed by a
json object with ``k``, its kind; what a program does on its way may begin with ``aside`` instead,
another such text. The table of kinds stands at the head of Python's ``probe/wire.py``, and with the
types of their fields in ``messages.py``; what does not fit is not taken. A probe that has less to
tell sends less. A recording's events are a message of kind ``log`` with ``events``, a flat list as
the table in ``trace/decode.py`` reads it; or, where a line goes on with ``=`` after the nonce,
packed as the language's ``unpack`` reads it.

*In the program's standard output* the request's ``mark``, after a zero byte, marks places: ``<`` a
prompt begins, ``>`` it ends (a read follows), ``!`` what came so far is not compared.

A probe imports nothing of ours, so it has these words for itself; a test holds Python's against
them.
"""

from __future__ import annotations

VERSION = 1
# How many operands stand before each tag of a recorded log: see the table in Python's record.py.
OPERANDS = {"call": 2, "back": 1, "z": 2, "u": 1, "s": 1, "n": 1, "f": 1, "e": 1, "r": 1, "y": 1,
            "rl": 1, "l": 0, "cells": 0, "c": 1,
            "x": 2, "p": 1, "h": 1, "i": 1, "o": 1, "new": 2, "all": 2, "set": 4, "add": 3,
            "drop": 3, "t": 2, "k": 2, "w": 2, "part": 2}  # fmt: skip
OPEN, CLOSE, FRESH = b"<", b">", b"!"
WORD = 8  # bytes of a number that a waiting probe answers with
