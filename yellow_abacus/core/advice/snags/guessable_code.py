"""A code that is short, or a word anybody would try."""

import re
from collections.abc import Iterator
from dataclasses import replace
from hashlib import blake2b

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Mend, Snag, say
from yellow_abacus.core.clauses.given import LONGEST_CODE
from yellow_abacus.core.ground.naming import folded

SHORT = 6
TRIED = frozenset(
    (
        "autumn", "black", "bye", "christmas", "code", "cyber", "deal", "discount", "easter", "free", "friday",
        "gift", "hello", "hi", "holiday", "july", "june", "march", "may", "off", "offer", "promo", "sale", "save",
        "shop", "spring", "start", "summer", "test", "thanks", "thankyou", "vip", "voucher", "welcome", "winter",
        "xmas",
    )
)  # fmt: skip
LETTERS = "CDFHJKMNPRTVWXY"


def find(scene: Scene) -> Iterator[Snag]:
    for at, offer in enumerate(scene.offers):
        given = offer.given
        if given.by not in ("code", "link") or offer.response.shown == "to_all" or not guessable(given.code):
            continue
        harder = f"{given.code}-{_tail(given.code)}"[:LONGEST_CODE]
        yield Snag(
            say(f"{given.code} is easily guessed: codes like it are tried by people who do not have them."),
            at,
            ("given", "code"),
            mend=Mend(say(f"Make it {harder}"), replace(offer, given=replace(given, code=harder))),
        )


def guessable(code: str) -> bool:
    """Whether it is short, or a common word with no more than digits behind it."""
    bare = re.sub(r"[^a-z0-9]", "", folded(code))
    words = re.findall(r"[a-z]+", bare)
    return len(bare) < SHORT or (bool(words) and all(word in TRIED for word in words))


def _tail(code: str) -> str:
    """Four letters that anybody would not guess; the same for the same code."""
    digest = blake2b(folded(code).encode(), digest_size=4).digest()
    return "".join(LETTERS[byte % len(LETTERS)] for byte in digest)
