"""What is tried for a way out is answered as the best plan would: it is solved only as far as it takes to know."""

from isotact.core.planning import search
from isotact.core.planning.explaining.trials import Trying
from tests.core.planning.test_feeds import ROLL, planned, rig
from tests.corpus import Drawn, every


@every("small or shaken", 40)
def test_it_says_of_any_promises_whether_the_best_plan_keeps_them(drawn: Drawn):
    rig = drawn.rig
    kept = {*drawn.plan.kept}
    promised = {promise.id for promise in rig.rig.promises}
    links = search(rig).links
    for wanted in (kept, promised, *({one} for one in sorted(promised))):
        assert Trying(rig, links).with_rig(rig, wanted) is (wanted <= kept)


def test_a_pin_comes_before_a_promise_there_too():
    """The lead could lie there, and record would hold. It is pinned out: so no plan will have it."""
    devices = {"body": "mirrorless-usb-c-micro-hdmi", "grip": "gimbal-single-grip-two-usb-c"}
    free = rig(devices, ["usb-c-usb-c-data-30"], [ROLL])
    port = next(join for join in planned(free).joins).link.a
    pin = {"kind": "keep-out", "at": {"device": port.device, "port": port.endpoint}}
    document = type(free.rig).model_validate({**free.rig.model_dump(mode="json"), "pins": [pin]})
    pinned = type(free)(document, free.cables, free.devices)
    assert Trying(free, search(free).links).with_rig(free, {"roll"})
    assert not Trying(pinned, search(pinned).links).with_rig(pinned, {"roll"})
