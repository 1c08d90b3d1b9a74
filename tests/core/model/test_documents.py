"""Units, words, references: what a document may say."""

import pytest
from pydantic import TypeAdapter, ValidationError

from isotact.core.model import Rig, resolve
from isotact.core.model.problems import RefusedError, nearest, path_text
from isotact.core.model.units import Grams, Hours, Milliseconds, Volts, Watts
from isotact.core.model.vocabulary import vocabulary
from isotact.core.model.words import STAGES, PictureFormat, Stage, axes_between, version_key
from tests.rigs import demo_rig, profile


def read(kind, value):
    return TypeAdapter(kind).validate_python(value)


@pytest.mark.parametrize(
    ("kind", "written", "value"),
    [
        (Volts, "14.8 V", 14.8),
        (Volts, 14.8, 14.8),
        (Watts, "6500 mW", 6.5),
        (Grams, "0.61 kg", 610),
        (Milliseconds, "0.1 s", 100),
        (Hours, "90 min", 1.5),
        (Volts, "12", 12),
    ],
)
def test_written_quantities_come_to_one_unit(kind, written, value):
    assert read(kind, written) == pytest.approx(value)


@pytest.mark.parametrize(
    "written", ["12 W", "many", "", "V", "1 parsec", "-3 V", "nan V", "1e999 V", "__import__('os')", "9**9**9 V"]
)
def test_what_is_no_such_quantity_is_refused(written):
    with pytest.raises(ValidationError):
        read(Volts, written)


def test_the_refusal_of_a_quantity_says_what_would_do():
    with pytest.raises(ValidationError, match="found '12 W'; expected a number, or a quantity such as '1 V'"):
        read(Volts, "12 W")


@pytest.mark.parametrize("good", ["1080p25", "2160p23.98", "1080i50", "720p60"])
def test_picture_formats_that_are(good):
    assert read(PictureFormat, good) == good


@pytest.mark.parametrize("bad", ["1080", "1080p", "4k25", "1080p1000", "1081p25"])
def test_picture_formats_that_are_not(bad):
    with pytest.raises(ValidationError, match="such as '1080p25'"):
        read(PictureFormat, bad)


def test_versions_compare_by_number_not_by_letter():
    assert version_key("2.10") > version_key("2.9")
    assert version_key("2.0") == version_key("2")


def test_axes_lie_between_stages_either_way():
    assert axes_between(Stage.TILT_CAGE, Stage.PAN_BASE) == ("tilt", "roll")
    assert axes_between(Stage.HANDLES, Stage.ROLL_ARM) == ("roll", "pan")
    assert all(axes_between(stage, stage) == () for stage in STAGES)


def test_every_word_has_a_name_and_every_function_a_way_to_see_it():
    assert all(connector.name for connector in vocabulary().connectors.values())
    assert all(function.name and function.act and function.seen for function in vocabulary().functions.values())


def test_paths_are_written_as_people_do():
    assert path_text(("ports", 1, "roles", 0, "max_v")) == "ports[1].roles[0].max_v"


def test_the_nearest_word_is_offered_only_when_near():
    assert nearest("usb-d", ["usb-c", "bnc"]) == ". Did you mean 'usb-c'?"
    assert nearest("zzz", ["usb-c"]) == ""


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({"accepts": [{"functions": ["record"], "over": "usb"}]}, "found 'usb', which is no port or radio here"),
        ({"accepts": [{"functions": ["record"]}]}, "found neither over nor surface"),
        ({"shows": [{"screen": "s", "delay_ms": 1}]}, "found 's', which is no surface of this profile"),
        ({"surfaces": [{"id": "s", "name": "s", "kind": "screen"}] * 2}, "found 's' twice"),
    ],
)
def test_references_inside_a_profile_must_lead_somewhere(fields, says):
    with pytest.raises(ValidationError) as caught:
        profile("x", **fields)
    flaws = caught.value.errors()[0]["ctx"]["flaws"]
    assert any(says in words for _, words in flaws)


def test_a_rig_must_name_its_own_devices_once():
    data = demo_rig().model_dump(mode="json")
    data["devices"].append(data["devices"][0])
    data["promises"][0]["at"]["device"] = "gimble"
    with pytest.raises(ValidationError) as caught:
        Rig.model_validate(data)
    assert caught.value.errors()[0]["ctx"]["flaws"] == [
        (("devices", 5, "id"), "found 'body' twice; give each its own"),
        (("promises", 0, "at", "device"), "found 'gimble', which is not in this rig. Did you mean 'gimbal'?"),
    ]


def test_every_name_that_leads_nowhere_is_told_at_once(catalogue):
    data = demo_rig().model_dump(mode="json")
    data["devices"][0]["mode"] = "vidio"
    data["devices"][0]["settings"] = {"usb-mod": "tether", "usb-mode": "teth"}
    data["devices"][1]["profile"] = "lens-by-wir"
    data["bag"][0]["cable"] = "usb-c-usb-c-data-3"
    data["promises"][1]["at"]["surface"] = "whel"
    with pytest.raises(RefusedError) as caught:
        resolve(Rig.model_validate(data), catalogue.profiles, catalogue.cables)
    told = {problem.path: problem.message for problem in caught.value.problems}
    assert told["devices[0].mode"].endswith("expected one of video, stills. Did you mean 'video'?")
    assert "Did you mean 'usb-mode'?" in told["devices[0].settings.usb-mod"]
    assert "Did you mean 'tether'?" in told["devices[0].settings.usb-mode"]
    assert "Did you mean 'lens-by-wire'?" in told["devices[1].profile"]
    assert "Did you mean 'usb-c-usb-c-data-30'?" in told["bag[0].cable"]
    assert "Did you mean 'wheel'?" in told["promises[1].at.surface"]
