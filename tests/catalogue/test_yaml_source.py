"""Reading text: lines, YAML 1.2 words, and everything that is refused."""

import json

import pytest

from isotact.catalogue import read_text
from isotact.core.model import RefusedError


def refused(text: str, file: str = "rig.yaml") -> str:
    with pytest.raises(RefusedError) as caught:
        read_text(text, file)
    return str(caught.value)


def test_every_value_knows_its_line():
    source = read_text("a: 1\nb:\n  - x\n  - {c: y}\n")
    assert source.data == {"a": 1, "b": ["x", {"c": "y"}]}
    assert source.line_of(("a",)) == 1
    assert source.line_of(("b", 1, "c")) == 4
    assert source.line_of(("b", 1, "nothing", "here")) == 4


def test_on_off_yes_and_no_stay_words_and_numbers_stay_numbers():
    data = read_text("[on, off, yes, no, true, null, 12, -0.5, 1e3, 1:30, '12', 0x1f, 1_000]").data
    assert data == ["on", "off", "yes", "no", True, None, 12, -0.5, 1000.0, "1:30", "12", "0x1f", "1_000"]


def test_json_is_read_as_it_is():
    document = {"a": [1, 2.5, "x", None, True], "b": {"c": "ü"}}
    assert read_text(json.dumps(document)).data == document


def test_an_alias_is_refused_before_anything_is_expanded():
    bomb = "a: &a [x, x]\nb: &b [*a, *a]\nc: [*b, *b]\n"
    assert refused(bomb) == "rig.yaml:1: found an anchor or alias; write the value out where it is needed."


def test_a_billion_laughs_costs_nothing():
    rows = ["l0: &l0 [lol]"] + [f"l{n}: &l{n} [" + ", ".join([f"*l{n - 1}"] * 10) + "]" for n in range(1, 30)]
    assert "found an anchor or alias" in refused("\n".join(rows))


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("a: [1, 2", "rig.yaml:2: this is not YAML: did not find expected ',' or ']'."),
        ("a: 1\na: 2\n", "rig.yaml:2: found the field 'a' twice; keep one."),
        ("", "rig.yaml:1: found nothing; expected a document."),
        ("# only a remark\n", "rig.yaml:1: found nothing; expected a document."),
        ("a: 1\n---\nb: 2\n", "rig.yaml:2: found a second document; put one in each file."),
        ("? [a]\n: 1\n", "rig.yaml:1: found a key that is not a word; expected a field's name."),
        ("a: \x07", "rig.yaml: this is not YAML text"),
        ("[" * 200 + "]" * 200, "found more than 40 levels"),
    ],
)
def test_what_is_refused_names_its_line(text: str, says: str):
    assert says in refused(text)


def test_five_megabytes_are_refused_by_size():
    assert "found 5,000,002 bytes; a document has at most 1,000,000." in refused("a:" + " " * 5_000_000)
