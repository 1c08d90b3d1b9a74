"""Plans and proofs as text for the command line."""

from collections.abc import Iterator
from itertools import groupby

from isotact.core.bench import Run
from isotact.core.faults import Covered
from isotact.core.model import Plan, ResolvedRig
from isotact.core.runsheet import RunSheet
from isotact.core.telling import draw

_STATUS = {
    "proven-optimal": "proven optimal",
    "best-so-far": "best so far, not proven optimal",
    "out-of-time": "out of time",
}


def plan_report(rig: ResolvedRig, plan: Plan) -> str:
    """The plan for a person: promises, joins, feeds, settings, wake order, and reasons."""
    return "\n".join(_plan_lines(rig, plan))


def _plan_lines(rig: ResolvedRig, plan: Plan) -> Iterator[str]:
    drawing = draw(rig, plan)
    maybe = {one.promise: one for one in plan.maybe}
    besides = f", {len(maybe)} maybe" if maybe else ""
    held = f"{len(plan.kept)} of {len(rig.rig.promises)} promises hold{besides}"
    yield f"{rig.rig.name}: {held} ({_STATUS[plan.status]})."
    yield ""
    for promise in rig.rig.promises:
        mark = "yes" if promise.id in plan.kept else "?? " if promise.id in maybe else "NO "
        yield f"  {mark}  {drawing.promises[promise.id]} (for {promise.who})"
        if promise.id in maybe:
            yield f"       {maybe[promise.id].says}, by the recipe “{maybe[promise.id].name}”"
            yield from (f"       {words}" for words in maybe[promise.id].differs)
    for unmet in plan.unmet:
        yield ""
        if unmet.same_as is not None:
            words, other = drawing.promises[unmet.promise], drawing.promises[unmet.same_as]
            yield f"  {words[0].upper()}{words[1:]}: no, for the same cause as {other}."
            continue
        yield f"  {unmet.because}"
        yield from (f"    Way out: {way}" for way in unmet.ways_out)
    if plan.pins:
        yield ""
        yield "Pins"
        yield from (f"  {'obeyed' if pin.obeyed else 'NOT   '}  {pin.says}" for pin in plan.pins)
    yield ""
    yield "Joins"
    for row in drawing.schedule:
        yield f"  {row.tag:4} {row.item}"
        yield f"       {row.from_words}"
        yield f"       {row.to_words}"
        yield from (f"       {words}" for words in row.crosses)
        yield from (f"       Look-alike! {words}" for words in row.avoid)
    yield ""
    yield "Feeds"
    for feed in plan.feeds:
        if feed.source != "none-needed":
            source = "its own battery" if feed.from_device is None else rig[feed.from_device].name
            hours = f", {feed.hours_h:.1f} h" if feed.hours_h is not None else ""
            yield f"  {rig[feed.device].name}: from {source}, {feed.load_w:.1f} W{hours}"
    changes = [choice for choice in plan.choices if choice.is_change]
    if changes:
        yield ""
        yield "Set"
    for choice in changes:
        yield f"  {rig[choice.device].name}: {rig[choice.device].knob_words(choice.kind, choice.key, choice.value)}"
    if plan.wake_order:
        yield ""
        yield "Wake order"
        yield from (f"  {rig[pair.first].name} before {rig[pair.second].name}" for pair in plan.wake_order)
    yield from (f"\nWarning: {warning}" for warning in plan.warnings)


def proof_report(rig: ResolvedRig, plan: Plan, sheet: RunSheet, run: Run) -> str:
    """The run sheet as carried out, and what was proven."""
    lines = [f"{rig.rig.name}: carried out on the bench, {run.took_s / 60:.0f} min on its clock.", ""]
    for number, (step, frame) in enumerate(zip(sheet.steps, run.frames, strict=True), start=1):
        care = " (care)" if step.care else ""
        lines.append(f"  {number:2}. {step.title}{care}")
        lines.append(f"      {frame.seen}")
    lines.append("")
    words = draw(rig, plan).promises
    for proof in run.proofs:
        reading = f" [{proof.reading}]" if proof.reading else ""
        lines.append(f"  {'PROVEN' if proof.ok else 'FAILED'}  {words[proof.promise]}: {proof.seen}{reading}")
    lines += [f"  NOT KEPT  {unmet.because}" for unmet in plan.unmet]
    return "\n".join(lines)


def sheet_report(rig: ResolvedRig, sheet: RunSheet, whole: RunSheet | None = None) -> list[str]:
    """A run sheet, stage by stage; `whole` is the full build that it stands beside."""
    length = f"{len(sheet.steps)} steps, about {max(1, round(sheet.takes_s / 60))} min"
    beside = f"; a full build takes {len(whole.steps)} steps, {round(whole.takes_s / 60)} min" if whole else ""
    lines = [f"{rig.rig.name}: {length}{beside}."]
    number = 0
    for stage, steps in groupby(sheet.steps, key=lambda step: step.stage):
        lines += ["", stage.replace("-", " ").capitalize()]
        for step in steps:
            number += 1
            lines.append(f"  {number:2}. {step.title}{' (care)' if step.care else ''}")
            lines += [f"      {words}" for words in step.detail]
            lines += [f"      Look-alike! {words}" for words in step.avoid]
            lines += [f"      CAUTION: {words}" for words in step.cautions]
            lines.append(f"      Done when: {step.expect}")
    return lines + [f"Warning: {words}" for words in sheet.warnings]


def coverage_report(rows: list[Covered]) -> str:
    """What each single fault does, rig by rig, and at the end of each rig how many are told apart."""
    lines: list[str] = []
    for rig_id, those in groupby(rows, key=lambda row: row.rig):
        of_rig = list(those)
        lines.append(f"{rig_id}: {len(of_rig)} faults of {len({row.condition for row in of_rig})} conditions")
        lines += [line for row in of_rig for line in _covered_lines(row)]
        told = sum(not row.alike for row in of_rig)
        lines += [f"  {told} of {len(of_rig)} are told apart by what can be looked at.", ""]
    failing = sum(row.still_holds or bool(row.standing) for row in rows)
    lines.append(f"{len(rows)} faults; {failing} leave their condition true, or a promise standing that needs it.")
    return "\n".join(lines)


def _covered_lines(row: Covered) -> Iterator[str]:
    yield f"  {row.condition}/{row.fault}: {row.says}"
    if row.still_holds:
        yield "      STILL HOLDS"
    if row.standing:
        yield f"      STANDS ALL THE SAME: {', '.join(row.standing)}"
    yield f"      falls: {', '.join(row.fallen) or 'nothing'}"
    yield f"      seen by: {', '.join(row.seen_by) or 'nothing'}"
    if row.alike:
        yield f"      looks like: {', '.join(row.alike)}"
