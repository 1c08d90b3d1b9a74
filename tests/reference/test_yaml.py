"""Our reading of YAML against two other readers.

Sources: ruamel.yaml (a YAML 1.2 library) on every file that ships; Python's json module on JSON, which YAML 1.2
contains; and the table of plain scalars of the YAML 1.2.2 specification, section 10.3.2 (core schema), as far
as it concerns us: null, booleans, decimal integers and floats.
"""

import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from ruamel.yaml import YAML

from isotact.catalogue import SHIPPED, read_text
from isotact.demo import demo_files

FILES = [*sorted(SHIPPED.rglob("*.yaml")), *demo_files()]


@pytest.mark.parametrize("file", FILES, ids=lambda file: file.stem)
def test_every_shipped_file_reads_as_a_yaml_1_2_library_reads_it(file: Path):
    text = file.read_text(encoding="utf-8")
    assert read_text(text).data == YAML(typ="safe", pure=True).load(text)


@pytest.mark.parametrize(
    ("scalar", "value"),
    [("null", None), ("~", None), ("true", True), ("False", False), ("0", 0), ("-19", -19), ("12e03", 12000.0), ("-2E+05", -2e5), ("+12.3", 12.3)],
)  # fmt: skip
def test_plain_scalars_of_the_core_schema(scalar: str, value: object):
    assert read_text(f"[{scalar}]").data == [value]


_DATA = st.recursive(
    st.none()
    | st.booleans()
    | st.integers(-(10**17), 10**17)
    | st.text(st.characters(codec="ascii", min_codepoint=32), max_size=12),
    lambda inner: (
        st.lists(inner, max_size=4) | st.dictionaries(st.text("abc-", min_size=1, max_size=6), inner, max_size=4)
    ),
    max_leaves=12,
)


@given(st.dictionaries(st.sampled_from(["a", "b", "c"]), _DATA, min_size=1))
def test_json_text_reads_as_the_json_module_reads_it(data: object):
    assert read_text(json.dumps(data)).data == data
