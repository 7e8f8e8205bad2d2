"""Bytes of a text file to its text, in whatever encoding it was saved.

Where it is not Unicode, it is in that encoding in which most of its words have just the letters of one language.

>>> [decoded(word.encode(code))[0] for word, code in (("Květináč", "cp1250"), ("Fougère", "cp1252"))]
['Květináč', 'Fougère']
"""

import codecs
import re
from collections import Counter
from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass

from charset_normalizer import from_bytes

from yellow_abacus.files.fields import known_words
from yellow_abacus.files.headings import simplify
from yellow_abacus.files.rows import UnreadableFileError
from yellow_abacus.files.values import SIGNS

OTHER_ALPHABETS = ("cp1251", "cp1253", "cp932", "cp949", "gb18030", "big5")
"""Of Cyrillic, Greek, Japanese, Korean and Chinese letters."""
TOLD_BY_LETTERS = OTHER_ALPHABETS[:3]
"""Those that also a text without a known heading can be told to be in."""
OLDER = ("cp1252", "cp1250", "cp1254", "cp1257")
"""Of western and of central Europe, of Turkey and the Baltic; where nothing tells, the first that fits."""
LETTERS_LOOKED_AT, HEAD_LOOKED_AT = 1_000_000, 20_000
A_WORD = 3
"""So many letters; fewer may be what a sign left of one."""

_UTF_8 = re.compile(rb"[\xc3-\xdf][\x80-\xbf]|[\xe0-\xef][\x80-\xbf]{2}|[\xf0-\xf4][\x80-\xbf]{3}")
_HIGH = re.compile(rb"[\x80-\xff]")
_SQUARE_OR_CUBIC = re.compile(rb"m[\xb2\xb3](?![A-Za-z\x80-\xff])")
_LETTERS = re.compile(r"[^\W\d_]+")
_NOT_LATIN = re.compile(r"[^\W\d_A-Za-z]{2,}")
_TURKISH_I = str.maketrans("İ", "ı")
"""Made small by itself, the first is plain but for a mark behind it, and tells no language."""

_NOT_TEXT = {
    b"\x89PNG": "a PNG picture",
    b"\xff\xd8\xff": "a JPEG picture",
    b"GIF8": "a GIF picture",
    b"%PDF": "a PDF document",
    b"PK\x03\x04": "an archive file",
    b"\xd0\xcf\x11\xe0": "an old spreadsheet file",
    b"\x1f\x8b": "a compressed file",
    b"SQLite": "a database",
}
_SAVE_AS_CSV = "Save the table as CSV, XLSX or ODS and choose that file."
_BOMS = ((codecs.BOM_UTF8, "utf-8-sig"), (codecs.BOM_UTF16_LE, "utf-16"), (codecs.BOM_UTF16_BE, "utf-16"))


@dataclass(frozen=True)
class _Language:
    """encoding: what its files were saved in. letters: what it has beside plain ones, as a pattern. headings: plain
    words of headings that it has alone."""

    encoding: str
    letters: str
    headings: str = ""

    def words_in(self, marked: Mapping[str, int]) -> int:
        """How many of words that have more than plain letters could be its own."""
        return sum(many for word, many in marked.items() if re.sub(self.letters, "", word).isascii())

    def headings_in(self, words: Mapping[str, int]) -> int:
        return sum(words.get(word, 0) for word in self.headings.split())


WRITTEN = (
    _Language("cp1252", "[äöüß]"),  # German
    _Language("cp1252", "[àâçéèêëîïôùûü]|œ(?=[uid])"),  # French
    _Language("cp1252", "[áéíñóúü]"),  # Spanish
    _Language("cp1252", "[àèéìòù]"),  # Italian
    _Language("cp1252", "[áâàçéêíóôú]|ã(?=[oe])|õ(?=e)"),  # Portuguese
    _Language("cp1252", "[åäöé]"),  # Swedish
    _Language("cp1252", "[øåé]|æ(?![aeiouyæøå])"),  # Danish and Norwegian
    _Language("cp1250", "[ąćęłńóśźż]"),  # Polish
    _Language("cp1250", "[áčďéěíňóřšťúůýž]"),  # Czech
    _Language("cp1252", "[áéèëïíóöúü]"),  # Dutch
    _Language("cp1250", "[áéíóöőúüű]"),  # Hungarian
    _Language("cp1254", "[çğıöşüâî]", "fiyat adet tarih miktar"),  # Turkish
    _Language("cp1250", "[ăâîşţ]"),  # Romanian
    _Language("cp1252", "[äöåšž]"),  # Finnish
    _Language("cp1250", "[áäčďéíĺľňóôŕšťúýž]"),  # Slovak
    _Language("cp1250", "[čćđšž]"),  # Croatian, Serbian and Slovene
    _Language("cp1252", "[áðéíóúýþæö]"),  # Icelandic
    _Language("cp1257", "[ąčęėįšųūž]", "kaina kiekis kodas pavadinimas"),  # Lithuanian
    _Language("cp1257", "[āčēģīķļņšūž]", "pvn daudzums datums kods nosaukums statuss svars atlaide"),  # Latvian
    _Language("cp1257", "[äõöüšž]", "hind kogus kood nimetus staatus kaal allahindlus tellimuse"),  # Estonian
)
"""Languages; of several that fit as well, the first is taken."""


