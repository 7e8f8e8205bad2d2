"""How shoppers come by an offer: by itself, with a code they type, by a link, or with a code of their own."""

import re
import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from yellow_abacus.core.problem import Problem
from yellow_abacus.core.shape import CLOSED

SHORTEST_CODE, LONGEST_CODE = 4, 24
MOST_CODES_OF_LIST = 5000
MEND = "Use 4 to 24 letters and digits, with a dot or hyphen between them if you like."


@dataclass(frozen=True)
class Given:
    """By itself, to shoppers who hold `code` (typed, or carried by a link), or who hold one of `codes`, used once.

    Codes are compared without regard to case.
    """

    by: Literal["itself", "code", "link", "codes"] = "itself"
    code: str = ""
    codes: tuple[str, ...] = ()

    __pydantic_config__ = CLOSED

    @property
    def key(self) -> str | None:
        """What tells the code, or the list, from others; None for an offer given by itself."""
        if self.by == "itself":
            return None
        return (
            f"list:{self.codes[0].casefold() if self.codes else ''}" if self.by == "codes" else self.code.casefold()
        )

    def problems(self) -> Iterator[Problem]:
        """Codes are letters of any script and digits, a dot or hyphen between them, 4 to 24 long."""
        if self.by in ("code", "link") and not is_code(self.code):
            yield Problem(("code",), f"“{self.code}” cannot be a code." if self.code else "The code is empty.", MEND)
        if self.by != "codes":
            return
        if not self.codes:
            yield Problem(("codes",), "The list of codes is empty.", "Make some, or bring in a file of them.")
        elif len(self.codes) > MOST_CODES_OF_LIST:
            yield Problem(("codes",), f"There are {len(self.codes)} codes.", f"Keep {MOST_CODES_OF_LIST} at most.")
        else:
            unfit = next((code for code in self.codes if not is_code(code)), None)
            if unfit is not None:
                yield Problem(("codes",), f"“{unfit}” cannot be a code.", MEND)
            if len(self.accepted) < len(self.codes):
                yield Problem(("codes",), "A code is in the list twice.", "Keep each once.")

    @property
    def accepted(self) -> frozenset[str]:
        """Every code that opens the offer, case folded."""
        if self.by == "itself":
            return frozenset()
        return frozenset(code.casefold() for code in (self.codes if self.by == "codes" else (self.code,)))


def is_code(text: str) -> bool:
    """Letters of any script (with their marks) and digits, dot or hyphen between them."""
    return SHORTEST_CODE <= len(text) <= LONGEST_CODE and all(
        part and unicodedata.category(part[0])[0] != "M" and all(unicodedata.category(ch)[0] in "LMN" for ch in part)
        for part in re.split("[-.]", text)
    )
