"""The whole job by keyboard alone, in a real window, as a screen reader is told of it over the accessibility bus."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

import mellow_finch

SYSTEM_PYTHON = "/usr/bin/python3"
DRIVE = r"""
import sys, time
import gi
gi.require_version("Atspi", "2.0")
from gi.repository import Atspi, GLib

# The codes of the keys of the screen, as evdev has them.
KEYS = {"Tab": 23, "Left": 113, "Right": 114, "Down": 116, "space": 65, "2": 11, "3": 12, "4": 13, "5": 14}
CONTROL = 37
S = Atspi.StateType

def press(key, wait=0.06):
    Atspi.generate_keyboard_event(KEYS[key], None, Atspi.KeySynthType.PRESSRELEASE)
    time.sleep(wait)

def with_control(key):
    Atspi.generate_keyboard_event(CONTROL, None, Atspi.KeySynthType.PRESS)
    time.sleep(0.03)
    press(key)
    Atspi.generate_keyboard_event(CONTROL, None, Atspi.KeySynthType.RELEASE)
    time.sleep(0.1)

def children(node):
    for i in range(min(node.get_child_count(), 300)):
        child = node.get_child_at_index(i)
        if child is not None:
            yield child

def program():
    return next((a for a in children(Atspi.get_desktop(0)) if (a.get_name() or "") == "mellow-finch"), None)

def every(node=None):
    node = node or program()
    if node is None:
        return
    for child in children(node):
        if child.get_state_set().contains(S.SHOWING) or child.get_role_name() == "frame":
            yield child
            yield from every(child)

def until(what, seconds=25):
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        found = steadily(what)()
        if found:
            return found
        time.sleep(0.15)
    raise SystemExit(f"never came: {what.__name__}; focus: {told(focus())}; seen: {[told(n) for n in every() if n.get_role_name() == 'label'][:40]}")

def told(node):
    return node and f"{node.get_role_name()} “{node.get_name()}” {node.get_description() or ''}"

def steadily(ask):
    # Asks again where something went away meanwhile.
    def asked(*words):
        for _ in range(20):
            try:
                return ask(*words)
            except GLib.Error:
                time.sleep(0.1)
        return ask(*words)
    asked.__name__ = ask.__name__
    return asked

came = []

told_of = 0

def heard(event):
    global told_of
    told_of += bool(event.detail1)
    try:
        if event.detail1 and event.source.get_role_name() not in ("list item", "table cell", "frame"):
            came.append(event.source)
    except GLib.Error:
        pass  # it went away meanwhile

listener = Atspi.EventListener.new(heard)
listener.register("object:state-changed:focused")

def focus(known=None, seconds=0.25):
    # Returns what took the focus last, once more was told of it than was known, or nothing was for a while.
    end, known = time.monotonic() + seconds, told_of if known is None else known
    while time.monotonic() < end and told_of == known:
        GLib.MainContext.default().iteration(False)
        time.sleep(0.004)
    return came[-1] if came else None

def tab_to(start, most=120):
    seen = []
    focus()
    for _ in range(most):
        at = came[-1] if came else None
        if at is not None and (steadily(at.get_name)() or "").startswith(start) and focus() is at:
            return at
        seen.append(told(at))
        known = told_of
        press("Tab", 0)
        focus(known, 4)  # a busy window tells of it late: another Tab would go past
    raise SystemExit(f"Tab never comes to {start}: {seen[-40:]}")

def named(start, role="label"):
    return next((n for n in every() if n.get_role_name() == role and (n.get_name() or "").startswith(start)), None)

@steadily
def look_around(where):
    for node in every():
        states, role = node.get_state_set(), node.get_role_name()
        if not states.contains(S.FOCUSABLE) or role in ("frame", "list item", "table cell"):
            continue
        if not (node.get_name() or node.get_description() or "").strip() or role in ("filler", "unknown", "panel", "invalid"):
            parent = node.get_parent()
            if role in ("text", "password text") and parent is not None and parent.get_role_name() == "spin button":
                continue
            print("untold:", where, told(node), "in", told(parent))

# Windows alone are looked through while the window is made: the toolkit may follow what has just gone away in it.
def window(start): return next((n for n in children(program()) if (n.get_name() or "").startswith(start)), None) if program() else None
def opened(): return window("Mellow Finch")
def looked(): return window("Reedbed at dawn")
until(opened)
time.sleep(1)
look_around("empty")
tab_to("Image: reedbed at dawn")
press("space")
until(looked)
time.sleep(2)
def read(): return named("Suggestion: Balanced", "check box")
until(read)
look_around("gather")

