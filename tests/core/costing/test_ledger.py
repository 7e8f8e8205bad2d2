from yellow_abacus.core.costing.ledger import INDEX, PLAN_ROWS, PROFIT, ROWS


def test_every_row_has_one_place_in_the_order_it_is_told():
    keys = [row.key for row in (*ROWS, *PLAN_ROWS)]
    assert [INDEX[key] for key in keys] == list(range(len(keys)))
    assert PROFIT.key not in INDEX


def test_no_two_rows_are_called_the_same():
    labels = [row.label for row in (*ROWS, *PLAN_ROWS, PROFIT)]
    assert len(set(labels)) == len(labels)
