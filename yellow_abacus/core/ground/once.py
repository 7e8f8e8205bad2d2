"""Properties found once for each instance, without a lock.

Up to Python 3.11 `functools.cached_property` holds one lock for all instances while it finds: blocks of carts worked
on side by side would wait for each other, and quick work for ever for long work that holds still for it. Two threads
that miss the same one both find it.

>>> class Cart:
...     @cached_property
...     def worth(self) -> int:
...         print("found")
...         return 42
>>> cart = Cart()
>>> cart.worth, cart.worth
found
(42, 42)
"""

import functools
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from functools import cached_property as cached_property  # noqa: TID251
else:

    class cached_property(functools.cached_property):  # noqa: N801, TID251
        """As that of Python 3.12."""

        def __get__(self, instance, owner=None):
            if instance is None:
                return self
            found = self.func(instance)
            instance.__dict__[self.attrname] = found
            return found
