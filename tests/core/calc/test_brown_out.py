"""Who browns out when motors are held at the end of a charge: the rule, and that it is never kinder than the circuit."""

from hypothesis import given, settings
from hypothesis import strategies as st

from isotact.core.calc.brown_out import browned_out
from isotact.core.calc.loads import Lead, Line, Load, Source
from isotact.core.calc.power import supply
from isotact.core.calc.volts import Cell, Taking, Wire, flowing


def lead(giver: str, taker: str, ohm: float, lowest_v: float = 11.0, **more) -> Lead:
    line = Line(ohm, lowest_v, more.pop("highest_v", 16.8), **more)
    return Lead(f"{giver}-{taker}", giver, taker, 500, line=line)


PACK = Source("pack", open_v=14.0, ohm=0.1, floor_v=12.0)


def test_on_one_lead_it_is_exact_at_the_brink():
    # 14 V less 0.1 ohm within and 0.4 in the lead: 11 V are left at 6 A, which are 66 W at 11 V.
    for watts, goes in ((65.9, True), (66.1, False)):
        loads = [Load("pack", 0.0), Load("body", watts)]
        assert supply(loads, [PACK], [lead("pack", "body", 0.4)]).has_power("body") is goes


def test_a_held_motor_counts_and_only_one_of_them():
    leads = [lead("pack", "driver", 0.8), lead("driver", "one", 0.0), lead("driver", "two", 0.0)]
    for stall_w, goes in ((12.0, True), (30.0, False)):
        motors = [Load(one, 5.0, 9.0, stall_w, is_motor=True, rated_v=12.0) for one in ("one", "two")]
        found = supply([Load("pack", 0.0), Load("driver", 2.0), *motors], [PACK], leads)
        assert found.has_power("one") is goes


def test_what_browns_out_falls_back_on_its_own_battery():
    loads = [Load("pack", 0.0), Load("body", 40.0)]
    thin, own = lead("pack", "body", 2.0), Source("body")
    assert supply(loads, [PACK, own], [thin]).root("body") == "body"
    assert not supply(loads, [PACK], [thin]).has_power("body")


def test_an_outlet_that_holds_its_volts_wants_enough_before_it():
    usb = lead("grip", "body", 0.1, 4.75, highest_v=5.0, held_v=5.0, efficiency=0.9, needs_v=6.5)
    loads = [Load("grip", 4.0), Load("body", 8.0)]
    assert supply(loads, [Source("grip", 7.0, 0.05, 6.0)], [usb]).has_power("body")
    assert not supply(loads, [Source("grip", 7.0, 0.5, 6.0)], [usb]).has_power("body")


def test_of_whose_volts_nothing_is_known_nothing_is_said():
    assert supply([Load("x", 0.0), Load("body", 60.0)], [Source("x")], [lead("x", "body", 2.0)]).has_power("body")
    bare = Lead("pack-body", "pack", "body", 500)
    assert supply([Load("pack", 0.0), Load("body", 60.0)], [PACK], [bare]).has_power("body")


@st.composite
def rigs(draw) -> tuple[list[Load], Source, dict[str, Lead | None]]:
    names = ["pack"]
    loads = [Load("pack", draw(st.floats(0, 8)))]
    fed: dict[str, Lead | None] = {"pack": None}
    held_below: set[str] = set()
    for number in range(1, draw(st.integers(2, 8))):
        name, giver = f"d{number}", draw(st.sampled_from(names))
        watts = draw(st.floats(0, 14))
        draws, held_draws = (draw(st.sampled_from(["power", "current", "resistance"])) for _ in range(2))
        stall_w = draw(st.sampled_from([0.0, 8.0]))
        if giver in held_below or draw(st.integers(0, 4)) == 0:
            # Behind an outlet that holds five volts everything is made for five.
            held = {} if giver in held_below else {"held_v": 5.0, "efficiency": 0.85}
            made = lead(giver, name, draw(st.floats(0.01, 0.2)), 4.5, highest_v=5.0, **held)
            rated_v = 5.0
            held_below.add(name)
        else:
            made = lead(giver, name, draw(st.floats(0.01, 0.5)), draw(st.sampled_from([9.0, 10.0, 11.0])))
            rated_v = draw(st.sampled_from([12.0, 14.4]))
        fed[name] = made
        loads.append(Load(name, watts, 1.3 * watts, stall_w, draws=draws, held_draws=held_draws, rated_v=rated_v))
        names.append(name)
    return loads, Source("pack", draw(st.floats(12.5, 15)), draw(st.floats(0.02, 0.3)), 10.0), fed


def taking(watts: float, draws: str, rated_v: float) -> Taking:
    sorts = {
        "power": Taking(watts=watts),
        "current": Taking(amps=watts / rated_v),
        "resistance": Taking(siemens=watts / rated_v**2),
    }
    return sorts[draws]


@settings(max_examples=300, deadline=None)
@given(rigs())
def test_what_passes_the_rule_passes_in_the_circuit_whichever_motor_is_held(made):
    loads, source, fed = made
    by_name = {load.device: load for load in loads}
    if source.open_v < 10.5 or browned_out(by_name, {"pack": source}, fed):
        return
    wires = [
        Wire(one.id, one.giver, one.taker, one.line.ohm, held_v=one.line.held_v, efficiency=one.line.efficiency)
        for one in fed.values()
        if one is not None and one.line is not None
    ]
    for held in [load.device for load in loads]:
        taken = {}
        for load in loads:
            rated_v = load.rated_v or 14.4
            taken[load.device] = taking(load.moment_w, load.draws, rated_v)
            if load.device == held and load.draw_w:
                taken[held] = taken[held].plus(taking(load.stall_w, load.held_draws, rated_v))
        found = flowing([Cell("pack", source.open_v, source.ohm)], wires, taken)
        assert found is not None
        if found.volts["pack"] < source.floor_v:
            continue  # the battery gives less than it says: its own profile is wrong
        for name, one in fed.items():
            if one is not None and one.line is not None:
                assert found.volts[name] >= one.line.lowest_v - 1e-6
