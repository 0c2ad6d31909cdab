"""How the database came to be what it is: each step once, in this order, never changed afterwards.

A database says in ``user_version`` how many of them it has been through.
"""

from __future__ import annotations

MIGRATIONS: tuple[str, ...] = (
    # 1: programs, their versions, and the checks of them.
    """
    CREATE TABLE program (id INTEGER PRIMARY KEY, path TEXT NOT NULL UNIQUE);
    CREATE TABLE version (
        id INTEGER PRIMARY KEY,
        program INTEGER NOT NULL REFERENCES program,
        digest TEXT NOT NULL,
        files BLOB NOT NULL,
        UNIQUE (program, digest)
    );
    CREATE TABLE run (
        id INTEGER PRIMARY KEY,
        program INTEGER NOT NULL REFERENCES program,
        version INTEGER NOT NULL REFERENCES version,
        at REAL NOT NULL,
        seconds REAL NOT NULL,
        plan TEXT NOT NULL,
        interpreter TEXT NOT NULL,
        outcomes TEXT NOT NULL
    );
    CREATE INDEX run_of_program ON run (program, id);
    """,
    # 2: what was tried, and the notebook.
    """
    CREATE TABLE try (
        id INTEGER PRIMARY KEY,
        program INTEGER NOT NULL REFERENCES program,
        key TEXT NOT NULL,
        at REAL NOT NULL,
        told TEXT NOT NULL,
        UNIQUE (program, key)
    );
    CREATE TABLE entry (
        id INTEGER PRIMARY KEY,
        program INTEGER NOT NULL REFERENCES program,
        at REAL NOT NULL,
        told TEXT NOT NULL
    );
    """,
    # 3: the change in hand of each window, so that it outlives the window.
    """
    CREATE TABLE unkept (
        id INTEGER PRIMARY KEY,
        program INTEGER NOT NULL REFERENCES program,
        window INTEGER NOT NULL,
        at REAL NOT NULL,
        told BLOB NOT NULL,
        UNIQUE (program, window)
    );
    """,
    # 4: how far leads were uncovered, by the version they were found in.
    """
    CREATE TABLE uncovered (
        version INTEGER PRIMARY KEY REFERENCES version,
        told TEXT NOT NULL
    );
    """,
)
