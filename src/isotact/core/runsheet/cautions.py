"""What has to be said besides: every caution of every device in use, once, at the first step at which it matters."""

from collections import defaultdict

from isotact.core.model.behaviour import Caution
from isotact.core.model.keys import Key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.words import JOB_STAGES
from isotact.core.trades import Node, Planned


def cautions_at(planned: Planned, ordered: list[Node]) -> dict[Key, list[str]]:
    """Step -> the cautions that are said there.

    A caution stands at the first step of its stage that takes the device in hand, of one about a port at the one that
    plugs it; where no step of that stage does, at the next one that does, so that nothing which a profile warns of is
    left unsaid. What is about a mode that is not used, or a port that stays free, is not said; of like sentences one is
    enough.
    """
    hands = [(node, _touched(node)) for node in ordered if node.act.warns]
    places = {node.key: number for number, node in enumerate(ordered)}
    first: dict[str, Key] = {}
    for device in sorted(planned.in_use):
        at_it = [node for node, touched in hands if device in touched]
        for caution in planned.rig[device].profile.cautions:
            if caution.mode is not None and planned.now.get((device, "mode", "")) != caution.mode:
                continue
            plugging = [node for node in at_it if caution.over is not None and _plugs(node, device, caution.over)]
            running = [node for node, _ in hands if caution.at == "lens" and _fits(caution, node)]
            node = _where(caution, at_it if caution.over is None else plugging, running)
            if node is not None:
                known = first.get(caution.says, node.key)
                first[caution.says] = min(known, node.key, key=lambda key: places[key])
    said: dict[Key, list[str]] = defaultdict(list)
    for says, key in first.items():
        said[key].append(says)
    return said


def _plugs(node: Node, device: str, port: str) -> bool:
    ends = (getattr(node.act, "a", None), getattr(node.act, "b", None))
    return LinkEnd(device=device, endpoint=port) in ends


def left_free(planned: Planned, ordered: list[Node]) -> dict[Key, list[str]]:
    """Step -> what is said of ports that stay free, where the device is first joined with anything.

    A socket that only charges or only feeds a part is known by its note; who holds a plug in hand should read it.
    """
    used = {end for join in planned.joins for end in join.link.ends}
    said: dict[Key, list[str]] = defaultdict(list)
    for device in planned.in_use:
        for port in planned.rig[device].profile.ports:
            if port.note is None or LinkEnd(device=device, endpoint=port.id) in used:
                continue
            named = f"{planned.rig[device].name}: not “{port.marking}”"
            if any(words.startswith(named) for node in ordered for words in node.draft.avoid):
                continue  # said already, beside the port that it looks like
            touching = [node for node in ordered if device in _touched(node)]
            joining = (node for node in touching if node.draft.tag is not None and len(node.act.touches()) > 1)
            node = next(joining, touching[0] if touching else None)
            if node is not None:
                said[node.key].append(f"Leave “{port.marking}” of {planned.rig[device].name} free: {port.note}")
    return said


def _touched(node: Node) -> set[str]:
    return {*node.act.touches(), *((node.draft.device,) if node.draft.device else ())}


def _fits(caution: Caution, node: Node) -> bool:
    return caution.at in node.act.caution_stages(node.stage)


def _where(caution: Caution, steps: list[Node], elsewhere: list[Node]) -> Node | None:
    """`elsewhere`: steps at other devices, where a body warns of the motors that it drives."""
    found = next((node for node in (*steps, *elsewhere) if _fits(caution, node)), None)
    if found is not None or not steps:
        return found
    place = JOB_STAGES.index(caution.at)
    later = (node for node in steps if JOB_STAGES.index(node.stage) > place)
    return next(later, steps[-1])
