"""Steps that are good manners: nothing rests on them at once."""

from isotact.core.model.keys import Key
from isotact.core.model.words import JobStage
from isotact.core.trades.base import Draft
from isotact.core.trades.care.acts import TakeCare


def of_school(what: str, stage: JobStage, names: list[str], says: str, expect: str) -> Draft:
    """How something is done in the school that the job has chosen, for the devices named."""
    return Draft(
        key=Key.of("care", what),
        stage=stage,
        title=f"{what.capitalize()}: {', '.join(names)}",
        detail=(says,),
        expect=expect,
        # A word between two people, so that both build the same way.
        takes_s=20,
        act=TakeCare(),
        care=True,
    )
