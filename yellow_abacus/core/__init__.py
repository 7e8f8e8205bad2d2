"""The sums. Numpy only: nothing in here knows of files, screens, clocks or databases.

Reading order, from the ground up: `money`, `axes`, `goods`, `carts`, `scope`, `conditions`, `offers`,
`shop`, `together`, `pricing`, `costing`, `ledger`, `response`, `forecast`, `bridge`, `breakeven`, `answer`.
"""
