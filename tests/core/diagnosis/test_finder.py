"""The finder: from what fails to what is wrong, by looks that tell most for their time."""

import pytest

from isotact.core.diagnosis import CURED, STILL, UNFINISHED, Happened, Seen, Standing
from isotact.core.diagnosis.belief import ELSE_SHARE, LEARNING, believe, prior_of
from isotact.core.diagnosis.cures import cure, mended_by
from isotact.core.diagnosis.finder import NAMED_AT, find
from isotact.core.diagnosis.findings import answered
from isotact.core.diagnosis.hypotheses import fault_kind
from isotact.core.diagnosis.sights import sights
from isotact.core.diagnosis.table import WORKS, Table, look_key
from isotact.core.faults.coverage import faults_of
from isotact.core.model.problems import NotFoundError
from isotact.core.trades import perform
from isotact.core.trades.suspicion import ORDER, in_crews_order, suspicion_words
from isotact.core.trades.symptoms import AT_TEETH, SYMPTOMS, favoured, heard
from isotact.core.world import prove
from tests.rigs import SHIPPED, carried
from tests.searches import fallen, faults, search, shown, table_of, twins

B = "night-ferry-b"
LOOK_ALIKE = "joined:body.usb--gimbal.camera/wrong-port"


@pytest.fixture(scope="module")
def table() -> Table:
    return table_of(B)


def column(table: Table, cause: str) -> int:
    return table.causes.index(cause)


def share(table: Table, seen: list[Seen], cause: str) -> float:
    return believe(table, seen).by_cause().get((cause,), 0.0)


@pytest.mark.parametrize("rig_id", SHIPPED)
def test_it_ends_on_the_fault_that_is_there(rig_id: str):
    """Every eighth of them here, over all shipped rigs; all of them where the finder is tried (`tools/finder_trials.py`)."""
    table = table_of(rig_id)
    for one in list(faults(table))[::8]:
        trail = search(table, (one,))
        assert trail.is_mended, table.causes[one]
        cured = trail.seen[-1].look.removeprefix("cure:")
        assert twins(table, one) & {cured} or mended_by(table, cured)[one], (table.causes[one], cured)


def test_what_was_seen_makes_one_and_something_else_keeps_its_share(table: Table):
    for seen in ([], fallen(table, (column(table, LOOK_ALIKE),))):
        belief = believe(table, seen)
        assert belief.share.sum() + belief.elsewhere == pytest.approx(1)
        assert belief.elsewhere > 0
    assert believe(table, []).elsewhere == pytest.approx(ELSE_SHARE)


def test_an_answer_makes_what_shows_so_likelier_and_strikes_nothing(table: Table):
    one = column(table, LOOK_ALIKE)
    seen = fallen(table, (one,))
    before = share(table, seen, LOOK_ALIKE)
    row = table.place["follow:body.usb--gimbal.camera"]
    words = table.looks[row].words
    right = Seen(look=table.looks[row].id, saw=words[shown(table, row, (one,))])
    assert share(table, [*seen, right], LOOK_ALIKE) > 5 * before
    sound = Seen(look=table.looks[row].id, saw=words[0])
    assert 0 < share(table, [*seen, sound], LOOK_ALIKE) < before / 5


def test_what_nobody_can_tell_says_nothing_and_is_not_asked_again(table: Table):
    seen = fallen(table, (column(table, LOOK_ALIKE),))
    first = find(table, seen).next[0]
    after = find(table, [*seen, Seen(look=first.id, answer="cannot-tell")])
    assert [one.share for one in after.causes] == pytest.approx([one.share for one in find(table, seen).causes])
    assert first.id not in {one.id for one in (*after.next, *after.glances)}


def test_the_order_of_looks_hardly_matters(table: Table):
    """Only what is kept for a fault that nobody knows depends on what was thought likely when something was seen."""
    seen = [
        *fallen(table, (column(table, LOOK_ALIKE),)),
        Seen(look="lamp:gimbal.grip-lamp", saw="steady green"),
        Seen(look="prompt:body", saw="asks nothing"),
    ]
    assert believe(table, seen).share == pytest.approx(believe(table, seen[::-1]).share, rel=0.05)


def test_a_look_that_the_rig_no_longer_has_says_nothing(table: Table):
    seen = fallen(table, (column(table, LOOK_ALIKE),))
    assert find(table, [*seen, Seen(look="lamp:gone.lamp", saw="dark")]).causes == find(table, seen).causes


