"""Where a person's own opacity lets too much shine through: texts move first, and where that will not do, it is said."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest

from mellow_finch.components.files import FolderFiles
from mellow_finch.look.dressed import dress
from mellow_finch.proof.cures import all_mended, opacity_cures
from mellow_finch.proof.proof import prove

KITTY = ".config/kitty/kitty.conf"
ONLY = frozenset({"kitty"})


def short(dressed):
    return [f for f in prove(dressed) if not f.passes]


def faint(folder, opacity):
    """Return a home whose terminal is see-through by its own configuration."""
    (folder / ".config/kitty").mkdir(parents=True)
    (folder / KITTY).write_text(f"background_opacity {opacity}\nbackground #1a1b26\nforeground #c0caf5\n")
    return FolderFiles(folder)


def said(dressed):
    """Return the opacity that the program reads: what stands last."""
    own = dressed.view(KITTY).decode().replace("include mellow-finch.conf", dressed.files["kitty"][0].data.decode())
    return float(re.findall(r"(?m)^background_opacity\s+([\d.]+)", own)[-1])


def test_what_a_person_made_see_through_stays_so_and_is_judged(look, tmp_path):
    dressed = dress(look, faint(tmp_path, 0.55), ONLY)
    assert said(dressed) == 0.55 and dressed.paints["kitty"]["terminal"].fill.a == pytest.approx(0.55, abs=0.01)
    assert short(dressed)


def test_colours_mend_where_they_can_and_the_opacity_stays(look, tmp_path):
    home = faint(tmp_path, 0.96)
    dressed = dress(look, home, ONLY)
    rows = prove(dressed)
    (cure,) = opacity_cures(dressed, rows)
    assert cure.by_colours and cure.titles == ["kitty"]
    mended = dress(all_mended(dressed, rows), home, ONLY)
    assert short(mended) == [] and said(mended) == pytest.approx(0.96)


@pytest.mark.parametrize("follows", [True, False])
def test_where_no_colour_helps_the_opacity_that_does_is_offered(look, tmp_path, follows):
    home = faint(tmp_path, 0.3)
    look = replace(look, mend_as_you_go=follows)
    dressed = dress(look, home, ONLY)
    rows = prove(dressed)
    assert short(dress(all_mended(dressed, rows), home, ONLY)), "it is not raised without being asked"
    (cure,) = opacity_cures(dressed, rows)
    assert not cure.by_colours and 0.3 < cure.alpha < 1
    cured = dress(cure.applied(look), home, ONLY)
    assert short(cured) == [] and said(cured) == pytest.approx(cure.alpha) and cured.look.mend_as_you_go is follows


def test_opaque_surfaces_have_none(look, tmp_path):
    dressed = dress(look, FolderFiles(tmp_path), frozenset({"kitty", "foot"}))
    assert short(dressed) == [] and opacity_cures(dressed, prove(dressed)) == ()
