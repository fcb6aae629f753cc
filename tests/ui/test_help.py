"""The guide, “what is this”, the tour, the fault report, and one window for all."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest
from PyQt6.QtCore import QEvent, QPoint, Qt
from PyQt6.QtGui import QHelpEvent
from PyQt6.QtWidgets import QApplication, QFileDialog, QWhatsThis, QWidget

import mellow_finch
from mellow_finch.language import code
from mellow_finch.ui.help.guide import Guide
from mellow_finch.ui.help.pages import ORDER, pages, picture
from mellow_finch.ui.help.whats_this import words_of
from mellow_finch.ui.window.steps.rows import STEPS
from mellow_finch.ui.window.tour import STOPS

LANGUAGES = ("en", "ar", "de", "es", "fr", "zh_CN")


@pytest.mark.parametrize("language", LANGUAGES)
def test_every_page_is_there_and_leads_only_to_pages_and_pictures_that_are(language):
    folder = Path(mellow_finch.__file__).parent / "guide"
    own = pages(language)
    assert [page.name for page in own] == list(ORDER)
    english = {page.name: page for page in pages("en")}
    for page in own:
        assert page.title and page.text.startswith("# ")
        for target in re.findall(r"\]\(([^)]+)\)", page.text):
            own_folder = folder if language == "en" else folder / language
            there = target.startswith("pictures/") and (own_folder / target).is_file()
            assert not there or picture(Path(target).name, language) == own_folder / target
            assert there or target.removesuffix(".md") in ORDER, (language, page.name, target)
        if language != "en":
            assert page.text != english[page.name].text
            assert page.text.count("\n## ") == english[page.name].text.count("\n## "), page.name
            assert page.text.count("](") == english[page.name].text.count("]("), page.name


def test_f1_opens_the_page_of_the_step_in_sight(qtbot, opened, settle):
    for step in STEPS:
        opened.show_step(step.id)
        opened.actions_by_id["guide"].trigger()
        guide = opened.findChild(Guide)
        shown = guide.text.toPlainText()
        assert shown.startswith(next(page.title for page in pages() if page.name == step.id))
        assert guide.isVisible()
    guide._go(guide.text.source().fromLocalFile("shelf.md"))
    assert guide.text.toPlainText().startswith("The Shelf")
    guide.close()


def test_words_are_found_in_the_guide(qtbot, opened):
    opened.actions_by_id["guide"].trigger()
    guide = opened.findChild(Guide)
    qtbot.keyClicks(guide.field, "laptop")
    named = [guide.list.item(i).text() for i in range(guide.list.count()) if not guide.list.item(i).isHidden()]
    assert named == ["Recipes"]
    assert guide.text.textCursor().selectedText().lower() == "laptop"
    guide.field.setText("xyzzy plover")
    assert guide.none.isVisible()
    guide.close()


def test_everything_that_takes_the_focus_says_what_it_is(qtbot, opened, settle):
    silent = set()
    for step in STEPS:
        opened.show_step(step.id)
        settle(opened)
        for one in opened.findChildren(QWidget):
            takes = one.isVisible() and one.focusPolicy() & Qt.FocusPolicy.TabFocus == Qt.FocusPolicy.TabFocus
            if takes and not words_of(one):
                silent.add(f"{step.id}: {type(one).__name__} {getattr(one, 'text', str)()}")
    assert not silent


def test_what_is_this_answers_for_a_control_and_then_lets_go(qtbot, opened, monkeypatch):
    said = []
    monkeypatch.setattr(QWhatsThis, "showText", lambda _pos, words, _widget=None: said.append(words))
    opened.actions_by_id["whats_this"].trigger()
    assert QWhatsThis.inWhatsThisMode()
    button = opened.header.compare
    QApplication.sendEvent(button, QHelpEvent(QEvent.Type.WhatsThis, QPoint(3, 3), button.mapToGlobal(QPoint(3, 3))))
    assert said and "Hold to see the desktop before" in said[0]
    QWhatsThis.leaveWhatsThisMode()
    QApplication.sendEvent(button, QHelpEvent(QEvent.Type.WhatsThis, QPoint(3, 3), button.mapToGlobal(QPoint(3, 3))))
    assert len(said) == 1


@pytest.mark.long
def test_the_tour_goes_through_the_five_steps_and_comes_back(qtbot, window, settle, tmp_path):
    settle(window)
    own = tmp_path / "own home"
    own.mkdir()
    window.use_home(own)
    settle(window)
    window.picture.tour.click()
    settle(window)
    assert window.document.home != own and window.document.look is not None
    for at, (step, words) in enumerate(STOPS):
        assert window.tour.at == at and window.step == step
        assert window.tour.isVisible() and window.tour.words.text() == words
        if at < len(STOPS) - 1:
            window.tour.next.click()
            settle(window)
    window.tour.back.click()
    assert window.step == "proof"
    window.tour.stop.click()
    settle(window)
    assert window.document.home == own and not window.tour.isVisible()
    assert list(own.iterdir()) == []


def test_a_fault_report_is_saved_without_private_paths(qtbot, opened, monkeypatch, tmp_path):
    target = tmp_path / "report.txt"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    opened.actions_by_id["fault_report"].trigger()
    text = target.read_text(encoding="utf-8")
    assert "Mellow Finch" in text and "dressed: gtk-4" in text
    assert str(opened.document.home) not in text and str(Path.home()) not in text


ONE = """
import sys
from pathlib import Path
from PyQt6.QtCore import QTimer
from mellow_finch.ui import app as program
from mellow_finch.ui.window.window import Window

