"""The report: every pair with its numbers, whole and well-formed, whatever names come from outside."""

from __future__ import annotations

import re
import shutil
import subprocess
from dataclasses import replace

import pytest
from click.testing import CliRunner
from defusedxml import ElementTree

from mellow_finch.cli import app
from mellow_finch.colour.contrast import contrast_ratio
from mellow_finch.colour.rgb import parse_hex
from mellow_finch.components.files import NoFiles
from mellow_finch.look.carry import save_look
from mellow_finch.look.dressed import dress
from mellow_finch.proof.proof import prove
from mellow_finch.proof.report import Report, as_html

ONLY = frozenset({"gtk-3", "kitty", "waybar", "rofi"})


@pytest.fixture
def report(look):
    rows = prove(dress(look, NoFiles(), ONLY))
    return Report(look.name, "reedbed-at-dawn.jpg", rows, {look.tone: look.palettes[look.tone]})


def test_every_pair_stands_in_it_with_its_own_ratio(report):
    page = ElementTree.fromstring(as_html(report))
    tables = [t for t in page.iter("table") if "colour vision" not in t.findtext("caption")]
    rows = [row for t in tables for row in t.findall("tbody/tr")]
    assert len(rows) == len(report.findings) > 60
    for row in rows:
        text, surface = re.findall("#[0-9a-f]{6}", " ".join(row.itertext()))[:2]
        told = float(row.find("td[@class='n']").text.split()[0])
        assert told == pytest.approx(float(contrast_ratio(parse_hex(text).unit, parse_hex(surface).unit)), abs=0.006)
    assert "Every pair reaches its required contrast." in "".join(page.itertext())
    assert len(page.findall(".//tr/th[@scope='row']")) == 3


def test_what_falls_short_comes_first_and_is_said(report):
    bad = replace(report.findings[0], ratio=1.2)
    page = as_html(replace(report, findings=(bad, *report.findings[1:])))
    assert "1 pair is below its required contrast" in page and page.index("Insufficient contrast") < page.index(
        '<h2 class="page">Dark'
    )
    assert "1.20 (insufficient)" in page


def test_it_reaches_for_nothing_outside_and_takes_names_as_text(report):
    evil = "<script>alert(1)</script> & “reeds”"
    page = as_html(replace(report, name=evil, made_of=evil))
    tree = ElementTree.fromstring(page)
    assert not [
        e for e in tree.iter() if e.tag in ("script", "link", "img", "iframe") or {"src", "href"} & set(e.keys())
    ]
    assert "url(" not in page and "@import" not in page and evil in "".join(tree.itertext())
    assert tree.get("lang") == "en" and len(list(tree.iter("h1"))) == 1 and list(tree.iter("main"))
    assert all(t.find("caption") is not None and t.find(".//th[@scope]") is not None for t in tree.iter("table"))


@pytest.mark.long
def test_the_command_writes_html_and_pdf_of_looks_and_folders(look, home, tmp_path):
    save_look(look, tmp_path / "l.finchlook")

    def run(*words):
        return CliRunner().invoke(app, ["report", *map(str, words)])

    done = run(tmp_path / "l.finchlook", "--into", tmp_path / "r.html", "--home", home)
    assert done.exit_code == 0 and "pairs" in done.output, done.output
    assert look.name in (tmp_path / "r.html").read_text()
    done = run(home, "--into", tmp_path / "found.html", "--home", home)
    assert done.exit_code == 0 and "Insufficient contrast" in (tmp_path / "found.html").read_text()
    wrong = run(tmp_path / "l.finchlook", "--into", tmp_path / "r.txt", "--home", home)
    assert wrong.exit_code == 2 and "neither HTML nor PDF" in wrong.output


def test_the_pdf_says_the_same(report, qtbot, tmp_path):
    from mellow_finch.ui.kit.printing import pdf_of

    (tmp_path / "r.pdf").write_bytes(pdf_of(as_html(report)))
    assert (tmp_path / "r.pdf").read_bytes().startswith(b"%PDF")
    if shutil.which("pdftotext"):
        text = subprocess.run(["pdftotext", str(tmp_path / "r.pdf"), "-"], capture_output=True, text=True).stdout
        assert report.name in text and str(len(report.findings)) in text
