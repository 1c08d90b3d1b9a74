"""Volts in leads and batteries against a circuit simulator, published tables and published cells.

Sources: ngspice 39 (Debian), with behavioural current sources for loads of constant power. Resistance of copper by
American wire gauge: ASTM B258 as printed in wire tables, ohms per 1000 ft at 20 °C (from memory), and the diameters of
`references`: AWG 20 33.309 mohm/m, AWG 18 20.948, AWG 24 84.215. Cells at rest: Chen and others, J. Electrochem. Soc.
167 (2020) 080534, equations 8 and 9 with the stoichiometries of table VII; Afshar and others, arXiv:1709.03970.
"""

import re
import subprocess
from collections.abc import Sequence
from math import exp, tanh

import pytest

from isotact.core.calc.batteries import CHEMISTRIES, Battery, discharged
from isotact.core.calc.copper import lead_ohm, ohm_per_m
from isotact.core.calc.volts import Cell, Taking, Wire, flowing

THOUSANDTH = 1e-3


def simulated(cells: Sequence[Cell], wires: Sequence[Wire], taken: dict[str, Taking]) -> dict[str, float]:
    """The volts that ngspice finds. An outlet that holds its volts is a source, and takes its watts before it."""
    lines = ["feeds"]
    for cell in cells:
        lines += [f"Vc{cell.node} i{cell.node} 0 {cell.open_v}", f"Rc{cell.node} i{cell.node} {cell.node} {cell.ohm}"]
    for number, wire in enumerate(wires):
        if wire.held_v is None:
            start = wire.giver
            if wire.drop_v:
                lines.append(f"Vd{number} {wire.giver} d{number} {wire.drop_v}")
                start = f"d{number}"
        else:
            start = f"h{number}"
            lines.append(f"Vh{number} {start} 0 {wire.held_v}")
            watts = f"-i(Vh{number})*{wire.held_v}/{wire.efficiency}"
            lines.append(
                f"Bh{number} {wire.giver} 0 I={{{watts}}}/max(v({wire.giver}),0.1)".replace("{", "(").replace("}", ")")
            )
        lines.append(f"Rw{number} {start} {wire.taker} {wire.ohm}")
    for node, load in taken.items():
        lines.append(f"Bl{node} {node} 0 I=({load.watts})/max(v({node}),0.1)+({load.amps})+({load.siemens})*v({node})")
    nodes = sorted({cell.node for cell in cells} | {wire.taker for wire in wires})
    lines += [f".nodeset v({node})={max(cell.open_v for cell in cells)}" for node in nodes]
    lines += [".control", "op", *(f"print v({node})" for node in nodes), ".endc", ".end"]
    done = subprocess.run(["ngspice", "-b"], input="\n".join(lines), capture_output=True, text=True, check=False)
    found = re.findall(r"^v\((\w+)\) = ([-+.\de]+)", done.stdout, re.M)
    assert len(found) == len(nodes), done.stdout + done.stderr
    return {node: float(volts) for node, volts in found}


ONE_LOAD = ([Cell("pack", 14.8, 1e-6)], [Wire("w", "pack", "load", 4 * 0.033309)], {"load": Taking(45)})
"""The worked example: 14.8 V, AWG 20, 2 m there and back, 45 W: 14.38315 V."""
A_CHAIN_OF_MOTORS = (
    [Cell("pack", 13.9, 0.11)],
    [
        Wire("tap", "pack", "driver", 0.42),
        Wire("plate", "pack", "body", 0.01),
        *(Wire(f"m{n}", "driver" if n == 1 else f"motor{n - 1}", f"motor{n}", 0.054) for n in (1, 2, 3)),
    ],
    {
        "driver": Taking(2.6),
        "body": Taking(64),
        "motor1": Taking(11),
        "motor2": Taking(6),
        "motor3": Taking(6, amps=0.8),
    },
)
WITH_AN_OUTLET_THAT_HOLDS = (
    [Cell("grip", 11.1, 0.2)],
    [
        Wire("usb", "grip", "body", 0.07, held_v=5.0, efficiency=0.88),
        Wire("jack", "grip", "hub", 0.1),
        Wire("lamp", "hub", "heater", 0.15),
        Wire("rail", "hub", "camera", 0.05, held_v=7.4, efficiency=0.92),
    ],
    {
        "grip": Taking(4.5),
        "body": Taking(5.4),
        "hub": Taking(0.3),
        "heater": Taking(siemens=0.08),
        "camera": Taking(12),
    },
)
TREES = {
    "one load": ONE_LOAD,
    "a chain of motors": A_CHAIN_OF_MOTORS,
    "an outlet that holds": WITH_AN_OUTLET_THAT_HOLDS,
}


