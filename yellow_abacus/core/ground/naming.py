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


LONGEST_NAME = 80
LONGEST_TITLE = 200
"""Letters of what products are called."""


def unfit(text: str, longest: int = LONGEST_NAME) -> str:
    """Why the text cannot be a name of anything, in words; empty if it can.

    One line of at most `longest` letters, of characters that every screen and file can show.
    """
    if len(text) > longest:
        return f"is longer than {longest} letters"
    if not text.isprintable() and any(unicodedata.category(ch) in _NOT_SHOWN for ch in text):
        return "holds a character that cannot be shown"
    return ""


def shows(text: str) -> bool:
    """Whether a text of several lines holds nothing that some screen or file could not show."""
    return text.isprintable() or all(unicodedata.category(ch) not in ("Cc", "Cs") or ch in "\n\r\t" for ch in text)


_NOT_SHOWN = frozenset(["Cc", "Cs", "Zl", "Zp"])
"""Control characters, halves of characters, and ends of lines and paragraphs."""


def all_folded(texts: Iterable[str]) -> frozenset[str]:
    """Each as it is compared."""
    return frozenset(map(folded, texts))