def test_words_that_no_look_has_count_as_something_else(table: Table):
    seen = fallen(table, (column(table, LOOK_ALIKE),))
    odd = [*seen, Seen(look="lamp:gimbal.grip-lamp", saw="it burns")]
    assert believe(table, odd).elsewhere > believe(table, seen).elsewhere


def test_a_cure_that_works_ends_it_and_one_in_vain_lets_the_next_come_up(table: Table):
    seen = fallen(table, (column(table, LOOK_ALIKE),))
    assert find(table, [*seen, Seen(look=f"cure:{LOOK_ALIKE}", saw=CURED)]).status == "mended"
    unlikely = "firmware:body:2.0/old"
    assert find(table, [*seen, Seen(look=f"cure:{unlikely}", saw=CURED)]).causes[0].ids == (unlikely,)
    after = find(table, [*seen, Seen(look=f"cure:{LOOK_ALIKE}", saw=STILL)])
    assert after.status == "looking"
    assert after.causes[0].ids != (LOOK_ALIKE,)


def test_a_cheap_look_comes_before_a_dear_one_that_tells_no_more(table: Table):
    """No restart of all, no balance taken apart: at first only what takes seconds and disturbs nothing."""
    for one in faults(table):
        for look in find(table, fallen(table, (one,))).next:
            assert look.id.partition(":")[0] not in ("tip", "restart", "restart-with", "watch-prompt"), look.id
            assert look.takes_s <= 60


def test_a_look_says_what_each_answer_leaves(table: Table):
    look = find(table, fallen(table, (column(table, LOOK_ALIKE),))).next[0]
    assert sum(one.share for one in look.outcomes) == pytest.approx(1, abs=0.1)
    assert all(set(one.leaves) <= set(table.causes) for one in look.outcomes)
    assert look.outcomes[0].leaves != look.outcomes[1].leaves


def test_what_a_cure_mends_by_the_way_is_mended_too(table: Table):
    """A lead that is changed is home in both its ports; who puts it home does not mend a lead that is dead."""
    dead, half = "carries:body.hdmi--transmitter.hdmi-in:hdmi/dead", "seated:body.hdmi--transmitter.hdmi-in/half"
    assert mended_by(table, dead)[column(table, half)]
    assert not mended_by(table, half)[column(table, dead)]
    assert not mended_by(table, dead)[column(table, "setting:phone.app-target/wrong")]


@pytest.mark.parametrize("rig_id", [B, "look-alikes"])
def test_what_is_said_to_be_mended_by_the_way_is(rig_id: str):
    table = table_of(rig_id)
    for cause in list(dict.fromkeys(table.causes))[::6]:
        sheet = cure(table, [cause])
        for other in [number for number in faults(table) if mended_by(table, cause)[number]]:
            if table.causes[other] == cause and sheet.warnings:
                continue
            world = table.worlds[other].fork()
            for step in sheet.steps:
                perform(world, step.act, step.takes_s)
            assert all(prove(world, key).ok for key in table.situation.plan.kept), (cause, table.causes[other])


def test_after_a_cure_in_vain_only_what_is_left_is_named(table: Table):
    """Two faults: the gimbal is asleep and the wheel turns the wrong thing. Once it is awake, its lamp says so."""
    seen = [
        *fallen(table, (column(table, "awake:gimbal/asleep"),)),
        Seen(look="lamp:gimbal.grip-lamp", saw="dark"),
        Seen(look="is-it-on:gimbal", saw="off"),
        Seen(look="cure:awake:gimbal/asleep", saw=STILL),
    ]
    after = find(table, seen)
    assert all("awake:gimbal/asleep" not in cause.ids for cause in after.causes)
    again = [*seen, Seen(look="lamp:gimbal.grip-lamp", saw="steady blue"), Seen(look=look_key("roll"), saw=WORKS)]
    again.append(Seen(look="read-setting:gimbal.wheel", saw="Roll axis"))
    assert find(table, again).causes[0].ids == ("setting:gimbal.wheel/wrong",)


def test_what_was_odd_before_a_cure_may_be_looked_at_again_and_what_was_sound_need_not(table: Table):
    seen = [
        *fallen(table, (column(table, "awake:gimbal/asleep"),)),
        Seen(look="lamp:gimbal.grip-lamp", saw="dark"),
        Seen(look="lamp:body.rear", saw=table.looks[table.place["lamp:body.rear"]].words[0]),
        Seen(look="cure:awake:gimbal/asleep", saw=STILL),
    ]
    after = find(table, seen, count=99)
    asked = {one.id for one in after.next}
    assert "lamp:gimbal.grip-lamp" in asked
    assert "lamp:body.rear" not in asked or next(one for one in after.next if one.id == "lamp:body.rear").is_again


