"""How codes and names are compared: two ways of writing one and the same are one.

Unicode has several spellings of a letter with its accent, and letters at full or half width; capitals do not count
either. docs/sums.md, "Who, where, when".

>>> folded("É") == folded("e\u0301") == folded("É".lower())
True
"""

import unicodedata
from collections.abc import Iterable


def folded(text: str) -> str:
    """The text as it is compared: without outer spaces, Unicode NFKC, case folded."""
    return unicodedata.normalize("NFKC", unicodedata.normalize("NFKC", text).casefold()).strip()


def all_folded(texts: Iterable[str]) -> frozenset[str]:
    """Each as it is compared."""
    return frozenset(map(folded, texts))
