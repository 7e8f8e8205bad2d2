import numpy as np

from yellow_abacus.core.pricing.trace import new_trace


def test_an_offer_without_a_turn_met_what_lines_cost_before_all():
    trace = new_trace(2, np.array([900, 500]))
    assert trace.met_by_line.tolist() == [[900, 500], [900, 500]]
    assert not trace.off_by_line.any()


def test_what_an_offer_took_in_several_goes_adds_up():
    trace = new_trace(2, np.array([900, 500, 300]))
    trace.met(1, np.array([800, 500, 300]))
    trace.took(1, np.array([0, 2]), np.array([80, 30]))
    trace.took(1, np.array([2]), np.array([5]))
    assert trace.met_by_line.tolist() == [[900, 500, 300], [800, 500, 300]]
    assert trace.off_by_line.tolist() == [[0, 0, 0], [80, 0, 35]]