def test_an_answer_that_nothing_fits_is_asked_once_more(table: Table):
    """The picture fails, they say, and its screen shows a picture: before anything else that is looked at again."""
    seen = [Seen(look=look_key("picture"), answer="odd"), Seen(look="lamp:phone.app", saw="picture page")]
    screen = table.looks[table.place["screen:phone.touch-screen"]]
    odd = find(table, [*seen, Seen(look=screen.id, saw=screen.words[0])])
    assert (odd.status, odd.next[0].id, odd.next[0].is_again) == ("looking", screen.id, True)
    sure = find(table, [*seen, Seen(look=screen.id, saw=screen.words[0], times=2)])
    assert sure.elsewhere > odd.elsewhere


class TestOneAnswerMore:
    def test_the_last_answer_of_a_look_counts_and_how_often_it_was_the_same(self):
        seen = answered([], Seen(look="lamp", saw="blue"))
        assert answered(seen, Seen(look="lamp", saw="blue"))[0].times == 2
        assert [(one.saw, one.times) for one in answered(seen, Seen(look="lamp", saw="red"))] == [("red", 1)]

    def test_a_cure_in_vain_draws_a_line_and_one_that_works_does_not(self):
        seen = [Seen(look="lamp", saw="dark"), Seen(look="cure:x", saw=STILL)]
        assert len(answered(seen, Seen(look="lamp", saw="dark"))) == 3
        assert len(answered([seen[0], Seen(look="cure:x", saw=CURED)], Seen(look="lamp", saw="blue"))) == 2


def test_two_faults_at_once_are_found_one_after_the_other_or_together(table: Table):
    pair = (column(table, "setting:lens.focus-switch/wrong"), column(table, "setting:phone.app-target/wrong"))
    trail = search(table, pair)
    tried = {one.look.removeprefix("cure:") for one in trail.seen if one.look.startswith("cure:")}
    assert trail.finding.status == "mended"
    assert {table.causes[one] for one in pair} <= tried


def test_two_looks_that_no_single_fault_explains_bring_up_pairs(table: Table):
    pair = (column(table, "setting:lens.focus-switch/wrong"), column(table, "setting:phone.app-target/wrong"))
    seen = [
        *fallen(table, pair),
        Seen(look="read-setting:lens.focus-switch", saw="MF"),
        Seen(look="read-setting:phone.app-target", saw="Gimbal"),
        Seen(look=look_key("roll"), saw=WORKS),
    ]
    assert set(find(table, seen).causes[0].ids) == {table.causes[one] for one in pair}