def decoded(data: bytes) -> tuple[str, str]:
    """The text, and the encoding it is in. Raises UnreadableFileError."""
    for magic, what in _NOT_TEXT.items():
        if data.startswith(magic):
            raise UnreadableFileError(f"This is {what}, not a table.", _SAVE_AS_CSV)
    for bom, encoding in _BOMS:
        if data.startswith(bom):
            try:
                return data.decode(encoding), encoding.removesuffix("-sig")
            except UnicodeDecodeError as error:
                raise _broken(data, error) from error
    if b"\x00" in data:
        raise UnreadableFileError("This is not a text file.", _SAVE_AS_CSV)
    try:
        return data.decode("utf-8"), "utf-8"
    except UnicodeDecodeError as error:
        sample = _sample(data, error.start)
        sound = _UTF_8.findall(sample)
        if len(sound) > len(_HIGH.findall(sample)) - sum(map(len, sound)):
            raise _broken(data, error) from error  # it was damaged, rather than saved in an older encoding
        for encoding in (*_of_another_alphabet(sample), *_of_latin_letters(sample)):
            with suppress(UnicodeDecodeError):
                return data.decode(encoding), encoding.replace("cp", "windows-")
        raise _broken(data, error) from error


def _sample(data: bytes, first: int) -> bytes:
    """Whole lines that tell the encoding: the first ones, and those from the first letter that needs it on."""
    if first < LETTERS_LOOKED_AT // 2:
        return _whole_lines(data[:LETTERS_LOOKED_AT])
    begins = data.rfind(b"\n", 0, first) + 1
    return _whole_lines(data[:HEAD_LOOKED_AT]) + _whole_lines(data[begins : begins + LETTERS_LOOKED_AT])


def _whole_lines(data: bytes) -> bytes:
    return data[: data.rfind(b"\n") + 1] or data


def _of_another_alphabet(sample: bytes) -> list[str]:
    """The encoding in which the text has words of an alphabet that is not Latin, if there is one: known ones of
    headings, or else any."""
    head = sample[:HEAD_LOOKED_AT]
    known = {encoding: _known_of_another(head.decode(encoding, errors="replace")) for encoding in OTHER_ALPHABETS}
    most = max(known, key=known.__getitem__)
    if known[most]:
        return [most]
    found = from_bytes(sample, cp_isolation=[*TOLD_BY_LETTERS, OLDER[0]]).best()
    if found is None or found.encoding not in TOLD_BY_LETTERS:
        return []
    words = [word for word in _LETTERS.findall(str(found)) if not word.isascii()]
    return [found.encoding] if 2 * sum(map(_is_written, words)) > len(words) else []


def _known_of_another(text: str) -> int:
    return sum(word.lower() in known_words() for word in _LETTERS.findall(text) if _NOT_LATIN.fullmatch(word))


def _is_written(word: str) -> bool:
    """Whether a word of another alphabet has no Latin letter in it, and capitals as people write them."""
    return bool(_NOT_LATIN.fullmatch(word)) and word in (word.lower(), word.upper(), word.capitalize())


def _of_latin_letters(sample: bytes) -> list[str]:
    """The older encodings, the likeliest first: by how many words one of its languages could have, and how many are
    those of known headings and currencies, with their very letters at best."""
    sample = _SQUARE_OR_CUBIC.sub(b"m", sample)

    def likely(encoding: str) -> tuple[int, int]:
        words = Counter(_LETTERS.findall(sample.decode(encoding, errors="replace").translate(_TURKISH_I).lower()))
        marked = {word: many for word, many in words.items() if len(word) >= A_WORD and not word.isascii()}
        fits = [(one.words_in(marked) + one.headings_in(words)) if one.encoding == encoding else 0 for one in WRITTEN]
        known = sum(many * _known(word) for word, many in words.items())
        return max(fits) + known, -fits.index(max(fits))

    return sorted(OLDER, key=likely, reverse=True)


def _known(word: str) -> int:
    """0: not at all, 1: but for its accents and the like, 2: to the letter."""
    if word in SIGNS:
        return 1
    return (simplify(word) in known_words()) + (word in known_words()) if len(word) >= A_WORD else 0


def _broken(data: bytes, error: UnicodeDecodeError) -> UnreadableFileError:
    row = data.count(b"\n", 0, error.start) + 1
    return UnreadableFileError(
        f"The text in row {row} is damaged: it holds letters in no encoding.",
        "Save the file again as “CSV UTF-8” from the program it came from.",
        row,
    )
