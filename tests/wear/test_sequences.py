"""A short run of a person and looks taking turns; `python -m tools.sequences` runs hundreds, on a home with every program."""

from __future__ import annotations

import os
import shutil
import tempfile
from pathlib import Path

import pytest
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, rule
from tools.rigs.homes import full_home
from tools.rigs.turns import Turns, odd_home, taken_back

# Components of each way of writing: whole files, regions, keys, TOML, JSON, files recoloured in place, files of several.
FEW = frozenset(
    (
        "kitty",
        "foot",
        "gtk-3",
        "alacritty",
        "prompt",
        "hyprland",
        "fzf",
        "listing",
        "widget",
        "dunst",
        "code",
        "kde",
        "vim",
    )
)


@pytest.fixture(scope="module")
def template(tmp_path_factory):
    return odd_home(full_home(tmp_path_factory.mktemp("template")))


def machine(template):
    """Return a machine that takes the steps in any order, and takes everything off at its end."""

    class Sequence(RuleBasedStateMachine):
        def __init__(self):
            super().__init__()
            self.folder = Path(tempfile.mkdtemp())
            self.turns = None

        @initialize(seed=st.integers(0, 10_000))
        def begin(self, seed):
            self.turns = Turns(self.folder / "own", template, seed, only=FEW)

        @rule(name=st.sampled_from(Turns.STEPS))
        def step(self, name):
            self.turns.step(name)

        def teardown(self):
            try:
                if self.turns is not None:
                    self.turns.end()
            finally:
                taken_back()
                shutil.rmtree(self.folder, ignore_errors=True)

    return Sequence


def test_no_line_of_a_persons_is_lost_unsaid_whatever_the_order(template, tmp_path, monkeypatch):
    monkeypatch.setitem(os.environ, "FINCH_SEQUENCES", str(tmp_path))
    tests = machine(template).TestCase
    tests.settings = settings(max_examples=1, stateful_step_count=8, deadline=None, derandomize=True)
    tests().runTest()


@pytest.mark.long
@pytest.mark.some(1)
@pytest.mark.parametrize("seed", [1, 15, 20, 24])
def test_orders_that_once_lost_a_line(template, tmp_path, monkeypatch, seed):
    monkeypatch.setitem(os.environ, "FINCH_SEQUENCES", str(tmp_path))
    turns = Turns(tmp_path / "own", template, seed, only=FEW)
    try:
        for name in ("script", "edit", "wear", "edit", "go_back", "wear", "edit", "wear", "follow", "undo", "wear"):
            turns.step(name)
        turns.end()
    finally:
        taken_back()
