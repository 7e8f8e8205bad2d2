"""How shoppers come by an offer: by itself, with a code they type, by a link, or with a code of their own."""

import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from yellow_abacus.core.ground.naming import all_folded, folded
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.ground.shape import CLOSED

SHORTEST_CODE, LONGEST_CODE = 3, 30
MARKS = "-._%&"
"""What a code may hold besides letters, digits and currency signs."""
MOST_CODES_OF_LIST = 5000
MEND = "Use 3 to 30 letters, digits, currency signs, or - . _ % &, with at least one letter or digit."


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
        return f"list:{folded(self.codes[0]) if self.codes else ''}" if self.by == "codes" else folded(self.code)

    def problems(self) -> Iterator[Problem]:
        """What cannot be a code at all; what the shop's own software cannot hold is for `code_rules` to tell."""
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
    def written(self) -> tuple[str, ...]:
        """Every code that opens the offer, as the merchant wrote it."""
        if self.by == "itself":
            return ()
        return self.codes if self.by == "codes" else (self.code,)

    @property
    def accepted(self) -> frozenset[str]:
        """Every code that opens the offer, case folded."""
        return all_folded(self.written)


def is_code(text: str) -> bool:
    """Letters of any script (with their accents), digits, currency signs and MARKS; at least one letter or digit."""
    kinds = [(unicodedata.category(ch), ch) for ch in unicodedata.normalize("NFC", text)]
    return (
        SHORTEST_CODE <= len(kinds) <= LONGEST_CODE
        and kinds[0][0][0] != "M"
        and any(kind[0] in "LN" for kind, _ in kinds)
        and all(kind[0] in "LMN" or kind == "Sc" or ch in MARKS for kind, ch in kinds)
    )
