"""A regular file is read at once, any other row by row: both read alike, whatever is in the cells."""

import csv
import io
from unittest.mock import patch

from hypothesis import given, settings
from hypothesis import strategies as st

from yellow_abacus.files import tables
from yellow_abacus.files.rows import UnreadableFileError

cells = st.one_of(
    st.sampled_from(["", " ", "a", "12,50", '5" pot', "two\nlines", "é;ü", "'=1", "-", "a\tb", "x\r\ny", "  b "]),
    st.text(st.characters(codec="utf-8", exclude_characters="\0\r"), max_size=6),
)
ends = st.sampled_from(["\n", "\r\n"])
quoting = st.sampled_from([csv.QUOTE_MINIMAL, csv.QUOTE_ALL])


@st.composite
def files(draw: st.DrawFn) -> bytes:
    width = draw(st.integers(1, 4))
    rows = draw(
        st.lists(st.lists(cells, min_size=max(width - 1, 1), max_size=width + draw(st.integers(0, 1))), max_size=6)
    )
    out = io.StringIO(newline="")
    writer = csv.writer(
        out, delimiter=draw(st.sampled_from([",", ";", "\t"])), lineterminator=draw(ends), quoting=draw(quoting)
    )
    writer.writerow([f"h{at}" for at in range(width)])
    writer.writerows(rows)
    above = draw(st.sampled_from(["", "Report\n", "Report;;\r\n\nMarch,2026\n"]))
    return (above + out.getvalue() + draw(st.sampled_from(["", "\n", "  \n", '"']))).encode()


def read(data: bytes) -> object:
    try:
        table = tables.read_table(data)
    except UnreadableFileError as error:
        return str(error)
    return table.header, table.separator, [(row.number, row.cells) for row in table.rows]


@settings(max_examples=240)
@given(files())
def test_both_read_alike(data):
    found = read(data)
    with patch.object(tables, "_is_regular", lambda *_: False):
        assert found == read(data)


def test_a_plain_file_is_read_at_once():
    with patch.object(tables, "_rows", None):
        assert read(b'h,"k"\n1,"two, three"\n4,\n') == (["h", "k"], ",", [(2, ["1", "two, three"]), (3, ["4", ""])])
