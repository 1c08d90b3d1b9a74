"""Rotas: what a technician would write down for plain days, and what must be so of every day that is drawn."""

from dataclasses import replace
from itertools import pairwise

import pytest

from isotact.core.day.rota import ChargerIs, PackIs, Rules, carried_out, rota_of
from tests.core.day.rota.days import day_of, drawn_day, seat

DRAWN = range(24)


def charger(gain: int, slots: int = 1) -> ChargerIs:
    return ChargerIs("charger", slots, {"x": gain}, 60)


def test_a_pack_that_lasts_stays_in():
    found = rota_of(day_of((seat((2, 2, 2, 2)),), full=8))
    assert (found.cost.ordered, len(found.stints), found.proven) == ((0, 0, 0, 0), 1, True)


def test_without_another_pack_it_is_dark_from_when_it_is_empty():
    found = rota_of(day_of((seat((2, 2, 2, 2)),), full=6))
    assert [(one.seat, one.begins, one.ends) for one in found.dark] == [("a", 3, 4)]
    assert found.proven


def test_it_is_changed_between_takes_though_later_would_do():
    # The pack would last to 3; taking goes on then, and not at 2.
    found = rota_of(day_of((seat((2, 2, 2, 2), spoils=(0, 1, 0, 1, 0)),), full=6, spares=1))
    assert found.cost.ordered[:3] == (0, 0, 1)
    assert [one.begins for one in found.stints if one.pack == "spare 0"] == [2]


def test_a_take_is_spoilt_sooner_than_that_it_goes_dark():
    found = rota_of(day_of((seat((2, 2, 2, 2), spoils=(0, 1, 1, 1, 0)),), full=6, spares=1))
    assert found.cost.ordered[:3] == (0, 1, 1)


def test_one_spare_and_a_charger_do_for_a_day_of_four_charges():
    day = day_of((seat((5,) * 8),), full=10, spares=1, charger=charger(5))
    found = rota_of(day)
    assert found.cost.ordered[:3] == (0, 0, 3)
    assert not carried_out(day, found).dark
    assert rota_of(replace(day, chargers=())).cost.dark > 0


def test_no_mains_no_charge():
    day = day_of((seat((5,) * 8),), full=10, spares=1, charger=charger(5), watts=(0,) * 8)
    assert min(one.begins for one in rota_of(day).dark) == 4


def test_mains_that_give_too_few_watts_for_a_charger_are_none():
    day = day_of((seat((5,) * 8),), full=10, spares=1, charger=charger(5), watts=(50,) * 8)
    assert min(one.begins for one in rota_of(day).dark) == 4


def test_what_is_built_in_is_charged_while_it_is_off_and_never_changed():
    load = (5, 5, 0, 0, 5, 5)
    day = day_of((seat(load, fixed=True),), full=10, spares=1, charger=charger(5))
    found = rota_of(day)
    assert found.cost.ordered[:3] == (0, 0, 0)
    assert [(one.begins, one.ends) for one in found.charges] == [(2, 4)]


def test_no_pack_goes_to_another_rig_where_the_crew_says_so():
    a, b = seat((5, 5, 0, 0), "a"), seat((0, 0, 5, 5), "b")
    day = day_of((a, b), full=10)
    day = replace(day, packs=(PackIs("own a", "x", 20, 20), PackIs("own b", "x", 10, 5)))
    assert not rota_of(day).dark
    alone = rota_of(replace(day, rules=Rules(packs_move=False)))
    assert [(one.seat, one.begins) for one in alone.dark] == [("b", 3)]


def test_a_pack_leaves_the_charger_half_full_only_where_the_crew_says_so():
    day = day_of((seat((4,) * 5),), full=8, spares=1, charger=charger(4))
    assert not rota_of(day).dark
    whole = rota_of(replace(day, rules=Rules(part_charges=False)))
    for one in whole.charges:
        assert carried_out(day, whole).held_mwh[one.pack][one.ends] == 8


def test_a_walk_to_the_charger_and_back_takes_its_time():
    day = day_of((seat((5,) * 6),), full=10, spares=1, charger=charger(10))
    assert not rota_of(day).dark
    found = rota_of(replace(day, rules=Rules(walk_steps=2)))
    assert found.dark
    for one in found.charges:
        out = max(stint.ends for stint in found.stints if stint.pack == one.pack and stint.ends <= one.begins)
        assert one.begins >= out + 2


def test_a_pair_takes_two_slots():
    twins = (seat((5,) * 6, "a"), seat((5,) * 6, "b"))
    roomy = day_of(twins, full=10, spares=2, charger=charger(5, slots=2))
    paired = rota_of(replace(roomy, chargers=(replace(roomy.chargers[0], pieces={"x": 2}),)))
    times = sorted((one.begins, one.ends) for one in paired.charges)
    assert len(times) > 1
    assert all(before[1] <= after[0] for before, after in pairwise(times))


@pytest.mark.parametrize("seed", DRAWN)
def test_a_rota_is_carried_out_by_the_minute_and_is_dark_no_sooner_than_it_says(seed: int):
    day = drawn_day(seed)
    found = rota_of(day, work=0.1)
    played = carried_out(day, found, parts=5)
    assert not played.wrong
    says = min((one.begins for one in found.dark), default=None)
    assert min((one.begins for one in played.dark), default=None) == says
    assert found.least.ordered[:3] <= found.cost.ordered[:3]
    assert (not found.dark) == (found.cost.dark == 0)


@pytest.mark.parametrize("seed", DRAWN)
def test_with_a_battery_more_it_is_never_worse(seed: int):
    day = drawn_day(seed)
    before = rota_of(day, work=0.1)
    sort = day.seats[0].sort
    more = rota_of(replace(day, packs=(*day.packs, PackIs("one more", sort, 8000, 8000))), work=0.1)
    if more.cost.ordered[:3] > before.cost.ordered[:3]:
        # Found worse is only ever not proven: what is proven can be no worse.
        assert more.least.ordered[:3] <= before.cost.ordered[:3]
    proven = before.least.ordered[:3] == before.cost.ordered[:3]
    if proven and more.least.ordered[:3] == more.cost.ordered[:3]:
        assert more.cost.ordered[:3] <= before.cost.ordered[:3]


@pytest.mark.parametrize("seed", DRAWN[:8])
def test_the_same_day_has_the_same_rota(seed: int):
    assert rota_of(drawn_day(seed), work=0.1) == rota_of(drawn_day(seed), work=0.1)
