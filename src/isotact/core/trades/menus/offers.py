"""What a hand can do in the menus of a device: another mode, other values, an answer to what it asks."""

from collections.abc import Iterator

from isotact.core.model.keys import Item
from isotact.core.trades.base import HandAct
from isotact.core.trades.menus.acts import Answer, Set, SetMode
from isotact.core.world import Menus, World


def offers(world: World, device: str) -> Iterator[HandAct]:
    """Every mode and value at which it does not stand, and every answer to a question that it asks now."""
    profile, menus = world.rig[device].profile, world[Menus]
    for mode in profile.modes.values if profile.modes else ():
        if menus.mode.get(device) != mode.id:
            yield SetMode(device=device, mode=mode.id)
    for setting in profile.settings:
        for value in setting.values:
            if menus.stored.get(Item(device, setting.id)) != value.id:
                yield Set(device=device, setting=setting.id, value=value.id)
    for prompt in profile.wake.prompts if profile.wake else ():
        if Item(device, prompt.id) in menus.asking:
            for answer in prompt.answers:
                yield Answer(device=device, prompt=prompt.id, answer=answer.id)
