"""What orders a day owe to offers: counts of days on the week, a smooth season, named days and one step an offer.

Daily orders are counts that spread more than chance: a negative binomial whose dispersion is estimated with them, or
where that vanishes a Poisson whose variance is scaled. Errors of one week go together. An offer on few weeks leaves
few of them to judge that by, so each step is held at least as unsure as the model itself has it; and where another
kind of season would tell it otherwise, by half of that more. docs/sums.md, "What
history says".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date

import numpy as np

from yellow_abacus.core.clauses.when import WEEKDAYS
from yellow_abacus.core.forecast.volume import NamedDays
from yellow_abacus.core.ground.money import Bools, Floats, Ints
from yellow_abacus.learning.models import dispersion, poisson, smooth_course, spread_counts

WEEKS_A_BEND = 6
"""The season may bend once in so many weeks."""
MOST_BENDS = 26
FEWEST_DAYS = 28
FEWEST_MONTHS = 6
NO_DISPERSION = 1e-4


@dataclass(frozen=True, eq=False)
class Steps:
    """By how much each of some spells of days moves the orders of a day, in logs. told: whether it can be told from
    all else. at: likely. covariance: of those told, by their numbers among them. usual: orders a day without any of
    them, one entry a day of the history."""

    told: Bools
    at: Floats
    covariance: Floats
    usual: Floats

    def draws(self, dice: np.random.Generator, many: int) -> Floats:
        """One row a draw, one column a spell; nan where it is not told."""
        found = np.full((many, len(self.told)), np.nan)
        if self.told.any():
            found[:, self.told] = dice.multivariate_normal(self.at[self.told], self.covariance, many, method="eigh")
        return found


def steps_of(days: Ints, orders: Ints, spells: Sequence[Bools], named: Sequence[NamedDays] = ()) -> Steps | None:
    """None where the days are too few to tell anything. days: ordinals, one after another. spells: a truth a day."""
    if len(days) < FEWEST_DAYS or not orders.any():
        return None
    tried = [_columns(base, orders, spells) for base in _seasons(days, named)]
    fits = [poisson(orders, columns).fit() for _, columns, _ in tried]
    worth = [(-int(told.sum()), float(one.aic)) for (_, _, told), one in zip(tried, fits, strict=True)]
    found = [_steps(*one, orders, days // 7) for one in tried]
    best = worth.index(min(worth))
    return _unsure(found[best], [one for at, one in enumerate(found) if at != best])


def _steps(base: Floats, columns: Floats, told: Bools, orders: Ints, week: Ints) -> Steps:
    coefficients, covariance = _fitted(orders, columns, week)
    size = base.shape[1]
    at = np.zeros(len(told))
    at[told] = coefficients[size:]
    return Steps(told, at, covariance[size:, size:], np.exp(base @ coefficients[:size]))


def _unsure(best: Steps, others: Sequence[Steps]) -> Steps:
    """The steps, less sure of those that another season would tell otherwise."""
    numbers, covariance = np.flatnonzero(best.told), best.covariance.copy()
    for other in others:
        both = other.told[numbers]
        apart = np.where(both, best.at[numbers] - other.at[numbers], 0.0)
        covariance += np.diag((apart / 2) ** 2)
    return replace(best, covariance=covariance)


def _columns(base: Floats, orders: Ints, spells: Sequence[Bools]) -> tuple[Floats, Floats, Bools]:
    """What tells usual days apart, that and the spells that can be told from it and others, and which they are."""
    columns, told = base, []
    for spell in spells:
        wider = _wider(columns, spell) if orders[spell].any() else columns
        told.append(wider is not columns)
        columns = wider
    return base, columns, np.array(told, dtype=np.bool_)


def _wider(columns: Floats, inside: Bools) -> Floats:
    """With one more column, if it says anything the others do not."""
    wider = np.column_stack([columns, inside.astype(np.float64)])
    return wider if np.linalg.matrix_rank(wider) == wider.shape[1] else columns


def _seasons(days: Ints, named: Sequence[NamedDays]) -> Iterator[Floats]:
    """Columns that tell usual days apart: weekdays and named days with a smooth course of time, and, where there are
    months enough, with one level a month and a trend. What tells more spells is taken, then what fits better."""
    time = (days - days[0]) / max(len(days) - 1, 1)
    bends = int(np.clip(len(days) // 7 // WEEKS_A_BEND, 2, MOST_BENDS))
    yield _with_days(smooth_course(time, bends), days, named)
    month = np.array([date.fromordinal(int(day)).month for day in days])
    seen = [(month == one).astype(np.float64) for one in np.unique(month)]
    if len(seen) >= FEWEST_MONTHS:
        yield _with_days(np.column_stack([*seen, time]), days, named)


def _with_days(columns: Floats, days: Ints, named: Sequence[NamedDays]) -> Floats:
    """columns: with the level in them."""
    for weekday in range(1, WEEKDAYS):
        columns = _wider(columns, (days - 1) % WEEKDAYS == weekday)
    for one in named:
        columns = _wider(columns, (one.first_day.toordinal() <= days) & (days <= one.last_day.toordinal()))
    return columns


def _fitted(orders: Ints, columns: Floats, week: Ints) -> tuple[Floats, Floats]:
    """Coefficients, and their covariance."""
    model, clusters = poisson(orders, columns), {"groups": week}
    start = model.fit()
    overdispersed = max(start.pearson_chi2 / start.df_resid, 1.0)
    first = max(overdispersed - 1, 0.01) / max(orders.mean(), 1)
    spread = dispersion(orders, columns, np.append(start.params, first))
    if spread > NO_DISPERSION:
        model = spread_counts(orders, columns, spread)
        plain = model.fit()
    else:
        plain = model.fit(scale=overdispersed)
    robust = model.fit(cov_type="cluster", cov_kwds=clusters)
    return np.asarray(plain.params), _at_least(np.asarray(robust.cov_params()), np.asarray(plain.cov_params()))


def _at_least(robust: Floats, plain: Floats) -> Floats:
    """The robust covariance, each variance widened to the model's own where that is greater; correlations stay."""
    own, least = np.sqrt(np.maximum(np.diag(robust), 0)), np.sqrt(np.maximum(np.diag(plain), 0))
    if not own.all():
        return plain
    wider = np.maximum(own, least) / own
    result: Floats = robust * np.outer(wider, wider)
    return result
