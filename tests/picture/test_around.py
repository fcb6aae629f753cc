"""Pictures to start from: the home's newest first, the folder its settings name, nothing hidden, never without end."""

from __future__ import annotations

import os

from mellow_finch.picture import around
from mellow_finch.picture.around import pictures_around


def picture(path, days, size=30_000):
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(b"x" * size)
    os.utime(path, (days * 86_400, days * 86_400))
    return path


def test_the_newest_of_the_home_come_first_and_others_after(tmp_path, monkeypatch):
    monkeypatch.setattr(around, "_SYSTEM", (str(tmp_path / "system"),))
    home = tmp_path / "home"
    old, new = picture(home / "Pictures/old.jpg", 10), picture(home / "Pictures/autumn/new.PNG", 30)
    system = picture(tmp_path / "system/marsh/dawn.webp", 90)
    picture(home / "Pictures/sign.png", 40, size=900)
    picture(home / "Pictures/.hidden.jpg", 40)
    picture(home / "Pictures/a/b/c/deep.jpg", 40)
    (home / "Pictures/notes.txt").write_text("x" * 30_000)
    assert pictures_around(home) == [new, old, system]
    assert pictures_around(home, most=1) == [new] and pictures_around(home, system=False) == [new, old]


def test_the_folder_that_the_settings_name_is_the_one(tmp_path, monkeypatch):
    monkeypatch.setattr(around, "_SYSTEM", ())
    one = picture(tmp_path / "Bilder/heide.jpg", 5)
    (tmp_path / ".config").mkdir()
    (tmp_path / ".config/user-dirs.dirs").write_text('XDG_PICTURES_DIR="$HOME/Bilder"\n')
    assert pictures_around(tmp_path) == [one]
    (tmp_path / ".config/user-dirs.dirs").write_bytes(b"\xff\xfe\x00")
    assert pictures_around(tmp_path) == []
    assert pictures_around(tmp_path / "nowhere") == []


def test_not_more_than_so_many_entries_are_looked_at(tmp_path, monkeypatch):
    monkeypatch.setattr(around, "_SYSTEM", ())
    monkeypatch.setattr(around, "_MOST_SEEN", 5)
    for i in range(12):
        picture(tmp_path / f"Pictures/{i}.jpg", i)
    assert len(pictures_around(tmp_path)) == 5
