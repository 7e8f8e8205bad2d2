"""Two codes that are taken for each other."""

from collections.abc import Iterator
from itertools import combinations

from yellow_abacus.core.advice.scene import Scene
from yellow_abacus.core.advice.snag import Snag, say
from yellow_abacus.core.ground.naming import folded

TAKEN_FOR = str.maketrans("o0i1l5s2z8b", "00111552288")
"""Signs that look alike are told as one."""


def find(scene: Scene) -> Iterator[Snag]:
    coded = [(at, one.given.code) for at, one in enumerate(scene.offers) if one.given.by in ("code", "link")]
    for (_, first), (at, second) in combinations(coded, 2):
        if folded(first) != folded(second) and alike(first, second):
            yield Snag(say(f"{second} is easily taken for {first}."), at, ("given", "code"))


def alike(one: str, other: str) -> bool:
    """Whether they look the same, or differ by one sign: another, one more, or two that changed places."""
    a, b = folded(one).translate(TAKEN_FOR), folded(other).translate(TAKEN_FOR)
    if a == b:
        return True
    if len(a) == len(b):
        off = [at for at in range(len(a)) if a[at] != b[at]]
        swapped = len(off) == 2 and off[1] == off[0] + 1 and a[off[0]] == b[off[1]] and a[off[1]] == b[off[0]]
        return len(off) == 1 or swapped
    short, long = sorted((a, b), key=len)
    return len(long) == len(short) + 1 and any(long[:at] + long[at + 1 :] == short for at in range(len(long)))
