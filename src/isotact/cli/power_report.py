"""The feed tree as text."""

from collections.abc import Iterator

from isotact.core.questions.feed_answers import FeedTree, Flows, TreeBattery, TreeDevice


def power_report(tree: FeedTree) -> list[str]:
    """A line a device below what feeds it, then how long each battery lasts, then what to know."""
    lines = [tree.says, ""]
    for battery in tree.batteries:
        change = [f"  {battery.change.says}"] if battery.change is not None else []
        lines += [_battery(battery), *_below(tree, battery.device, 1), *change, ""]
    return [*lines, *(one.says for one in tree.remarks)]


def _battery(battery: TreeBattery) -> str:
    lasts = f"{battery.hours_h:.1f} h" if battery.hours_h is not None else "nothing draws on it"
    return f"{battery.name}, {battery.pack} {battery.chemistry}: {battery.watts:.1f} W, {lasts}"


def _below(tree: FeedTree, giver: str, depth: int) -> Iterator[str]:
    for device in tree.devices:
        if device.giver != giver:
            continue
        lead = next(one for one in tree.leads if one.join == device.join)
        yield f"{'  ' * depth}{lead.tag:4} {_device(device)}, {lead.words}: {100 * lead.share:.0f} % of its limit"
        yield from _below(tree, device.device, depth + 1)


def _device(device: TreeDevice) -> str:
    rule, end = device.at["rule"], device.at["end"]
    needs = f" of the {device.lowest_v:g} V that it needs" if device.lowest_v is not None else ""
    return f"{device.name}: {_flow(rule)} as a rule, {_flow(end)} at the end{needs}"


def _flow(flows: Flows | None) -> str:
    if flows is None:
        return "no power"
    return f"{flows.watts:.1f} W" + ("" if flows.volts is None else f" at {flows.volts:.2f} V")
