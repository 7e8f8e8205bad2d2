"""From a plan, and what of it may move, to better ones: what the command line and the web both call."""

from collections.abc import Iterator
from dataclasses import replace

from yellow_abacus.core.advice.better import At, Better, Search, depths_said
from yellow_abacus.core.forecast.plan import Plan
from yellow_abacus.core.ground.problem import Problem
from yellow_abacus.core.offers import Terms
from yellow_abacus.counting import Counted, CountingRoom, UnsoundPlanError, within_bounds
from yellow_abacus.files.better_json import MOST_VALUES, BetterBody, BetterDoc, TriedDoc, judged_doc
from yellow_abacus.files.plan_json import PlanDoc
from yellow_abacus.files.pointers import Figures


class _Grid:
    """All plans that can be made of one. plan: beside what runs already, its response following what it gives."""

    def __init__(self, at: Counted, plan: PlanDoc, body: BetterBody) -> None:
        """Raises NoFigureError and UnsoundPlanError."""
        self.at, self.body = at, body
        pointers = [pointer for move in body.moves for pointer in move.pointers]
        self._figures = Figures(plan, pointers)
        self._in_plan = {one.id: one.in_plan for one in plan.offers}
        self.values = [self._values(number) for number in range(len(body.moves))]
        self._check(plan)
        now = [values.index(self._now(number)) for number, values in enumerate(self.values)]
        self.first: At = (*now, *(int(self._in_plan[one]) for one in body.slides))
        self.sizes = (*map(len, self.values), *(2 for _ in body.slides))

    def _now(self, number: int) -> int:
        return self._figures[self.body.moves[number].pointers[0]] or 0

    def _values(self, number: int) -> list[int]:
        move = self.body.moves[number]
        if (move.most - move.least) // move.step >= MOST_VALUES:
            message = f"That is more than {MOST_VALUES} values."
            raise UnsoundPlanError([Problem(("moves", number, "step"), message, "Choose a larger step.")])
        return move.values(self._now(number))

    def _check(self, plan: PlanDoc) -> None:
        body = self.body
        if not body.moves and not body.slides:
            mend = "Tick a figure that may move, or an offer that may be slid out."
            raise UnsoundPlanError([Problem(("moves",), "Nothing may move.", mend)])
        gone = [number for number, one in enumerate(body.slides) if one not in self._in_plan]
        if gone:
            message = "The plan has no such offer."
            raise UnsoundPlanError([Problem(("slides", gone[0]), message, "Name an offer of the plan.")])

    def doc_at(self, point: At) -> PlanDoc | None:
        """The plan of a point, beside what runs already; None where it makes no sense."""
        moves = self.body.moves
        told = {
            pointer: values[at]
            for move, values, at in zip(moves, self.values, point, strict=False)
            for pointer in move.pointers
        }
        doc = self._figures.plan_with(told)
        if doc is None:
            return None
        slid = dict(zip(self.body.slides, point[len(moves) :], strict=True))
        offers = [
            one.model_copy(update={"in_plan": bool(slid[one.id])}) if one.id in slid else one for one in doc.offers
        ]
        doc = doc.model_copy(update={"offers": offers}).beside(self.at.running)
        loaded = self.at.loaded
        return None if doc.problems(loaded.shop, loaded.batch.goods) else doc

    def plan_at(self, point: At) -> Plan | None:
        doc = self.doc_at(point)
        return None if doc is None else doc.plan()


def better_plans(room: CountingRoom, body: BetterBody) -> Iterator[TriedDoc | BetterDoc]:
    """How far the search is, and last what it found. Raises UnsoundPlanError, NoFigureError and NothingToCountError
    before it begins."""
    at = room.current()
    doc = at.checked(body.plan)
    forecaster = at.expecting(doc)
    with within_bounds(doc):
        grid = _Grid(at, _following(doc, depths_said(forecaster, doc.plan())), body)
    search = Search(forecaster, doc.plan(), grid.plan_at, grid.sizes, grid.first, body.must.must(), body.best)
    return _lines(search, grid, doc)


def _lines(search: Search, grid: _Grid, doc: PlanDoc) -> Iterator[TriedDoc | BetterDoc]:
    with within_bounds(doc):
        for found in search.go():
            if isinstance(found, Better):
                yield _better_doc(found, grid, doc)
            else:
                best = None if found.best is None else round(found.best)
                yield TriedDoc(share=found.share, tried=found.tried, best=best)


def _better_doc(found: Better, grid: _Grid, doc: PlanDoc) -> BetterDoc:
    plans, digits = ((one, grid.doc_at(one.at)) for one in found.plans), grid.at.loaded.minor_digits
    return BetterDoc(
        base=judged_doc(found.base, doc, found.base, digits),
        plans=[judged_doc(one, plan, found.base, digits) for one, plan in plans if plan is not None],
        tried=found.tried,
    )


def _following(doc: PlanDoc, depths: tuple[int | None, ...]) -> PlanDoc:
    """The plan with response that follows what its offers give. depths: of those in force, in order."""
    told = dict(zip((one.id for one in doc.in_force), depths, strict=True))
    offers = [one.model_copy(update={"terms": _with_depth(one.terms, told.get(one.id))}) for one in doc.offers]
    return doc.model_copy(update={"offers": offers})


def _with_depth(terms: Terms, depth: int | None) -> Terms:
    return terms if depth is None else replace(terms, response=replace(terms.response, depth_bp=depth))
