import pytest

from yellow_abacus.core.clauses.given import is_code
from yellow_abacus.core.shop.code_rules import CodeRules

STRICT = CodeRules(shortest=4, longest=8, letters="a_to_z", marks="-")


@pytest.mark.parametrize(
    "code", ["ABC", "SAVE_10", "10%", "B&B", "5€OFF", "£10", "ÉTÉ", "e\u0301te", "A" * 30, "-A-"]
)
def test_what_can_be_a_code(code):
    assert is_code(code)


@pytest.mark.parametrize("code", ["", "AB", "A" * 31, "A B", "A/B", "A+B", "---", "%%%", "\u0301AB", "A\nB"])
def test_what_cannot(code):
    assert not is_code(code)


@pytest.mark.parametrize(
    ("code", "says"),
    [
        ("LEAF-7", ""),
        ("LEA", "has 3 characters, where your shop takes 4 to 8"),
        ("LEAF_7", "holds “_”, where your shop takes letters A to Z, digits and -"),
        ("ÉTÉ%", "holds “É%”, where your shop takes letters A to Z, digits and -"),
    ],
)
def test_what_the_shop_cannot_hold_is_told(code, says):
    assert STRICT.beyond(code) == says
    assert CodeRules().beyond(code) == ""
