"""docs/modules.md tells every module as it is now."""

from tools.modules import PAGE, page


def test_the_page_is_what_the_modules_say():
    assert PAGE.read_text(encoding="utf-8") == page(), "make modules"
