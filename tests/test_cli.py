"""The command line: what it says and how it exits."""

from pathlib import Path

import pytest
from click.testing import CliRunner

from yellow_abacus.cli import main


@pytest.fixture
def run(tmp_path):
    def call(*words: str):
        return CliRunner().invoke(main, [*words, "--shop", str(tmp_path / "shop.sqlite")])

    return call


def file(tmp_path: Path, name: str, text: str | bytes) -> str:
    path = tmp_path / name
    path.write_bytes(text if isinstance(text, bytes) else text.encode())
    return str(path)


def test_a_bad_row_stops_the_import_and_the_good_ones_come_in_if_asked(run, tmp_path):
    goods = file(tmp_path, "goods.csv", "sku,price\nA,1.00\nB,-2\n")
    listed = tmp_path / "rejected.csv"
    refused = run("import", "goods", goods, "--rejected", str(listed))
    assert refused.exit_code == 1
    assert "row 3, List price: “-2” is below 0." in refused.output
    assert "3,List price" in listed.read_text()
    taken = run("import", "goods", goods, "--good-rows-only")
    assert (taken.exit_code, "1 new" in taken.output) == (0, True)
    assert "0 new, 0 changed, 1 as they were" in run("import", "goods", goods, "--good-rows-only").output


def test_a_sparse_200_megabyte_file_is_refused(run, tmp_path):
    path = tmp_path / "huge.csv"
    with path.open("wb") as out:
        out.truncate(200_000_000)
    result = run("import", "orders", str(path))
    assert result.exit_code == 1
    assert "200 MB; up to 100 MB" in result.output


@pytest.mark.parametrize(
    ("kind", "text", "says"),
    [
        ("goods", "colour\nred\n", "No column was found for: SKU"),
        ("goods", b"\x89PNG\r\n\x1a\n", "PNG picture"),
        ("shop", "{}", "settings"),
        ("plans", '{"plans": [{"name": "P"}]}', "first_day"),
        ("plans", "not json", "JSON"),
    ],
)
def test_what_cannot_come_in_exits_with_a_reason(run, tmp_path, kind, text, says):
    result = run("import", kind, file(tmp_path, "file", text))
    assert result.exit_code == 1
    assert says in result.output


def test_plans_come_in_all_or_none(run, tmp_path):
    sound = '{"name": "One", "first_day": "2027-03-01", "last_day": "2027-03-02"}'
    unsound = '{"name": "Two", "first_day": "2027-03-05", "last_day": "2027-03-02"}'
    result = run("import", "plans", file(tmp_path, "plans.json", f'{{"plans": [{sound}, {unsound}]}}'))
    assert result.exit_code == 1
    assert "ends before it starts" in result.output
    assert "Its plans: none" in run("forecast", "--plan", "One").output


def test_forecast_says_what_is_missing(run, tmp_path):
    assert "no shop file" in run("forecast", "--plan", "One").output
    run("import", "plans", file(tmp_path, "plans.json", '{"plans": []}'))
    assert "no plan “One”" in run("forecast", "--plan", "One").output


def test_a_file_that_is_no_shop_is_named(tmp_path):
    path = file(tmp_path, "photo.sqlite", b"nothing like a database" * 50)
    result = CliRunner().invoke(main, ["forecast", "--plan", "One", "--shop", path])
    assert result.exit_code == 1
    assert "not a shop file" in result.output
