"""Every cell of the functions matrix says what the planner would say if the cell were promised."""

import pytest

from isotact.catalogue import shipped
from isotact.core.model import NotFoundError, ResolvedRig, resolve
from isotact.core.planning import plan
from isotact.core.questions import functions_matrix
from isotact.core.questions.functions_matrix import Cell, Matrix
from isotact.examples import examples
from tests.rigs import demo, device_of, no_data_cables


def example(number: int) -> ResolvedRig:
    catalogue = shipped()
    found = next(one for one in examples() if one.number == number)
    return resolve(found.rigs[0], catalogue.profiles, catalogue.cables)


def matrix_of(rig: ResolvedRig) -> Matrix:
    return functions_matrix(rig, plan(rig), "body")


def cell(matrix: Matrix, function: str, device: str, surface: str) -> Cell:
    return next(one for one in matrix.cells if (one.function, one.device, one.surface) == (function, device, surface))


def promised(rig: ResolvedRig, one: Cell, weight: int) -> tuple[str, ...]:
    """What is kept when the cell is promised as well, at this weight."""
    data = rig.rig.model_dump(mode="json")
    kept = plan(rig).kept
    for promise in data["promises"]:
        promise["weight"] = 5 if promise["id"] in kept else 1
    at = {"device": one.device, "surface": one.surface}
    data["promises"].append(
        {"kind": "control", "id": "cell", "who": "x", "function": one.function, "at": at, "weight": weight}
    )
    catalogue = shipped()
    return plan(resolve(type(rig.rig).model_validate(data), catalogue.profiles, catalogue.cables)).kept


@pytest.mark.parametrize("rig", [demo(), example(12), example(5)], ids=["demo", "single port", "body or motor"])
def test_yes_is_kept_beside_the_rest_a_price_is_paid_and_no_is_never_kept(rig: ResolvedRig):
    before = plan(rig).kept
    for one in matrix_of(rig).cells:
        if one.verdict == "yes":
            assert {*before, "cell"} <= set(promised(rig, one, 9))
        elif one.verdict == "condition" and "give up" in one.says:
            kept = set(promised(rig, one, 1))
            assert not {*before, "cell"} <= kept
        elif one.verdict == "no":
            assert "cell" not in promised(rig, one, 9)


def test_the_rows_are_what_the_body_takes_and_the_columns_what_gives_it():
    matrix = matrix_of(demo())
    assert matrix.functions == ("record", "focus", "iris", "iso", "shutter", "stills")
    assert {f"{column.device_name}: {column.surface_name}" for column in matrix.columns} == {
        "Brindle 2: record button",
        "Tansy grip: record button",
        "Tansy grip: focus wheel",
        "Director's phone: touch screen",
    }
    assert len(matrix.cells) == 6 * 4


def test_a_cell_at_a_price_names_the_mode_and_what_has_to_go():
    iso = cell(matrix_of(demo()), "iso", "phone", "touch-screen")
    assert iso.verdict == "condition"
    assert iso.says.endswith("if you give up record from the record button of Tansy grip.")
    assert "Brindle 2 in Stills mode" in iso.when
    assert iso.promised == ("iso",)


def test_held_to_one_mode_a_function_of_another_is_a_no_and_says_which():
    rig = demo()
    video = functions_matrix(rig, plan(rig), "body", "video")
    stills = functions_matrix(rig, plan(rig), "body", "stills")
    assert video.modes == {"video": "Video", "stills": "Stills"}
    iso = cell(video, "iso", "phone", "touch-screen")
    assert (iso.verdict, iso.says[:35]) == ("no", "Not in this mode. Brindle 2 in Stil")
    assert cell(video, "record", "phone", "touch-screen").verdict == "yes"
    assert cell(stills, "iso", "phone", "touch-screen").verdict == "condition"
    assert cell(stills, "record", "phone", "touch-screen").verdict == "no"
    with pytest.raises(NotFoundError):
        functions_matrix(rig, plan(rig), "body", "panorama")


def test_old_firmware_and_a_missing_cable_are_conditions_with_their_reason():
    old = matrix_of(demo(lambda data: device_of(data, "body").update(firmware="1.9")))
    assert cell(old, "record", "gimbal", "record-button").says == "Brindle 2 has firmware 1.9; this needs 2.0 or newer."
    bare = cell(matrix_of(demo(no_data_cables)), "record", "gimbal", "record-button")
    assert bare.verdict == "condition"
    assert "Get one of: USB-C to USB-C, data, 0.3 m" in bare.says


def test_what_a_surface_does_not_give_is_a_plain_no():
    says = cell(matrix_of(demo()), "focus", "phone", "touch-screen").says
    assert says == "The touch screen does not give focus."


def test_a_licence_is_named():
    assert "licence “camera control” on Driver" in cell(matrix_of(example(6)), "iso", "hand", "camera-page").when


def test_a_device_that_is_not_there_has_no_matrix():
    with pytest.raises(NotFoundError):
        functions_matrix(demo(), plan(demo()), "nobody")
