"""The report as Markdown: tables, code, and charts that stand in the text itself."""

from __future__ import annotations

import base64
from collections.abc import Iterable

from oddsum.formats.markdown import code_cell, fenced, plain, table_row
from oddsum.formats.plan_md import write as plan_write
from oddsum.model.history import Entry
from oddsum.pinpoint.words import kind_title, verdict
from oddsum.record.before import Before
from oddsum.record.report import Report, Table, Told
from oddsum.trace.words import counted

Lines = list[str]


def write(found: Report) -> str:
    """The whole text."""
    facts = [found.at, found.interpreter, f"{counted(found.runs, 'run')} recorded"]
    lines = [f"# {plain(found.program)}: report", "", " · ".join(f for f in facts if f), ""]
    lines += [plan_write(found.plan, found.results).replace("# Test plan of", "## Test plan of", 1)]
    for case, svg in found.pictures:
        lines += [f"## The drawing of case {case.number}: {plain(case.name)}", "",
                  *_drawn(svg, f"expected beside actual, case {case.number}"), ""]  # fmt: skip
    for title, told in (("Leads, as far as uncovered", _leads(found.leads)),
                        ("Before it was mended", _before(found.before)),
                        ("How it went", _drawn(found.history, "outcomes run by run")),
                        ("Notebook", _notebook(found.entries))):  # fmt: skip
        if told:
            lines += [f"## {title}", "", *told, ""]
    if found.table_before is not None:
        lines += _trace(found.table_before, "Before it was mended: trace")
    for table in found.tables:
        lines += _trace(table)
    for name, text in found.files.items():
        lines += [f"## {plain(name)}", "", *fenced(_numbered(text), "text"), ""]
    return "\n".join(lines).rstrip() + "\n"


def _leads(leads: Iterable[Told]) -> Lines:
    lines: Lines = []
    for told in leads:
        lead = told.lead
        lines += [f"### {lead.letter}: {lead.where}", ""]
        if told.level == 0:
            lines += ["What it may be is not uncovered.", ""]
        if told.level >= 1:
            lines += [f"{lead.what} ({kind_title(lead.kind)})", ""]
            for side, title in (("for", "Speaks for it"), ("against", "Speaks against it")):
                mine = [e.text for e in lead.evidence if e.side == side]
                lines += [f"{title}:", "", *(f"- {text}" for text in mine or ["nothing"]), ""]
            lines += [f"Verdict: {verdict(lead.score)}.", ""]
        if told.level >= 2:
            lines += [lead.how, ""]
            for edit in lead.mend.edits if lead.mend is not None else ():
                for word, texts in (("now", edit.before), ("then", edit.after)):
                    code = fenced("\n".join(texts), "python")
                    lines += [f"Line {edit.line}, {word}:", "", *code, ""]
    return lines


def _before(before: Before | None) -> Lines:
    if before is None:
        return []
    lines = []
    for result in before.odd:
        told = result.difference.summary if result.difference else ""
        lines.append(
            f"- {result.number}, {plain(result.name)}: {result.outcome.value}. {plain(told)}."
        )
    lines += [f"- changed since run {before.run}: {code_cell(text)}" for text in before.changed]
    return [*lines, *(f"- {plain(text)}" for text in before.uncovered)]


def _trace(table: Table, title: str = "Trace") -> Lines:
    head = ("step", "line", *table.columns, "what happened", "printed")
    lines = [f"## {title} table, case {table.case.number}: {plain(table.case.name)}", "",
             table_row([plain(h) for h in head]), table_row(["---"] * len(head))]  # fmt: skip
    for row in table.rows:
        if row.gap:
            blank = [""] * (len(head) - 2)
            lines.append(table_row(["…", f"{counted(row.gap, 'step')} left out", *blank]))
        cells = [str(row.step), str(row.line), *(code_cell(c) for c in row.cells)]
        lines.append(table_row([*cells, plain(row.happened), code_cell(row.output)]))
    left_out = f" {table.left_out}" if table.left_out else ""
    lines += ["", f"{counted(table.steps, 'step')}.{left_out}", ""]
    return [*lines, *_drawn(table.chart, f"chart of case {table.case.number}"), ""]


def _drawn(svg: str, words: str) -> Lines:
    if not svg:
        return []
    data = base64.b64encode(svg.encode()).decode()
    return [f"![{words}](data:image/svg+xml;base64,{data})"]


def _notebook(entries: Iterable[Entry]) -> Lines:
    lines: Lines = []
    for entry in entries:
        lines += [f"### {plain(entry.where) or 'A fault'}", ""]
        facts = [("what", plain(entry.what)), ("how", code_cell(entry.how)),
                 *((label, plain(text)) for label, text in entry.known)]  # fmt: skip
        lines += [f"- {label}: {text}" for label, text in facts if text]
        lines += (
            ["", *(f"> {plain(line)}" for line in entry.own.split("\n")), ""] if entry.own else [""]
        )
    return lines


def _numbered(text: str) -> str:
    rows = text.rstrip("\n").split("\n")
    return "\n".join(f"{n:>4}  {row}".rstrip() for n, row in enumerate(rows, 1))
