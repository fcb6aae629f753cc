"""Languages: every text goes through a catalogue, every catalogue is whole, and no view is cut by longer words."""

from __future__ import annotations

import ast
import gzip
import importlib.util
import json
import os
import random
import re
import string
import subprocess
import sys
from datetime import UTC, datetime
from pathlib import Path

import pytest

from mellow_finch import language
from tests.every import every

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src/mellow_finch"
# What shows words to people, and takes them as an argument.
SINKS = frozenset(
    "label setText setToolTip setAccessibleName setAccessibleDescription setPlaceholderText setWindowTitle setStatusTip"  # noqa: SIM905
    " QPushButton QCheckBox QRadioButton QLabel QAction addItem addAction addTab addMenu addButton say emit drawText"
    " setTitle setSuffix ParseError WearError PictureError FinchError FileAccessError PortalError UnsafeArchiveError"
    " option ActionSpec Knob setInformativeText showText edit".split()
)
SAMPLES = (
    "ui/stage/",
    "ui/shots.py",
    "proof/toolkit/gallery",
    "demo/",
)  # what stands on the painted desktop is a sample
NAMES = {"Mellow Finch", "Aa", "Bearded reedling 27"}


def tool(name):
    spec = importlib.util.spec_from_file_location(name, ROOT / f"tools/{name}.py")
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


LANGUAGES, PACKAGE = tool("languages"), tool("package")
sys.modules.setdefault("languages", LANGUAGES)
GLOSSARY = tool("glossary")


