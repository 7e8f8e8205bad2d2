"""What codes the shop's own software can hold. A code beyond it can be planned with; that it will not fit is told.

>>> CodeRules(longest=8, letters="a_to_z", marks="-").beyond("SUMMER%2027")
'has 11 characters, where your shop takes 3 to 8; holds “%”, where your shop takes letters A to Z, digits and -'
>>> CodeRules().beyond("SUMMER%2027")
''
"""

import unicodedata
from dataclasses import dataclass
from typing import Literal

from yellow_abacus.core.clauses.given import LONGEST_CODE, SHORTEST_CODE

Letters = Literal["any", "a_to_z"]


@dataclass(frozen=True)
class CodeRules:
    """shortest, longest: characters. letters: of any script, or A to Z. marks: others it takes; None for any."""

    shortest: int = SHORTEST_CODE
    longest: int = LONGEST_CODE
    letters: Letters = "any"
    marks: str | None = None

    def beyond(self, code: str) -> str:
        """What about the code does not fit, in words; empty where it fits."""
        told, text = [], unicodedata.normalize("NFC", code)
        if not self.shortest <= len(text) <= self.longest:
            told.append(f"has {len(text)} characters, where your shop takes {self.shortest} to {self.longest}")
        unfit = "".join(dict.fromkeys(ch for ch in text if not self._takes(ch)))
        if unfit:
            letters = "letters" if self.letters == "any" else "letters A to Z"
            marks = " and any marks" if self.marks is None else f" and {' '.join(self.marks)}" if self.marks else ""
            joint = ", digits" if marks else " and digits"
            told.append(f"holds “{unfit}”, where your shop takes {letters}{joint}{marks}")
        return "; ".join(told)

    def _takes(self, ch: str) -> bool:
        if unicodedata.category(ch)[0] in "LMN":
            return self.letters == "any" or (ch.isascii() and ch.isalnum())
        return self.marks is None or ch in self.marks
