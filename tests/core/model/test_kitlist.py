"""Kit lists: columns are guessed, names matched, every problem told, and a kit written out comes back the same."""

import pytest

from isotact.catalogue import shipped
from isotact.catalogue.tables import read_table, write_table
from isotact.core.model import Kit, RefusedError
from isotact.core.model.kitlist import guess_columns, kit_of, read_lines, table_of

CATALOGUE = shipped()
EMPTY = Kit(format="isotact/kit", version=1, id="kit", name="Kit")


def lines(text: str, chosen=None):
    headings, rows = read_table(text)
    return read_lines(rows, guess_columns(headings), CATALOGUE.profiles, CATALOGUE.cables, chosen)


@pytest.mark.parametrize(
    ("headings", "columns"),
    [
        (["Item", "Qty", "Asset tag", "FW", "Colour"], ["item", "count", "tags", "firmware", "ignore"]),
        (["Description", "Pcs.", "Licenses", "Remarks"], ["item", "count", "licences", "note"]),
        (["name", "name"], ["item", "ignore"]),
    ],
)
def test_columns_are_known_by_their_headings(headings: list[str], columns: list[str]):
    assert guess_columns(headings) == columns


def test_names_and_ids_are_known_whatever_their_case_and_order():
    for text in ("phone", "Phone with the link app", "LINK APP, with the phone"):
        found = lines(f'item\n"{text}"\n')[0]
        assert (found.item, found.sure, found.problems) == ("phone", True, ())


def test_a_misspelt_name_is_taken_for_the_nearest_and_said_so():
    found = lines("item\nmirorless body one usb-c micro hdmi\n")[0]
    assert (found.item, found.sure) == ("mirrorless-usb-c-micro-hdmi", False)


def test_what_is_not_known_is_asked_and_can_be_chosen():
    found = lines("item\nMystery box\n")[0]
    assert found.kind == "nothing"
    assert found.problems == ("found 'Mystery box', which is no device or cable that we know; choose what it is.",)
    assert lines("item\nMystery box\n", {2: "tap-hub"})[0].item == "tap-hub"


@pytest.mark.parametrize(
    ("row", "says"),
    [
        ("phone,many,,", "found count 'many'; expected a whole number from 0 to 999."),
        ("phone,-1,,", "found count '-1'; expected a whole number from 0 to 999."),
        ("phone,1,two,", "found firmware 'two'; expected numbers with dots, such as 2.10."),
        ("phone,1,,pro", "found licence 'pro'; this has none."),
        ("driver-newer,1,,pro", "found licence 'pro'; this device has camera-control."),
        (",3,,", "found no item; give its name, or leave the line out."),
    ],
)
def test_every_problem_is_told_in_its_line(row: str, says: str):
    found = lines(f"item,count,firmware,licences\nphone,1,,\n{row}\n")
    assert found[0].problems == ()
    assert (found[1].line, found[1].problems) == (3, (says,))


def test_semicolons_tabs_and_quotes_are_read_and_empty_rows_passed_over():
    assert lines('item;count;tags\n"phone";2;"P-1, P-2"\n;;\n')[0].tags == ("P-1", "P-2")
    assert lines("item\tcount\nphone\t4\n")[0].count == 4


def test_lines_of_one_item_are_put_together_unless_firmware_differs():
    kit = kit_of(
        lines("item,count,tags,firmware\nphone,1,A,\nphone,2,B,\nphone,1,C,2.0\nhdmi-a-hdmi-a-50,3,,\n"), EMPTY
    )
    assert [(one.count, one.tags, one.firmware) for one in kit.devices] == [(3, ["A", "B"], None), (1, ["C"], "2.0")]
    assert [(one.cable, one.count) for one in kit.cables] == [("hdmi-a-hdmi-a-50", 3)]


def test_a_kit_written_out_comes_back_the_same():
    text = "item,count,tags,firmware,licences,note\ndriver-newer,1,-A; =B,4.1,camera-control,@home\nbnc-bnc-50,2,,,,\n"
    kit = kit_of(lines(text), EMPTY)
    out = write_table(table_of(kit, CATALOGUE.profiles, CATALOGUE.cables))
    assert "'-A; =B" in out
    assert kit_of(lines(out), EMPTY) == kit


@pytest.mark.parametrize(("text", "says"), [("", "found nothing"), ('item\n"phone\n', "this is no table")])
def test_what_is_no_table_is_refused(text: str, says: str):
    with pytest.raises(RefusedError, match=says):
        read_table(text)
