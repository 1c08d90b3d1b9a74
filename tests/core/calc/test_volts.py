"""A network of feeds: power balances, more load never raises a voltage, a worse lead never helps; two answers and none."""

from dataclasses import replace
from itertools import count

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from isotact.core.calc.volts import Cell, Flowing, Taking, Wire, flowing

ohms = st.floats(0.005, 0.3)


@st.composite
def networks(draw) -> tuple[list[Cell], list[Wire], dict[str, Taking]]:
    """A tree from one battery, with loads of all three sorts and an outlet that holds its volts here and there."""
    nodes, wires = ["n0"], []
    for number in range(1, draw(st.integers(2, 9))):
        giver, node = draw(st.sampled_from(nodes)), f"n{number}"
        held = {"held_v": 5.0, "efficiency": draw(st.floats(0.7, 1.0))} if draw(st.integers(0, 4)) == 0 else {}
        wires.append(Wire(f"w{number}", giver, node, draw(ohms), **held))
        nodes.append(node)
    loads = {
        node: Taking(draw(st.floats(0, 12)), draw(st.floats(0, 0.4)), draw(st.floats(0, 0.03)))
        for node in nodes
        if draw(st.booleans())
    }
    return [Cell("n0", draw(st.floats(11, 16)), draw(st.floats(0.02, 0.2)))], wires, loads


def into(found: Flowing, cells: list[Cell], wires: list[Wire], node: str) -> float:
    """Amps into a node less those that leave it by wires."""
    amps = found.drawn_a.get(node, 0.0) if any(cell.node == node for cell in cells) else 0.0
    for wire in wires:
        if wire.taker == node:
            amps += found.amps[wire.id]
        if wire.giver == node:
            before = found.amps[wire.id]
            held = wire.held_v is not None
            amps -= wire.held_v * before / wire.efficiency / found.volts[node] if held else before  # type: ignore[operator]
    return amps


@settings(max_examples=150, deadline=None)
@given(networks())
def test_what_comes_in_at_a_node_is_taken_there_or_goes_on(made):
    cells, wires, taken = made
    found = flowing(cells, wires, taken)
    if found is None:
        return
    for node, volts in found.volts.items():
        asked_a = taken[node].at(volts) if node in taken else 0.0
        assert into(found, cells, wires, node) == pytest.approx(asked_a, abs=1e-6)
    given_w = cells[0].open_v * found.drawn_a["n0"]
    used_w = sum(taken[node].at(volts) * volts for node, volts in found.volts.items() if node in taken)
    in_cell = cells[0].ohm * found.drawn_a["n0"] ** 2
    in_wires = sum(wire.ohm * found.amps[wire.id] ** 2 for wire in wires)
    in_outlets = sum(
        (1 / wire.efficiency - 1) * wire.held_v * found.amps[wire.id] for wire in wires if wire.held_v is not None
    )
    assert given_w == pytest.approx(used_w + in_cell + in_wires + in_outlets, rel=1e-6, abs=1e-6)


@settings(max_examples=150, deadline=None)
@given(networks(), st.data())
def test_more_load_never_raises_a_voltage(made, data):
    cells, wires, taken = made
    node = data.draw(st.sampled_from([cell.node for cell in cells] + [wire.taker for wire in wires]))
    more = dict(taken) | {node: taken.get(node, Taking()).plus(Taking(watts=data.draw(st.floats(0.1, 10))))}
    before, after = flowing(cells, wires, taken), flowing(cells, wires, more)
    if after is None:
        return
    assert before is not None, "what feeds more feeds less as well"
    assert all(after.volts[one] <= before.volts[one] + 1e-7 for one in before.volts)


@settings(max_examples=150, deadline=None)
@given(networks(), st.data())
def test_a_longer_or_thinner_lead_never_helps(made, data):
    cells, wires, taken = made
    if any(load.siemens for load in taken.values()):
        taken = {node: replace(load, siemens=0.0) for node, load in taken.items()}  # a heater takes less at fewer volts
    number = data.draw(st.integers(0, len(wires) - 1))
    worse = [replace(wire, ohm=2 * wire.ohm) if one == number else wire for one, wire in enumerate(wires)]
    before, after = flowing(cells, wires, taken), flowing(cells, worse, taken)
    if after is None:
        return
    assert before is not None
    assert all(after.volts[one] <= before.volts[one] + 1e-7 for one in before.volts)
    assert after.drawn_a["n0"] >= before.drawn_a["n0"] - 1e-7


def test_of_two_answers_it_is_the_one_of_the_higher_volts():
    # 12 V, 0.5 ohm, 40 W: V^2 - 12 V + 20 = 0 has the roots 10 and 2.
    found = flowing([Cell("pack", 12, 1e-9)], [Wire("w", "pack", "load", 0.5)], {"load": Taking(40)})
    assert found is not None
    assert found.volts["load"] == pytest.approx(10)


def test_at_the_brink_both_answers_are_one_and_beyond_it_there_is_none():
    # V^2 / 4 R = 72 W is the most that 12 V give through 0.5 ohm, at half the volts.
    brink = [Cell("pack", 12, 1e-9)], [Wire("w", "pack", "load", 0.5)]
    found = flowing(*brink, {"load": Taking(71.999)})
    assert found is not None
    assert found.volts["load"] == pytest.approx(6, abs=0.05)
    assert flowing(*brink, {"load": Taking(72.01)}) is None


def test_a_device_at_the_end_of_a_chain_takes_all_before_it_along():
    chain = [Wire("a", "pack", "driver", 0.4), Wire("b", "driver", "motor", 0.4)]
    cells = [Cell("pack", 12, 0.1)]
    assert flowing(cells, chain, {"driver": Taking(3), "motor": Taking(20)}) is not None
    assert flowing(cells, chain, {"driver": Taking(3), "motor": Taking(45)}) is None


def test_current_never_goes_back_into_the_weaker_of_two_packs():
    wires = [Wire("l", "full", "load", 0.1), Wire("r", "low", "load", 0.1)]
    found = flowing([Cell("full", 16, 0.1), Cell("low", 13, 0.1)], wires, {"load": Taking(30)})
    assert found is not None
    assert found.amps["r"] == found.drawn_a["low"] == 0
    assert found.volts["low"] == 13


def test_what_nothing_feeds_may_take_nothing():
    wires = [Wire("w", "hub", "lamp", 0.1)]
    assert flowing([], wires, {"lamp": Taking(1)}) is None
    found = flowing([], wires, {})
    assert found is not None
    assert set(found.volts.values()) == {0.0}


def test_what_cannot_be_is_refused():
    pack = [Cell("pack", 12)]
    ring = [Wire("a", "x", "y", held_v=5), Wire("b", "y", "x", held_v=5)]
    with pytest.raises(ValueError, match="in a ring"):
        flowing([], ring, {})
    twice = [Wire("a", "pack", "x", held_v=5), Wire("b", "pack", "x")]
    with pytest.raises(ValueError, match="something else besides"):
        flowing(pack, twice, {})


def test_five_hundred_loads_on_one_tree():
    number = count(1)
    wires = [Wire(f"w{one}", f"n{one // 3}", f"n{one}", 0.002) for one in range(1, 500)]
    found = flowing([Cell("n0", 14.8, 0.001)], wires, {f"n{next(number)}": Taking(1) for _ in range(499)})
    assert found is not None
    assert min(found.volts.values()) > 14
