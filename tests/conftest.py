"""What every test needs: folders of its own, a demo home, and Qt without a screen."""

from __future__ import annotations

import os
import shutil
import subprocess
from collections.abc import Iterator
from functools import wraps
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["XDG_CONFIG_HOME"] = "/nonexistent"  # before the catalogue is read: a person's own components stay out of it

import pytest
from hypothesis import HealthCheck, settings
from pytestqt.qtbot import QtBot

from mellow_finch.components.files import FolderFiles
from mellow_finch.demo.build import build_demo_home, demo_pictures
from mellow_finch.intake.bounded import busyness
from mellow_finch.look.gather import look_of_pictures
from mellow_finch.look.model import Look

settings.register_profile(
    "finch",
    deadline=None,
    max_examples=40,
    derandomize=True,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
)
settings.register_profile("exploring", settings.get_profile("finch"), max_examples=400, derandomize=False)
settings.load_profile("exploring" if os.environ.get("FINCH_LONG") == "1" else "finch")


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """Leave out what takes long, unless that is asked for; of tests that are marked so, only some cases stay quick."""
    cases: dict[str, list[pytest.Item]] = {}
    for item in items:
        if item.get_closest_marker("some"):
            cases.setdefault(item.nodeid.partition("[")[0], []).append(item)
    for rows in cases.values():
        rows.sort(key=lambda item: item.nodeid)
        marker = rows[0].get_closest_marker("some")
        wanted = int(marker.args[0]) if marker is not None else len(rows)
        kept = {round(i * (len(rows) - 1) / max(1, wanted - 1)) for i in range(wanted)}
        for i, item in enumerate(rows):
            if i not in kept:
                item.add_marker("long")
    if os.environ.get("FINCH_LONG") != "1":
        long = [item for item in items if item.get_closest_marker("long")]
        config.hook.pytest_deselected(items=long)
        items[:] = [item for item in items if not item.get_closest_marker("long")]


_LEAST_LIMIT_S = 5.0  # shorter ones are of tests that look how something waits


@pytest.fixture(autouse=True, scope="session")
def patient() -> Iterator[None]:
    """Let limits of tests grow with what else the computer does: they end what hangs, and measure nothing."""
    patch = pytest.MonkeyPatch()

    def grown(seconds: float) -> float:
        return seconds * 4 * busyness() if seconds >= _LEAST_LIMIT_S else seconds

    real_wait, real_communicate = subprocess.Popen.wait, subprocess.Popen.communicate

    def wait(self, timeout=None):
        return real_wait(self, timeout if timeout is None else grown(timeout))

    def communicate(self, input=None, timeout=None):
        return real_communicate(self, input, timeout if timeout is None else grown(timeout))

    patch.setattr(subprocess.Popen, "wait", wait)
    patch.setattr(subprocess.Popen, "communicate", communicate)
    for name in ("waitUntil", "waitSignal", "waitSignals"):
        real = getattr(QtBot, name)

        @wraps(real)
        def waited(self, *words, real=real, timeout=5000, **more):
            return real(self, *words, timeout=round(grown(timeout / 1000) * 1000), **more)

        patch.setattr(QtBot, name, waited)
    yield
    patch.undo()


@pytest.fixture(autouse=True, scope="session")
def own_screens(tmp_path_factory: pytest.TempPathFactory) -> Iterator[None]:
    """Let hidden screens be looked for from a number of this process on: two that look at once take the same one."""
    real = shutil.which("xvfb-run")
    path = os.environ["PATH"]
    if real is not None:
        worker = int(os.environ.get("PYTEST_XDIST_WORKER", "gw0").removeprefix("gw"))
        folder = tmp_path_factory.mktemp("screens")
        (folder / "xvfb-run").write_text(f'#!/bin/sh\nexec {real} -n {21_000 + 300 * worker} "$@"\n')
        (folder / "xvfb-run").chmod(0o755)
        os.environ["PATH"] = f"{folder}{os.pathsep}{path}"
    yield
    os.environ["PATH"] = path


@pytest.fixture(autouse=True)
def own_folders(
    tmp_path: Path, tmp_path_factory: pytest.TempPathFactory, monkeypatch: pytest.MonkeyPatch
) -> Iterator[None]:
    """Keep every test out of the person's own home and folders."""
    for name in ("DATA", "STATE", "CONFIG", "CACHE"):
        monkeypatch.setenv(f"XDG_{name}_HOME", str(tmp_path / "xdg" / name.lower()))
    monkeypatch.setenv("HOME", str(tmp_path_factory.mktemp("person")))
    yield


@pytest.fixture
def home(tmp_path: Path) -> Path:
    """Return a fresh demo home."""
    return build_demo_home(tmp_path / "demo" / "home")


@pytest.fixture
def files(home: Path) -> FolderFiles:
    """Return the demo home's files."""
    return FolderFiles(home)


@pytest.fixture(scope="session")
def pictures(tmp_path_factory: pytest.TempPathFactory) -> list[Path]:
    """Return the demo's pictures."""
    return demo_pictures(build_demo_home(tmp_path_factory.mktemp("pictures") / "demo" / "home"))


@pytest.fixture(scope="session")
def looks(pictures: list[Path]) -> list[Look]:
    """Return the likeliest dark look of every demo picture."""
    return [look_of_pictures([p], "dark") for p in pictures]


@pytest.fixture
def look(looks: list[Look]) -> Look:
    """Return one look."""
    return looks[0]
