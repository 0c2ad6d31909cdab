"""``oddsum check --format xml``: the test report that build servers read.

A suite with a ``testcase`` a case: a ``failure`` where it differs, an ``error`` where it stopped or
does not end, ``skipped`` where nothing is expected yet.
"""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET

from oddsum.model.case import Plan
from oddsum.model.outcome import CaseResult, Outcome, tally

# What XML 1.0 cannot hold, not even escaped (section 2.2 of the recommendation).
_NEVER = re.compile("[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")
_PARTS = {Outcome.DIFFERS: "failure", Outcome.STOPPED: "error", Outcome.ENDLESS: "error",
          Outcome.OPEN: "skipped"}  # fmt: skip


def write(plan: Plan, results: tuple[CaseResult, ...], seconds: float) -> str:
    """The whole report."""
    counts = tally(results)
    name = plan.file.name if plan.file else plan.program.name
    totals = {
        "tests": str(len(results)),
        "failures": str(counts[Outcome.DIFFERS]),
        "errors": str(counts[Outcome.STOPPED] + counts[Outcome.ENDLESS]),
        "skipped": str(counts[Outcome.OPEN]),
        "time": f"{seconds:.3f}",
    }
    root = ET.Element("testsuites", totals)
    suite = ET.SubElement(root, "testsuite", {"name": _fit(name), **totals})
    for result in results:
        suite.append(_case(plan, result))
    ET.indent(root)
    return '<?xml version="1.0" encoding="UTF-8"?>\n' + ET.tostring(root, "unicode") + "\n"


def _case(plan: Plan, result: CaseResult) -> ET.Element:
    fields = {
        "name": _fit(result.name),
        "classname": f"{plan.program.stem}.{result.kind}",
        "time": f"{result.run.seconds:.3f}",
    }
    case = ET.Element("testcase", fields)
    part = _PARTS.get(result.outcome)
    if part is not None:
        case.append(_said(part, result))
    if result.run.errors:
        ET.SubElement(case, "system-err").text = _fit(result.run.errors)
    return case


def _said(part: str, result: CaseResult) -> ET.Element:
    summary = result.difference.summary if result.difference else ""
    if part == "skipped":
        return ET.Element(part, {"message": "nothing is expected yet"})
    said = ET.Element(part, {"message": _fit(summary), "type": result.outcome.value})
    said.text = _fit(f"expected:\n{result.expected or ''}\nactual:\n{result.actual}\n")
    return said


def _fit(text: str) -> str:
    """Text without what XML has no way to write."""
    return _NEVER.sub("\ufffd", text)