def words_of(node):
    """Yield the literal words of an argument that are not looked up."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        yield node.value
    elif isinstance(node, ast.JoinedStr):
        for part in node.values:
            yield from words_of(part)
    elif isinstance(node, ast.BinOp):
        yield from words_of(node.left)
        yield from words_of(node.right)
    elif isinstance(node, ast.IfExp):
        yield from words_of(node.body)
        yield from words_of(node.orelse)


def reads_as_words(text):
    bare = re.sub(r"\{[^}]*\}", "", text)
    return text not in NAMES and re.search(r"[a-z]{2,} [a-z]{2,}|^[A-Z][a-z]{2,}[ .…:]?$|^[A-Z][a-z]+ [a-z]", bare)


@every("path", sorted(SOURCE.rglob("*.py")), lambda p: p.relative_to(SOURCE).as_posix())
def test_no_text_goes_around_the_catalogue(path):
    name = path.relative_to(SOURCE).as_posix()
    if name.startswith(SAMPLES):
        return
    found = []
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if not isinstance(node, ast.Call):
            continue
        called = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
        if called in SINKS:
            rows = [*node.args, *(k.value for k in node.keywords if k.arg in ("help", "hint", "title", "text"))]
            found += [(node.lineno, w) for arg in rows for w in words_of(arg) if reads_as_words(w)]
    assert found == []


@every("path", sorted(SOURCE.rglob("*.py")), lambda p: p.relative_to(SOURCE).as_posix())
def test_no_text_stands_inside_another(path):
    """Texts in the braces of a string are found by newer Pythons only, so that older ones lack their translations."""
    text = path.read_text(encoding="utf-8")
    for outer in ast.walk(ast.parse(text)) if "tr(" in text or "plural(" in text else ():
        for call in ast.walk(outer) if isinstance(outer, ast.JoinedStr) else ():
            if isinstance(call, ast.Call) and getattr(call.func, "id", "") in ("tr", "plural", "tr_in"):
                assert not (call.args and isinstance(call.args[0], ast.Constant)), ast.unparse(call)


def test_a_text_without_a_translation_is_english_and_stops_a_package_alone(monkeypatch, capsys):
    monkeypatch.setattr(PACKAGE.languages, "missing", lambda code: ["One more sentence."] if code == "de" else [])
    with pytest.raises(SystemExit, match=r"lack a translation: de 1\. .*--unfinished"):
        PACKAGE.main([])
    built = []
    monkeypatch.setattr(PACKAGE, "build", lambda folder: built.append(folder) or [])
    PACKAGE.main(["--unfinished", "here"])
    assert built == [Path("here")]
    assert language.tr("One more sentence.") == "One more sentence."


def fields(text):
    return sorted(f"{name}:{spec}!{how}" for _, name, spec, how in string.Formatter().parse(text) if name is not None)


def spelled_keys(code, shortcut):
    kept = LANGUAGES.read(code)
    return re.sub(r"Ctrl|Shift", lambda key: kept.get(key[0], "key").string, shortcut)


@pytest.mark.parametrize("name", LANGUAGES.LANGUAGES)
def test_translations_keep_the_places_that_are_filled_in(name):
    wrong = []
    for message in LANGUAGES.read(name):
        if not message.id or "click" in [place for place, _ in message.locations]:
            continue
        sources = message.id if isinstance(message.id, tuple) else (message.id,)
        given = message.string if isinstance(message.string, tuple) else (message.string,)
        for text in given if all(given) else ():
            if not any(set(fields(text)) == set(fields(source)) for source in sources) and not (
                isinstance(message.id, tuple) and set(fields(text)) <= set(fields(sources[-1]))
            ):
                wrong.append((message.id, text))
            source = sources[-1]
            if (text[:1] == "\n") != (source[:1] == "\n") or (text[-1:] == "\n") != (source[-1:] == "\n"):
                wrong.append((message.id, text))
            keys = [spelled_keys(name, found) for found in re.findall(r"\(Ctrl\+[A-Za-z+]+\)$", source)]
            if (
                (source[:1] == " " and text[:1] not in tuple(" ，،"))
                or (text[:1] == " " != source[:1])
                or (keys and not text.replace("（", "(").replace("）", ")").endswith(keys[0]))
            ):
                wrong.append((message.id, text))
    assert wrong == []


def speak(code, words, tmp_path, **more):
    """Return what a command answers in a language."""
    kept = {k: v for k, v in os.environ.items() if k not in ("LANGUAGE", "LC_ALL", "LANG", "LC_MESSAGES")}
    env = kept | {"LANGUAGE": code, "LANG": "C.UTF-8", "HOME": str(tmp_path), "PYTHONPATH": str(SOURCE.parent), **more}
    done = subprocess.run(
        [sys.executable, "-m", "mellow_finch.cli", *words], env=env, capture_output=True, text=True, cwd=tmp_path
    )
    return done.stdout + done.stderr


@pytest.fixture(scope="module", autouse=True)
def compiled():
    LANGUAGES.compiled()


@pytest.mark.some(2)
@pytest.mark.parametrize(
    ("code", "usage"), [("de", "Aufruf"), ("fr", "Utilisation"), ("es", "Uso"), ("zh_CN", "用法"), ("ar", "الاستخدام")]
)
def test_the_command_line_speaks_it(code, usage, tmp_path):
    told = speak(code, ["wear", "--help"], tmp_path)
    assert told.startswith(usage) and "Print stable JSON" not in told
    wrong = speak(code, ["derive", "no-such-file.png"], tmp_path)
    assert "Traceback" not in wrong and "Could not open" not in wrong


def test_french_never_breaks_before_its_punctuation():
    loose = re.compile(r" [;:!?»]|« ")
    rows = [m.string for m in LANGUAGES.read("fr") if m.id]
    texts = [text for row in rows for text in ([row] if isinstance(row, str) else row)]
    pages = [p.read_text("utf-8") for p in (ROOT / "src/mellow_finch/guide/fr").glob("*.md")]
    texts += [words for page in pages for words in re.split(r"`[^`]*`", page)]
    assert len(texts) > 2000 and [t for t in texts if loose.search(t)] == []


@pytest.mark.parametrize("code", LANGUAGES.LANGUAGES)
def test_manual_pages_are_in_it(code, tmp_path):
    env = {**os.environ, "LANGUAGE": code, "LANG": "C.UTF-8", "PYTHONPATH": str(SOURCE.parent)}
    env.pop("LC_ALL", None)
    words = [sys.executable, str(ROOT / "tools/manual.py"), str(tmp_path / "man1"), "pages"]
    done = subprocess.run(words, env=env, capture_output=True, text=True, cwd=tmp_path)
    assert done.returncode == 0, done.stderr[-2000:]
    told = done.stdout.splitlines()
    page = gzip.decompress((tmp_path / "man1/mellow-finch-undo.1.gz").read_bytes()).decode("utf-8")
    kept = LANGUAGES.read(code)
    assert len(told) > 30 and f".SH {kept['DESCRIPTION'].string}" in page
    assert kept["Continue without asking."].string in page and "Continue without asking" not in page


GUIDE = SOURCE / "guide"
KEYS = re.compile(r"(?:Ctrl\+|Shift\+)*(?:[A-Z]|F\d+)")


def named_in(page):
    """Return what a page names of the window, in the order of its letters."""
    bare = re.sub(r"\*\*.*?\*\*", "", re.sub(r"`[^`]*`", "", page), flags=re.S)
    found = {" ".join(words.split()) for words in re.findall(r"\*([^*]+)\*", bare)}
    return sorted(words for words in found if not KEYS.fullmatch(words))


def shape_of(page):
    """Return what a page is made of: headings, numbered steps, points, pictures, links and rows of tables."""
    marks = (r"^#+ ", r"^\d+\. ", r"^- ", r"!\[[^]]*\]\([^)]*\)", r"(?<!!)\[[^]]*\]\([^)]*\)", r"^\|", r"`[^`]+`")
    return [len(re.findall(mark, page, re.M)) for mark in marks]


@pytest.mark.long
@pytest.mark.parametrize("code", LANGUAGES.LANGUAGES)
def test_the_guide_names_what_the_window_says(code):
    """Each page in each language has the steps of the English one, and the words of the buttons that it speaks of."""
    kept, here = LANGUAGES.read(code), LANGUAGES.catalogue()
    plurals = {m.id[1].format(count=15): m.id for m in here if isinstance(m.id, tuple) and "{count}" in m.id[1][1:]
               and re.fullmatch(r"[^{]*\{count\}[^{]*", m.id[1])}  # fmt: skip
    for path in sorted(GUIDE.glob("*.md")):
        page, own = path.read_text("utf-8"), (GUIDE / code / path.name).read_text("utf-8")
        assert shape_of(own) == shape_of(page), path.name
        flat = "".join(own.split())
        for words in named_in(page):
            message = kept.get(plurals.get(words, words))
            assert message is not None, (path.name, words, "is nowhere in the window")
            given = (message.string,) if isinstance(message.string, str) else message.string
            said = ["".join(text.replace("{count}", "15").split()) for text in given]
            assert any(text in flat for text in said), (path.name, words, given)


def test_english_stays_english_though_another_is_named_behind_it(monkeypatch):
    for told, wanted in (("en_GB:de", []), ("de:en", ["de"]), ("pt_BR:fr:en:de", ["pt_BR", "fr"]), ("C", [])):
        monkeypatch.delenv("LC_ALL", raising=False)
        monkeypatch.setenv("LANGUAGE", told)
        assert language.wanted() == wanted
    monkeypatch.setenv("LC_ALL", "C.UTF-8")
    monkeypatch.setenv("LANGUAGE", "de")
    assert language.wanted() == []


def test_counts_dates_and_lists_in_english():
    assert language.plural("{count} file", "{count} files", 1) == "1 file"
    assert language.plural("{count} file of {name}", "{count} files of {name}", 3, name="x") == "3 files of x"
    assert language.listed(["a"]) == "a" and language.listed(["a", "b", "c"]) == "a, b and c"
    assert language.decimal(4.5, 2) == "4.50" and language.day("2026-11-28T10:00") == "28 Nov 2026"
    assert language.named("widget colour 3") == "widget colour 3" and language.tr("") == ""


def test_the_conventions_are_those_of_the_data():
    """What is kept beside the catalogues is what the tool makes of the CLDR data."""
    assert json.loads((SOURCE / "locale/cldr.json").read_text("utf-8")) == LANGUAGES.cldr()


ASK = """
import json, sys
from mellow_finch.language import *
rows = json.loads(sys.stdin.read())
print(json.dumps([[decimal(v, n) for v, n in rows["numbers"]], [percent(v) for v in rows["shares"]],
    [day(d) for d in rows["days"]], [moment(d) for d in rows["days"]], [listed(names) for names in rows["lists"]],
    [[gigabytes(v), megabytes(v), kilobytes(v)] for v in rows["sizes"]], right_to_left()]))
