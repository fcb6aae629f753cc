"""Run the tests of real desktops in a Debian root, as an ordinary user of it, and write down what came of it.

    ./finch test desktops --root DIR [DESKTOP…]

Needs root. In the folder: a system with Python and APT, the file system of processes and the devices mounted. What the
desktops need is installed there; the tree is copied to /opt/finch, its libraries go to /opt/venv. Each desktop follows
two looks, goes back, and is killed at a dozen moments; a row for each stands in docs/desktops.md afterwards.
"""

from __future__ import annotations

import os
import re
import subprocess
import sys
import time
from collections.abc import Sequence
from datetime import date
from pathlib import Path

HERE = Path(__file__).resolve().parents[1]
PAGE = HERE / "docs" / "desktops.md"
USER = "finch"
START, END = "<!-- made by tools/rooted.py -->", "<!-- end of the runs -->"
HEAD = "| system | desktop | with | follows, comes back exactly | killed at 12 moments | tried |"
COMMON = (
    "xvfb xauth dbus-daemon dconf-cli dconf-gsettings-backend libglib2.0-bin x11-xserver-utils x11-utils python3-gi "
    "python3-venv gir1.2-gtk-3.0 fonts-dejavu-core adwaita-icon-theme libegl1 libgl1 libxcb-cursor0 libxcb-icccm4 "
    "libxcb-keysyms1 libxcb-shape0 libxkbcommon-x11-0 procps libfontconfig1 libdbus-1-3"
)
TESTS = {
    "goes_back": "test_a_real_desktop_follows_and_goes_back",
    "killed": "test_killed_again_and_again_on_a_real_desktop",
}
# What each desktop needs, and those of it whose versions are told.
DESKTOPS: dict[str, tuple[str, tuple[str, ...]]] = {
    "xfce": ("xfce4-settings xfwm4 xfdesktop4 xfconf", ("xfce4-settings", "xfwm4", "xfdesktop4")),
    "mate": ("mate-settings-daemon marco caja mate-themes", ("marco", "caja")),
    "openbox": ("openbox xsettingsd feh", ("openbox",)),
    "i3": ("i3-wm xsettingsd feh", ("i3-wm",)),
    "lxqt": ("lxqt-session lxqt-panel lxqt-themes lxqt-qtplugin pcmanfm-qt openbox", ("lxqt-session", "lxqt-panel")),
    "plasma": (
        "plasma-workspace plasma-desktop kwin-x11 kde-config-gtk-style breeze breeze-icon-theme xsettingsd",
        ("plasma-workspace", "kwin-x11"),
    ),
    "plasma-wayland": (
        "plasma-workspace plasma-desktop kwin-wayland kde-config-gtk-style breeze breeze-icon-theme xsettingsd "
        "sway grim",
        ("plasma-workspace", "kwin-wayland"),
    ),
    "cinnamon": ("cinnamon cinnamon-settings-daemon muffin tigervnc-standalone-server", ("cinnamon",)),
    "budgie": (
        "budgie-core gnome-settings-daemon tigervnc-standalone-server labwc grim python3-dbus python3-psutil",
        ("budgie-core",),
    ),
    "gnome": ("gnome-shell gnome-shell-extensions gnome-settings-daemon", ("gnome-shell",)),
    "sway": ("sway swaybg grim", ("sway",)),
    "labwc": ("labwc swaybg grim", ("labwc", "swaybg")),
    "wayfire": ("wayfire wf-shell grim", ("wayfire", "wf-shell")),
}


