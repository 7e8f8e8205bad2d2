"""Texts in the encodings programs save, read as they were written."""

import random
import tomllib
from pathlib import Path

import pytest

from yellow_abacus.files.encodings import LETTERS_LOOKED_AT, decoded
from yellow_abacus.files.tables import read_table

LANGUAGES = tomllib.loads(Path(__file__).with_name("languages.toml").read_text("utf-8"))
FILES, MOST_WRONG = 400, 0.01


@pytest.mark.parametrize(
    ("text", "encoding"),
    [
        ("Číslo objednávky;Název\n1;Květináč\n", "cp1250"),
        ("SKU;Name\n1;Złota łyżka\n", "cp1250"),
        ("Numéro de commande;Désignation\n1;Crème brûlée à 3 m³\n", "cp1252"),
        ("SKU;Name\n1;Rødgrød med fløde, ¿qué?\n", "cp1252"),
        ("SKU;Cena\n1;12,50 Kč\n", "cp1250"),
        ("Kod;Nazwa\n1;Serwetki różowe\n", "cp1250"),  # two of its letters stand side by side as in UTF-8
        ("SKU;Unit\n1;cm³\n", "cp1252"),
        ("SKU;Price\n1;£12.50\n", "cp1252"),
        ("Sipariş no;Ürün adı\n1;Çiçek tohumu\n", "cp1254"),
        ("Номер заказа;Название\n1;Горшок\n", "cp1251"),
        ("Номер на поръчка;Име\n1;Саксия\n", "cp1251"),
        ("Αριθμός παραγγελίας;Όνομα\n1;Γλάστρα 5 L\n", "cp1253"),
        ("注文番号;商品名\n1;植木鉢 5号\n", "cp932"),
        ("SKU;Référence\n1;ÉTÉ\n", "cp1252"),
        ("SKU;Price\n1;12,50 €\n", "cp1252"),
    ],
)
def test_older_encodings_are_told_apart_by_what_they_say(text, encoding):
    table = read_table(text.encode(encoding))
    assert ";".join(table.header) == text.split("\n")[0]
    assert table.rows[0].cells == text.split("\n")[1].split(";")
    assert table.encoding == encoding.replace("cp", "windows-")


def made_up(dice: random.Random, headings: list[str], names: list[str]) -> str:
    """A small file of goods."""
    header = dice.sample(headings, dice.randint(2, 7))
    rows = [
        [dice.choice(names), *(f"{dice.randint(1, 99)},50" for _ in header[1:])] for _ in range(dice.randint(1, 8))
    ]
    return "".join(";".join(row) + "\n" for row in (header, *rows))


@pytest.mark.parametrize("language", LANGUAGES)
def test_small_files_of_many_languages_are_told_apart(language):
    told, dice = LANGUAGES[language], random.Random(7)
    texts = [made_up(dice, told["headings"], told["names"]) for _ in range(FILES)]
    wrong = [text for text in texts if decoded(text.encode(told["encoding"]))[0] != text]
    assert len(wrong) <= MOST_WRONG * FILES, wrong[:2]


def test_letters_far_down_tell_the_encoding():
    text = "Kod;Nazwa\n" + "A;Pot\n" * LETTERS_LOOKED_AT + "B;Paproć łososiowa\n"
    assert decoded(text.encode("cp1250")) == (text, "windows-1250")