class TestWhereOneIs:
    def test_half_way_what_is_not_done_yet_is_the_first_thing_to_think_of(self):
        steps = [step.id for step in carried(B).sheet.steps]
        table = table_of(B, Standing(done=tuple(steps[:20])))
        found = find(table, [Seen(look=look_key("focus"), answer="odd")])
        assert found.causes[0].ids == (UNFINISHED,)
        assert [step.id for step in cure(table, [UNFINISHED]).steps if not step.care][-1].startswith("prove")

    def test_a_step_that_does_not_look_as_it_should_is_the_first_answer(self):
        steps = [step.id for step in carried(B).sheet.steps]
        at = next(number for number, key in enumerate(steps) if key == "wake:gimbal")
        table = table_of(B, Standing(done=tuple(steps[: at + 1]), differs="wake:gimbal"))
        kinds = {kind for cause in find(table, []).causes[:4] for kind in cause.kinds}
        assert kinds & {"fed/flat", "awake/asleep", "balanced/lost", "in-place/loose", "incident/restarted"}
        assert not kinds & {"network/elsewhere", "setting/wrong"}

    def test_what_is_not_built_yet_cannot_be_broken(self):
        steps = [step.id for step in carried(B).sheet.steps]
        first = next(number for number, key in enumerate(steps) if key.startswith("plug"))
        table = table_of(B, Standing(done=tuple(steps[:first])))
        assert not [cause for cause in table.causes if cause.startswith(("seated:", "answered:"))]

    def test_a_fault_is_put_in_where_it_would_have_happened(self):
        """Half seated since the build, no question ever came; pulled later, it was answered long before."""
        steps = [step.id for step in carried(B).sheet.steps if step.act.proves is None]
        table = table_of(B, Standing(done=tuple(steps)))
        rows = {
            one.at is None: table.worlds[number]
            for number, one in enumerate(table.hypotheses)
            if one.cause == "seated:body.usb--gimbal.camera/half"
        }
        asked = next(one for one in table.looks if one.id.startswith("watch-prompt:body"))
        assert set(rows) == {True, False}
        assert asked.check.read(rows[True]).words != asked.check.read(rows[False]).words

    def test_once_a_proof_was_seen_what_it_needs_came_since(self):
        steps = tuple(step.id for step in carried(B).sheet.steps)
        assert all(one.at is None for one in table_of(B, Standing(done=steps)).hypotheses)

    def test_what_happened_since_counts(self):
        steps = tuple(step.id for step in carried(B).sheet.steps)
        happened = Happened(what="restarted", device="body", after=len(steps))
        restarted = table_of(B, Standing(done=steps, happened=(happened,), changed=("body",)))
        seen = [Seen(look=look_key("roll"), answer="odd")]
        # It asked again when it came up, and nobody answered: that it is so is not even a fault any more.
        assert restarted.outcome[restarted.place[look_key("roll")], column(restarted, UNFINISHED)] != 0
        assert share(restarted, seen, "mode:body/other") != share(
            table_of(B, Standing(done=steps)), seen, "mode:body/other"
        )

    def test_what_was_touched_since_it_worked_weighs_more(self):
        steps = tuple(step.id for step in carried(B).sheet.steps)
        seen = [Seen(look=look_key("roll"), answer="odd")]
        touched = table_of(B, Standing(done=steps, changed=("body",)))
        assert share(touched, seen, "mode:body/other") > share(
            table_of(B, Standing(done=steps)), seen, "mode:body/other"
        )

    def test_one_event_with_many_losses_is_one_hypothesis(self):
        """The battery under the driver is changed: three motors lose their ends, and that is one thing to find."""
        table = table_of("night-ferry-a")
        lost = [
            (one.cause, len(fallen(table, (number,))), len(one.acts))
            for number, one in enumerate(table.hypotheses)
            if one.kind.startswith("incident/")
        ]
        assert max(promises for _, promises, _ in lost) >= 3
        assert all(acts <= 2 for _, _, acts in lost)


class TestPrior:
    def test_it_is_the_catalogues_where_nothing_was_found_yet(self, table: Table):
        assert prior_of(table, {}).sum() == pytest.approx(1)
        assert prior_of(table, {"nothing/such": 50}) == pytest.approx(prior_of(table, {}))

    def test_finds_draw_it_towards_what_happens_here(self, table: Table):
        kinds = [one.kind for one in table.hypotheses]
        of_kind = [number for number, kind in enumerate(kinds) if kind == "joined/wrong-port"]
        before = prior_of(table, {})[of_kind].sum()
        # The mean of a Dirichlet posterior (any textbook of Bayesian statistics): counts beside the concentration.
        after = prior_of(table, {"joined/wrong-port": 3, "seated/half": 8})[of_kind].sum()
        assert after == pytest.approx((LEARNING * before + 3) / (LEARNING + 11), rel=1e-6)


class TestCure:
    @pytest.mark.parametrize("rig_id", ["night-ferry-b", "two-drivers", "single-port"])
    def test_carried_out_it_mends_what_it_was_for(self, rig_id: str):
        table = table_of(rig_id)
        promises = table.situation.plan.kept
        for one in list(faults(table))[::4]:
            sheet = cure(table, [table.causes[one]])
            if sheet.warnings:
                continue  # a fuse, or worse: no hand on the cart mends it, and the sheet says so
            world = table.worlds[one].fork()
            for step in sheet.steps:
                perform(world, step.act, step.takes_s)
            assert [key for key in promises if not prove(world, key).ok] == [], table.causes[one]

    def test_it_is_short(self, table: Table):
        whole = len(table.situation.sheet.steps)
        sheet = cure(table, ["seated:body.usb--gimbal.camera/half"])
        assert 0 < len([step for step in sheet.steps if step.act.proves is None]) < whole / 3

    def test_of_two_at_once_it_mends_both(self, table: Table):
        causes = ["setting:lens.focus-switch/wrong", "setting:phone.app-target/wrong"]
        devices = {step.device for step in cure(table, causes).steps}
        assert {"lens", "phone"} <= devices

    def test_of_a_cause_that_nobody_thought_of_it_is_refused(self, table: Table):
        with pytest.raises(NotFoundError, match="no cause 'joined:nothing'"):
            cure(table, ["joined:nothing"])