def watch():
    for window in program.QApplication.topLevelWidgets():
        if isinstance(window, Window):
            if window._complete and window.bench.document.home is not None and not ready:
                ready.append(1)
                print("ready", flush=True)
            if "tern" in window.windowTitle():
                print(f"title {window.windowTitle()}", flush=True)
                window.bench.document.saved = None
                program.QApplication.exit(0)

ready = []
timer = QTimer()
timer.timeout.connect(watch)
real = program.make_app
def made(words):
    out = real(words)
    timer.start(100)
    return out
program.make_app = made
sys.exit(program.run(Path(sys.argv[1]), alone=False))
"""


@pytest.mark.long
def test_a_second_start_hands_its_picture_to_the_window_that_is_there(tmp_path, home):
    if shutil.which("dbus-run-session") is None:
        pytest.skip("NO DBUS: install dbus-daemon to try one window for all")
    script = tmp_path / "one.py"
    script.write_text(ONE, encoding="utf-8")
    picture = tmp_path / "arctic-tern.jpg"
    shutil.copy(home / "Pictures" / "frost-on-sedge.jpg", picture)
    words = f"""
        {sys.executable} {script} {home} > one.txt & ONE=$!
        for i in $(seq 300); do grep -q ready one.txt && break; sleep 0.1; done
        sleep 0.3
        timeout 20 {sys.executable} -m mellow_finch.cli open {picture}; echo "second $?"
        for i in $(seq 300); do grep -q "title ." one.txt && break; sleep 0.1; done
        kill $ONE 2>/dev/null
        cat one.txt
    """
    environment = {
        **os.environ,
        "HOME": str(home),
        "PYTHONPATH": str(Path(mellow_finch.__file__).parents[1]),
        "QT_QPA_PLATFORM": "offscreen",
    }
    done = subprocess.run(
        ["dbus-run-session", "--", "bash", "-c", words],
        cwd=tmp_path,
        env=environment,
        capture_output=True,
        text=True,
        timeout=90,
    )
    assert "second 0" in done.stdout and "title Arctic tern" in done.stdout, done.stdout + done.stderr[-2000:]


def test_english_is_what_the_tests_read():
    assert code() == "en"