@pytest.mark.parametrize("name", TREES)
def test_a_tree_is_as_a_circuit_simulator_has_it(name: str):
    cells, wires, taken = TREES[name]
    found = flowing(cells, wires, taken)
    assert found is not None
    for node, volts in simulated(cells, wires, taken).items():
        assert found.volts[node] == pytest.approx(volts, rel=THOUSANDTH), node


def test_two_packs_behind_diodes_share_as_the_simulator_has_it():
    cells = [Cell("left", 14.8, 0.1), Cell("right", 14.7, 0.1)]
    wires = [Wire("l", "left", "load", 0.1, drop_v=0.3), Wire("r", "right", "load", 0.1, drop_v=0.3)]
    found = flowing(cells, wires, {"load": Taking(45)})
    assert found is not None
    assert all(amps > 0 for amps in found.amps.values())
    for node, volts in simulated(cells, wires, {"load": Taking(45)}).items():
        assert found.volts[node] == pytest.approx(volts, rel=THOUSANDTH)


def test_the_worked_example_of_two_metres():
    found = flowing(*ONE_LOAD)
    assert found is not None
    assert found.volts["load"] == pytest.approx(14.38315, abs=2e-5)
    assert found.amps["w"] == pytest.approx(3.12866, abs=2e-5)


@pytest.mark.parametrize(
    ("awg", "ohm_per_1000_ft"),
    [
        (10, 0.9989),
        (12, 1.588),
        (14, 2.525),
        (16, 4.016),
        (18, 6.385),
        (20, 10.15),
        (22, 16.14),
        (24, 25.67),
        (26, 40.81),
    ],
)
def test_copper_by_gauge_is_as_the_wire_table_has_it(awg: int, ohm_per_1000_ft: float):
    assert ohm_per_m(awg) * 304.8 == pytest.approx(ohm_per_1000_ft, rel=1e-3)


@pytest.mark.parametrize(("awg", "milliohm_per_m"), [(18, 20.948), (20, 33.309), (24, 84.215)])
def test_copper_by_the_metre(awg: int, milliohm_per_m: float):
    assert 1000 * ohm_per_m(awg) == pytest.approx(milliohm_per_m, rel=1e-3)


def test_a_lead_counts_there_and_back_and_its_contacts():
    assert lead_ohm(20, 2000, 0.02) == pytest.approx(4 * 0.033309 + 0.02, rel=1e-3)
    # IEC 60028: 0.393 per cent for each kelvin.
    assert lead_ohm(20, 1000, celsius=-20) / lead_ohm(20, 1000) == pytest.approx(1 - 40 * 0.00393)


def graphite(x: float) -> float:
    """Chen and others 2020, equation 9: volts of the negative electrode."""
    return (
        1.9793 * exp(-39.3631 * x)
        + 0.2482
        - 0.0909 * tanh(29.8538 * (x - 0.1234))
        - 0.04478 * tanh(14.9159 * (x - 0.2769))
        - 0.0205 * tanh(30.4444 * (x - 0.6103))
    )


def nickel(y: float) -> float:
    """Chen and others 2020, equation 8: volts of the positive electrode."""
    return (
        -0.8090 * y
        + 4.4875
        - 0.0428 * tanh(18.5138 * (y - 0.5542))
        - 17.7326 * tanh(15.7890 * (y - 0.3117))
        + 17.5842 * tanh(15.9308 * (y - 0.3120))
    )


def iron(y: float) -> float:
    """Afshar and others 2017: volts of the positive electrode."""
    return 3.4077 - 0.020269 * y + 0.5 * exp(-150 * y) - 0.9 * exp(-30 * (1 - y))


def test_a_lithium_cell_at_rest_is_the_published_one():
    for left, volts in CHEMISTRIES["li-ion"].rest_v:
        published = nickel(0.9077 + left * (0.2661 - 0.9077)) - graphite(0.0279 + left * (0.9014 - 0.0279))
        assert volts == pytest.approx(published, abs=0.01), left


def test_an_iron_cell_at_rest_is_the_published_one_but_for_its_last_drops():
    for left, volts in CHEMISTRIES["li-iron"].rest_v[1:]:
        published = iron(0.995 + left * (0.02 - 0.995)) - graphite(0.0279 + left * (0.9014 - 0.0279))
        assert volts == pytest.approx(published, abs=0.01), left


def test_a_pack_of_four_cells_runs_its_watt_hours_over_its_watts():
    """14.8 V x 6.6 Ah = 97.68 Wh (49 CFR 175.10): at 24.42 W from the cells four hours, whatever its volts do."""
    pack = Battery(CHEMISTRIES["li-ion"], 4, 97.68, ohm=0.0)
    curve = discharged(pack, lambda left: (pack.rest_v(left), 24.42))
    assert curve[-1].hours_h == pytest.approx(4.0)
    assert pack.energy_wh / (4 * pack.chemistry.mean_v) == pytest.approx(6.6, rel=0.01)