class Root:
    """A system in a folder."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def run(self, line: str, user: str = "root", **more: str) -> subprocess.CompletedProcess[str]:
        """Run a command line in it with an environment of its own, and return what it said."""
        home = "/root" if user == "root" else f"/home/{user}"
        kept = {n: os.environ[n] for n in ("PIP_INDEX_URL", "PIP_CERT", "SSL_CERT_FILE") if n in os.environ}
        plain = {"PATH": "/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin", "LANG": "C.UTF-8", **kept}
        words = ["chroot", f"--userspec={user}", str(self.folder), "bash", "-c", line]
        return subprocess.run(words, env={**plain, "HOME": home, **more}, capture_output=True, text=True)

    def install(self, names: str) -> bool:
        """Install packages; tell whether that went well."""
        line = f"apt-get install -y -qq --no-install-recommends -o Dpkg::Options::=--force-confold {names}"
        return self.run(line, DEBIAN_FRONTEND="noninteractive").returncode == 0

    def put_tree(self) -> None:
        """Copy the tree, and what it needs, as it is now."""
        listed = subprocess.run(["git", "ls-files", "-co", "--exclude-standard"], cwd=HERE, capture_output=True).stdout
        place = self.folder / "opt/finch"
        subprocess.run(["rm", "-rf", str(place)], check=True)
        place.mkdir(parents=True)
        packed = subprocess.run(["tar", "-cf", "-", "-T", "-"], cwd=HERE, input=listed, stdout=subprocess.PIPE).stdout
        subprocess.run(["tar", "-xf", "-", "--no-same-owner", "-C", str(place)], input=packed, check=True)
        for line in (
            f"id {USER} >/dev/null 2>&1 || useradd -m {USER}; install -d -m 700 -o {USER} /home/{USER}/run",
            "test -x /opt/venv/bin/python || python3 -m venv /opt/venv",
            "/opt/venv/bin/pip install -q --require-hashes -r /opt/finch/requirements-dev.lock",
            "cd /opt/finch && /opt/venv/bin/python tools/languages.py compile && chmod -R a+rX /opt/finch /opt/venv",
        ):
            done = self.run(line, PYTHONPATH="/opt/finch/src")
            if done.returncode:
                sys.exit(f"{line}\n{done.stderr[-2000:]}")

    def version(self, package: str) -> str:
        """Return a package's version as its makers call it."""
        told = self.run(f"dpkg-query -W -f '${{Version}}' {package}").stdout
        return re.sub(r"^\d+:|[-+~].*$", "", told)

    @property
    def name(self) -> str:
        """Return what the system is called."""
        told = self.run(". /etc/os-release; echo $NAME ${VERSION_CODENAME:-}").stdout
        return told.replace("GNU/Linux ", "").strip()


def asked(root: Root, desktop: str) -> str:
    """Let one desktop follow and go back, then be killed; return its row."""
    packages, told = DESKTOPS[desktop]
    with_ = ", ".join(f"{p} {root.version(p)}" for p in told) if root.install(packages) else ""
    results = []
    for which, test in TESTS.items():
        if not with_:
            results.append("not there")
            continue
        words = f"-q -p no:randomly -p no:cacheprovider --basetemp=/home/{USER}/{desktop}-{which}"
        words += f" 'tests/desktops/test_desktops.py::{test}[{desktop}]'"
        line = f"cd /opt/finch && /opt/venv/bin/python -m pytest {words}"
        began = time.monotonic()
        done = root.run(
            line, USER, FINCH_DESKTOPS="1", FINCH_KILL="all", PYTHONDONTWRITEBYTECODE="1",
            PYTHONPATH="/opt/finch:/opt/finch/src", XDG_RUNTIME_DIR=f"/home/{USER}/run",
        )  # fmt: skip
        said = done.stdout.splitlines()
        last = next((r for mark in ("E  ", "FAILED", "SKIPPED") for r in said if r.startswith(mark)), "")
        good = done.returncode == 0 and "s" not in done.stdout.split()[:1]
        results.append("yes" if good else "no")
        print(
            f"{root.name}, {desktop}, {which}: {results[-1]}, {time.monotonic() - began:.0f} s {last[:300]}", flush=True
        )
    return f"| {root.name} | {desktop} | {with_} | {results[0]} | {results[1]} | {date.today()} |"


def write_down(rows: Sequence[str]) -> None:
    """Put rows into the page, each in the place of the one of its system and desktop."""
    text = PAGE.read_text(encoding="utf-8")
    head, _, rest = text.partition(START)
    old, _, tail = rest.partition(END)

    def key(row: str) -> tuple[str, ...]:
        return tuple(cell.strip() for cell in row.split("|")[1:3])

    kept = {key(r): r for r in old.splitlines() if r.startswith("|") and not r.startswith(("| system", "| ---"))}
    kept |= {key(r): r for r in rows}
    table = "\n".join([HEAD, "| --- | --- | --- | --- | --- | --- |", *(kept[k] for k in sorted(kept))])
    PAGE.write_text(f"{head}{START}\n\n{table}\n\n{END}{tail}", encoding="utf-8")


def main() -> int:
    """Run what is asked for; return 0 where every desktop that is there did all."""
    if len(sys.argv) < 2 or sys.argv[1] in ("-h", "--help"):
        print(__doc__)
        return 0
    root, names = Root(Path(sys.argv[1])), sys.argv[2:] or list(DESKTOPS)
    unknown = sorted(set(names) - set(DESKTOPS))
    if unknown or os.getuid() != 0 or not (root.folder / "usr/bin/apt-get").exists():
        sys.exit(
            f"No such desktops: {', '.join(unknown)}" if unknown else "It needs root, and a Debian system in a folder."
        )
    root.run("apt-get update -qq")
    if not root.install(COMMON):
        sys.exit("What every desktop needs could not be installed.")
    root.put_tree()
    rows = [asked(root, name) for name in names]
    write_down(rows)
    return int(any("| no |" in row for row in rows))


if __name__ == "__main__":
    sys.exit(main())
