"""What has to be said besides: every caution of every device in use, once, at the first step at which it matters."""

from collections import defaultdict
from collections.abc import Iterable

from isotact.core.model.behaviour import Caution
from isotact.core.model.keys import Key
from isotact.core.model.plan import LinkEnd
from isotact.core.model.resolved import ResolvedRig
from isotact.core.model.words import JOB_STAGES
from isotact.core.trades import Node, Planned


def cautions_at(rig: ResolvedRig, devices: Iterable[str], ordered: list[Node]) -> dict[Key, list[str]]:
    """Step -> the cautions that are said there.

    A caution stands at the first step of its stage that takes the device in hand; where no step of that stage does, at
    the next one that does, so that nothing which a profile warns of is ever left unsaid.
    """
    hands = [(node, _touched(node)) for node in ordered if node.act.warns]
    said: dict[Key, list[str]] = defaultdict(list)
    for device in sorted(devices):
        at_it = [node for node, touched in hands if device in touched]
        for caution in rig[device].profile.cautions:
            node = _where(caution, at_it)
            if node is not None and caution.says not in said[node.key]:
                said[node.key].append(caution.says)
    return said


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


def _where(caution: Caution, steps: list[Node]) -> Node | None:
    fitting = (node for node in steps if caution.at in node.act.caution_stages(node.stage))
    found = next(fitting, None)
    if found is not None or not steps:
        return found
    place = JOB_STAGES.index(caution.at)
    later = (node for node in steps if JOB_STAGES.index(node.stage) > place)
    return next(later, steps[-1])