"""


@pytest.mark.parametrize("code", ["en", *LANGUAGES.LANGUAGES])
def test_numbers_dates_sizes_and_lists_are_spelled_as_the_library_spells_them(code, tmp_path):
    from babel import Locale, dates, lists, numbers, units

    locale, known = Locale.parse("en_GB" if code == "en" else code), {"locale": None, "numbering_system": "latn"}
    known["locale"] = locale
    draw = random.Random(35)
    rows = {
        "numbers": [(round(draw.uniform(-5e6, 5e6), 3), draw.randrange(4)) for _ in range(60)] + [(0, 2), (4.5, 2)],
        "shares": [0, 0.07, 0.333, 1, 2.5],
        "days": [f"{draw.randrange(1990, 2040)}-{m:02}-{draw.randrange(1, 29):02}T{draw.randrange(24):02}:05:09" for m in range(1, 13)],
        "lists": [["a"], ["a", "b"], ["a", "b", "c"], ["a", "b", "c", "d", "e"]],
        "sizes": [0, 1_000_000, 2_500_000, 999_000_000, 12_300_000_000],
    }  # fmt: skip
    env = {**os.environ, "LANGUAGE": code, "LANG": "C.UTF-8", "PYTHONPATH": str(SOURCE.parent)}
    env.pop("LC_ALL", None)
    done = subprocess.run([sys.executable, "-c", ASK], env=env, input=json.dumps(rows), capture_output=True, text=True)
    # The data has a mark of direction before Arabic signs, which this library's number formats leave out.
    said = json.loads(done.stdout.replace("\\u200e", "") or done.stderr)

    def number(value, places):
        found = numbers.format_decimal(value, f"#,##0.{'0' * places}".rstrip("."), decimal_quantization=True, **known)
        # Spanish groups from five digits on, which this library leaves out of its data.
        return found.replace(".", "") if code == "es" and 1000 <= abs(round(value, places)) < 10_000 else found

    def unit(size, name, places=0):
        made = units.format_unit(5, f"digital-{name}", "short", **known)
        return made.replace("5", number(size, places))

    when = [datetime.fromisoformat(d) for d in rows["days"]]
    assert said == [
        [number(*row) for row in rows["numbers"]],
        [numbers.format_percent(v, **known) for v in rows["shares"]],
        [dates.format_date(d, "medium", locale) for d in when],
        [
            locale.datetime_formats["medium"].format(
                dates.format_skeleton("Hm", d, tzinfo=UTC, locale=locale), dates.format_date(d, "medium", locale)
            )
            for d in when
        ],
        [lists.format_list(names, "standard", locale) for names in rows["lists"]],
        [[unit(v / 1e9, "gigabyte", 1), unit(v / 1e6, "megabyte"), unit(v / 1e3, "kilobyte")] for v in rows["sizes"]],
        code == "ar",
    ]


@pytest.mark.long
@pytest.mark.parametrize("code", ["en", *LANGUAGES.LANGUAGES])
def test_terms_are_those_of_the_glossary(code):
    """No entry says a term by a word that its row forbids, and punctuation is that of the script."""
    assert len(list(GLOSSARY.texts(code))) > 2000
    assert GLOSSARY.faults(code) == []


@pytest.mark.long
def test_the_page_of_terms_is_made_from_the_catalogues():
    assert GLOSSARY.TERMS.read_text("utf-8") == GLOSSARY.table()


@pytest.mark.parametrize(
    ("code", "source", "text"),
    [
        ("de", "5 programs need action", "5 brauchen Sie"), ("es", "Hue", "Tono"), ("ar", "The panel", "اللوحة"),
        ("zh_CN", "An image", "图片"), ("zh_CN", "Nothing here, and nothing there", "没有,也没有"), ("fr", "Undo", "le reprend"),
        ("ar", "Here, and there", "هنا, وهناك"), ("fr", "Colours:", "Couleurs : rouge !"),
    ],
)  # fmt: skip
def test_the_glossary_finds_what_it_forbids(code, source, text, monkeypatch):
    monkeypatch.setattr(GLOSSARY, "texts", lambda language: [(source, source, (text,))])
    assert GLOSSARY.faults(code)
    monkeypatch.setattr(GLOSSARY, "texts", lambda language: [(source, source, ("{names}",))])
    assert GLOSSARY.faults(code) == []


def stretched(text: str) -> str:
    """Return a text a third longer, its places and its marks kept: what a language with longer words looks like."""
    plain = re.sub(r"\{[^}]*\}|\s|%", "", text)
    accents = str.maketrans("aeiouAEIOU", "áéíóúÁÉÍÓÚ")
    parts = re.split(r"(\{[^}]*\}|\*\.[\w.]+|%\([^)]*\)s)", text)
    out = "".join(p if i % 2 else p.translate(accents) for i, p in enumerate(parts))
    more = "~" * max(1, round(len(plain) * 0.35))
    tail = out[len(out.rstrip()) :]
    return out.rstrip() + more + tail


def pseudo(folder: Path) -> Path:
    """Write a catalogue in which every text is a third longer, and return its folder."""
    from babel.messages.mofile import write_mo

    made = LANGUAGES.catalogue()
    made.locale = "de"
    for message in made:
        if message.id and "click" not in [place for place, _ in message.locations] and ";;" not in str(message.id):
            ids = message.id if isinstance(message.id, tuple) else (message.id,)
            texts = tuple(stretched(text) for text in ids)
            if message.context in ("between the names of a list", "between the facts of a line"):
                texts = ids
            message.string = texts if isinstance(message.id, tuple) else texts[0]
    place = folder / "de/LC_MESSAGES/mellow-finch.mo"
    place.parent.mkdir(parents=True)
    with place.open("wb") as stream:
        write_mo(stream, made)
    return folder


@pytest.mark.long
@pytest.mark.parametrize("code", ["pseudo", *LANGUAGES.LANGUAGES])
def test_no_view_is_cut_by_longer_words(code, tmp_path):
    """Every view of the window is laid out in a process of its own; what does not fit is told."""
    folder = pseudo(tmp_path / "locale") if code == "pseudo" else SOURCE / "locale"
    env = {**os.environ, "LANGUAGE": "de" if code == "pseudo" else code, "LANG": "C.UTF-8", "HOME": str(tmp_path)}
    env |= {"PYTHONPATH": f"{SOURCE.parent}{os.pathsep}{ROOT}", "QT_QPA_PLATFORM": "offscreen"}
    env |= {"FINCH_LOCALE": str(folder), "XDG_DATA_HOME": str(tmp_path / "data"), "XDG_CACHE_HOME": str(tmp_path / "c")}
    env.pop("LC_ALL", None)
    done = subprocess.run(
        [sys.executable, str(ROOT / "tools/rigs/laid_out.py")], env=env, capture_output=True, text=True, timeout=300
    )
    assert done.returncode == 0, done.stderr[-3000:]
    told = json.loads(done.stdout.splitlines()[-1])
    assert told["seen"] > 200 and told["right_to_left"] == (code == "ar")
    assert code != "pseudo" or told["untranslated"] == []
    assert told["cut"] == [], "\n".join(told["cut"])


def test_arabic_counts_in_its_own_forms():
    """A count of things has one word for one, another for two, and others for few and for many."""
    from babel.messages.pofile import read_po

    with (SOURCE / "locale/ar/LC_MESSAGES/mellow-finch.po").open("rb") as file:
        catalog = read_po(file, locale="ar")
    alike = [
        message.id[1]
        for message in catalog
        if isinstance(message.string, tuple) and "{count}" in message.id[1] and len(set(message.string)) < 4
    ]
    assert alike == []


def test_marks_of_direction_reach_the_screen_and_what_would_turn_it_round_does_not():
    from mellow_finch.errors import shown

    assert shown("\u200fkitty \u2066#123456\u2069 4\u202f%") == "\u200fkitty \u2066#123456\u2069 4\u202f%"
    assert shown("\u202ecod.exe") == "\\u202ecod.exe" and shown("\x1b[31m") == "\\x1b[31m"
    assert "\\u2066" in shown("\u2066open")  # what is opened has to be closed
