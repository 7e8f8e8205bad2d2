import numpy as np

from tests.core.offers.test_turn import BATCH, POTS, turn_on
from yellow_abacus.core.ground.money import Ints
from yellow_abacus.core.offers.kinds import WorksOnPicked
from yellow_abacus.core.offers.picked import Picked


class AllOfIt(WorksOnPicked):
    def off_by_line(self, picked: Picked) -> Ints:
        return picked.base

    def kept_base(self, picked: Picked) -> Ints | None:
        return picked.percentage_base


def test_a_kind_only_says_how_much_comes_off():
    taken = AllOfIt().take(turn_on(BATCH, POTS, times=4, units_by_cart=np.array([1, 9])))
    assert [BATCH.goods.skus[BATCH.sku_by_line[at]] for at in taken.at] == ["POT", "POT"]
    assert taken.off_by_line.tolist() == [1000, 1000]
    assert taken.picked_by_cart.tolist() == [1, 1]
    assert taken.times_by_cart.tolist() == [4, 4]
    assert taken.base_by_cart.tolist() == [1000, 1000]
    assert taken.used_by_line is None