class TestSeenUnasked:
    def test_every_look_that_tells_something_can_be_told_the_sound_one_first(self, table: Table):
        found = sights(table)
        assert {one.id for one in found} == {look.id for look in table.looks if len(look.words) > 1}
        assert next(one for one in found if one.id == "lamp:gimbal.grip-lamp").words[0] == "steady blue"
        assert [one.is_glance for one in found] == sorted((one.is_glance for one in found), reverse=True)

    @pytest.mark.parametrize(
        ("typed", "meant"),
        [
            ("two rings turn", "two-rings"),
            ("it comes and goes", "comes-and-goes"),
            ("teeth click", "teeth-click"),
            ("the motor slips", "teeth-click"),
            ("only charging", "only-charges"),
            ("no power at all", "dark"),
            ("menu greyed out", "greyed"),
            ("worked before the battery change", "since-restart"),
        ],
    )
    def test_plain_words_are_understood(self, typed: str, meant: str):
        assert meant in [one.id for one in heard(typed)]

    def test_what_is_no_symptom_is_none(self):
        assert heard("zxqw") == []

    def test_they_make_likelier_of_what_they_speak(self):
        table = table_of("night-ferry-a")
        kind = "alone-on-axis/two"
        seen = [Seen(look=look_key("focus"), answer="odd")]
        likelier = believe(table, [*seen, Seen(look="said:two-rings", saw="Two rings turn")]).by_cause()
        before = believe(table, seen).by_cause()
        of_kind = [(one.cause,) for one in table.hypotheses if one.kind == kind]
        assert sum(likelier.get(key, 0) for key in of_kind) > 2 * sum(before.get(key, 0) for key in of_kind)

    def test_what_comes_and_goes_speaks_of_contacts(self, table: Table):
        seen = Seen(look=look_key("picture"), answer="now-and-then")
        always = Seen(look=look_key("picture"), answer="odd")
        half = "seated:body.hdmi--transmitter.hdmi-in/half"
        assert share(table, [seen], half) > 1.5 * share(table, [always], half)


def kinds() -> set[str]:
    found = set()
    for rig_id in SHIPPED:
        one = carried(rig_id)
        found |= {fault_kind(condition, fault) for condition, fault in faults_of(one.rig, one.conditions)}
    return found | {"incident/restarted", "incident/battery-changed"}


def test_a_crew_has_a_word_for_every_kind_of_fault():
    assert sorted(kind for kind in kinds() if not suspicion_words(kind)) == []
    assert in_crews_order(["fed/flat", "joined/wrong-port", "seated/half"])[0] == "wrong port"


def test_no_word_of_a_crew_or_of_a_symptom_is_about_nothing():
    known = kinds() | {kind.partition("/")[0] for kind in kinds()}
    assert [start for start, _ in ORDER if start not in known] == []
    assert [
        (one.id, kind) for one in SYMPTOMS for kind in one.favours if kind.removesuffix(AT_TEETH) not in known
    ] == []
    assert all(max(favoured(one, kind, has_teeth=True) for kind in kinds()) == 1.0 for one in SYMPTOMS)


def test_it_is_named_only_where_it_is_sure(table: Table):
    for one in list(faults(table))[::5]:
        trail = search(table, (one,))
        for number in range(len(trail.seen)):
            finding = find(table, trail.seen[: number + 1])
            assert (finding.status == "found") <= (finding.causes[0].share >= NAMED_AT)


def test_one_wrong_answer_in_ten_is_got_over(table: Table):
    """Over what is drawn here; what it is over all rigs stands in docs/finder.md."""
    columns = list(faults(table))
    right = [search(table, (one,), wrong=0.1, seed=one).is_mended for one in columns]
    assert sum(right) >= 0.85 * len(right)


def test_a_fault_that_is_not_in_the_list_is_said_not_to_be(table: Table):
    """Every answer is what a sound rig shows, and still nothing works: within twelve looks and cures it says so."""
    seen = [Seen(look=look_key("focus"), answer="odd")]
    statuses = []
    for _ in range(12):
        finding = find(table, seen)
        statuses.append(finding.status)
        one = finding.next[0]
        saw = STILL if one.is_cure else table.looks[table.place[one.id]].words[int(table.base[table.place[one.id]])]
        seen = answered(seen, Seen(look=one.id, saw=saw))
    assert "found" not in statuses
    assert find(table, seen).status == "not-in-the-list"
