"""Lists of single-use codes: read from CSV."""

from yellow_abacus.core.clauses.given import MEND, MOST_CODES_OF_LIST, is_code
from yellow_abacus.core.ground.naming import folded
from yellow_abacus.files.columns import match_columns
from yellow_abacus.files.fields import CODES
from yellow_abacus.files.tables import UnreadableFileError, read_table


def read_codes(data: bytes) -> list[str]:
    """The codes of a CSV file, from its column of codes or its only one, each once. Raises UnreadableFileError."""
    table = read_table(data)
    (column,) = match_columns(table.header, CODES).get("code", (None,))
    if column is None and len(table.header) > 1:
        raise UnreadableFileError("No column of codes was found.", "Give the column the heading Code.")
    column = column or 0
    found: dict[str, str] = {}
    for row in table.rows:
        code = row.cells[column].strip().upper() if column < len(row.cells) else ""
        if not is_code(code):
            what = f"Row {row.number}: “{code}” cannot be a code." if code else f"Row {row.number} has no code."
            raise UnreadableFileError(what, MEND, row.number)
        found.setdefault(folded(code), code)
    if len(found) > MOST_CODES_OF_LIST:
        raise UnreadableFileError(f"The file has {len(found)} codes.", f"Bring in {MOST_CODES_OF_LIST} at most.")
    return list(found.values())
