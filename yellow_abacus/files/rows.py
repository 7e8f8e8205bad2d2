"""What every kind of table is read into: numbered rows of text cells."""

from dataclasses import dataclass


class UnreadableFileError(Exception):
    """The file cannot be read at all. message: what is wrong. mend: what to do. row: where, if known."""

    def __init__(self, message: str, mend: str, row: int | None = None) -> None:
        super().__init__(f"{message} {mend}")
        self.message, self.mend, self.row = message, mend, row


@dataclass(frozen=True)
class Row:
    """number: as a spreadsheet would number it, the header being 1."""

    number: int
    cells: list[str]