with_control("2")
def tuning(): return named("Stage", "image")
until(tuning)
slider = tab_to("Lightness")
before, words = slider.get_current_value(), slider.get_description()
press("Right"); press("Right")
def moved(): return slider.get_current_value() == before + 2
until(moved)
assert slider.get_description() != words and "0." in slider.get_description(), told(slider)
print("slider:", told(slider))
look_around("tune")
stage = tab_to("Stage")
press("Right")
def pointed(): return " : 1" in (tuning().get_description() or "")
until(pointed)
print("stage:", told(tuning()))
ribbon = tab_to("Plumage")
role = ribbon.get_description()
press("Right")
def other(): return named("Plumage", "slider").get_description() not in ("", role)
until(other)
print("ribbon:", told(named("Plumage", "slider")))

with_control("3")
time.sleep(1.5)
look_around("dress")
tab_to("Components and themes")
press("Down")
with_control("4")
time.sleep(1.5)
look_around("proof")
tab_to("Pairs, worst first")
press("Down")

with_control("5")
tab_to("Apply this look")
look_around("wear")
press("space")
def worn(): return next((n for n in every() if n.get_role_name() == "label" and "files written" in (n.get_name() or "")), None)
until(worn)
print("worn:", until(worn).get_name())
tab_to("Restore the state before this look")
press("space")
def back(): return next((n for n in every() if n.get_role_name() == "label" and "every file is restored" in (n.get_name() or "").lower()), None)
until(back)
print("back:", until(back).get_name())
"""


@pytest.fixture(scope="module")
def spoken(tmp_path_factory):
    """Return what the driver says while it does the job."""
    for program in ("xvfb-run", "dbus-run-session", "openbox", SYSTEM_PYTHON):
        if shutil.which(program) is None:
            pytest.skip(f"NO {program}: the job by keyboard needs it")
    if subprocess.run(
        [SYSTEM_PYTHON, "-c", "import gi; gi.require_version('Atspi', '2.0')"], capture_output=True
    ).returncode:
        pytest.skip("NO ATSPI: install gir1.2-atspi-2.0 at-spi2-core")
    folder = tmp_path_factory.mktemp("spoken")
    (folder / "drive.py").write_text(DRIVE, encoding="utf-8")
    environment = {
        **{k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "LANGUAGE", "WAYLAND_DISPLAY")},
        "HOME": str(folder),
        "PYTHONPATH": str(Path(mellow_finch.__file__).parents[1]),
        "QT_LINUX_ACCESSIBILITY_ALWAYS_ON": "1",
        "QT_QPA_PLATFORM": "xcb",
        "LC_ALL": "C.UTF-8",
    }  # fmt: skip
    words = f"""
        openbox & WM=$!
        {sys.executable} -m mellow_finch.cli demo & IT=$!
        env -u PYTHONPATH timeout 100 {SYSTEM_PYTHON} drive.py; CODE=$?
        kill $IT $WM
        exit $CODE
    """
    return subprocess.run(
        ["xvfb-run", "-a", "-s", "-screen 0 1280x800x24", "dbus-run-session", "--", "bash", "-c", words],
        cwd=folder,
        env=environment,
        capture_output=True,
        text=True,
        timeout=150,
    )


def test_the_job_is_done_by_keyboard_from_picture_to_worn_and_back(spoken):
    assert spoken.returncode == 0, spoken.stdout + spoken.stderr[-3000:]
    assert "worn: ✓" in spoken.stdout and "back: ✓" in spoken.stdout


def test_every_control_is_told_with_a_name_and_a_role(spoken):
    untold = [line for line in spoken.stdout.splitlines() if line.startswith("untold:")]
    assert untold == [], "\n".join(untold)


def test_values_are_told_in_words(spoken):
    said = dict(line.split(": ", 1) for line in spoken.stdout.splitlines() if ": " in line)
    assert said["slider"].startswith("slider “Lightness” 0.")
    assert said["stage"].startswith("image “Stage") and " : 1, needs " in said["stage"]
    assert said["ribbon"].startswith("slider “Plumage") and "#" in said["ribbon"]
