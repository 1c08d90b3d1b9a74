"""The marks of a rig's gimbals as text."""

from collections.abc import Iterator

from isotact.core.questions.balance_answers import BalanceAnswer, GimbalMarks


def balance_report(answer: BalanceAnswer) -> list[str]:
    """A line a scale in the order in which they are set, then what is left to each motor, what to do, what to know."""
    if not answer.gimbals:
        return [answer.says]
    return [line for gimbal in answer.gimbals for line in _gimbal(gimbal)]


def _gimbal(gimbal: GimbalMarks) -> Iterator[str]:
    yield f"{gimbal.name}, {gimbal.payload_g / 1000:.2f} kg in its cage. {gimbal.says}"
    yield ""
    for number, mark in enumerate(gimbal.marks, start=1):
        travel = f"it goes from {mark.from_mm:g} to {mark.to_mm:g}"
        yield f"{number}. {mark.axis:4} {mark.says} Known to {mark.within_mm:.0f} mm; {travel}."
        if mark.beyond is not None:
            yield f"        {mark.beyond}"
    if (pole := gimbal.pole) is not None:
        known = "" if pole.beyond else f" Known to {pole.within_mm:.0f} mm."
        yield f"{pole.name}, front against back: {pole.says}{known}"
        yield from (f"        {line}" for line in (pole.beyond, *pole.cures, pole.assumed) if line)
    yield ""
    yield from (axis.says for axis in gimbal.axes)
    for title, lines in (
        ("What cures it, one of these:", [cure.says for cure in gimbal.cures]),
        ("Leads across axes:", [f"{lead.tag}: {says}" for lead in gimbal.leads for says in lead.says]),
        ("It feels like this now:", list(gimbal.feels)),
        ("Learned:", list(gimbal.learned)),
        ("Held otherwise:", [f"{one.name}: {one.says}" for one in gimbal.attitudes]),
        ("To know:", list(gimbal.remarks)),
    ):
        if lines:
            yield ""
            yield title
            yield from (f"  {line}" for line in lines)
