"""What numbers nobody knows may be, weighed over a grid of them that closes in on where the weight lies, and drawn.

>>> mean, = draws_of(lambda at: -((at - 3.0) ** 2) / 2, [(-10.0, 10.0)], [31], np.random.default_rng(1), 4_000)
>>> round(float(mean.mean()), 1), round(float(mean.std()), 1)
(3.0, 1.0)
"""

from collections.abc import Callable, Sequence

import numpy as np

from yellow_abacus.core.ground.money import Floats, Ints

CLOSER, LEAST = 2, 1e-4
"""How often the grid closes in, and the share of the greatest weight that it leaves outside."""

Ends = tuple[float, float]


def draws_of(
    log_weight: Callable[..., Floats],
    ends: Sequence[Ends],
    sizes: Sequence[int],
    dice: np.random.Generator,
    draws: int,
) -> tuple[Floats, ...]:
    """Draws of each number, one entry a draw. log_weight: of arrays of one shape, one a number. ends: between which
    each may lie, the same twice where it is known. sizes: of the grid along each."""
    for closer in range(CLOSER + 1):
        axes = [np.linspace(*pair, 1 if pair[0] == pair[1] else size) for pair, size in zip(ends, sizes, strict=True)]
        told = log_weight(*np.meshgrid(*axes, indexing="ij"))
        weight = np.exp(told - told.max())
        if closer < CLOSER:
            ends = [_around(axis, weight, number) for number, axis in enumerate(axes)]
    drawn = np.unravel_index(dice.choice(weight.size, draws, p=(weight / weight.sum()).ravel()), weight.shape)
    return tuple(_between(axis, at, dice) for axis, at in zip(axes, drawn, strict=True))


def _around(axis: Floats, weight: Floats, number: int) -> Ends:
    """Of one axis, what holds nearly all the weight, and a step on either side."""
    others = tuple(one for one in range(weight.ndim) if one != number)
    kept = np.flatnonzero(weight.max(axis=others) >= LEAST)
    return float(axis[max(kept[0] - 1, 0)]), float(axis[min(kept[-1] + 1, len(axis) - 1)])


def _between(axis: Floats, at: Ints, dice: np.random.Generator) -> Floats:
    """Anywhere within half a step of the points drawn."""
    step = axis[1] - axis[0] if len(axis) > 1 else 0.0
    result: Floats = np.clip(axis[at] + step * (dice.random(len(at)) - 0.5), axis[0], axis[-1])
    return result
