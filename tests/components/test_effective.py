"""What the look says is what shows, in homes whose own files set every colour already."""

from __future__ import annotations

import pytest
from tools.rigs.homes import SHRILL, closer_home, coloured_home

from mellow_finch.colour.rgb import parse_hex
from mellow_finch.components.catalogue import COMPONENT_BY_ID, COMPONENTS
from mellow_finch.components.files import NoFiles, layered
from mellow_finch.components.judge import Behind
from mellow_finch.look.dressed import as_it_is, dress, every_component
from mellow_finch.proof.proof import findings, prove
from tests.every import every

LOUD = {parse_hex(text) for text in SHRILL}


@pytest.fixture(scope="module")
def homes(tmp_path_factory, looks):
    other = coloured_home(tmp_path_factory.mktemp("coloured"), looks[3])
    return {"coloured": other, "closer": closer_home(tmp_path_factory.mktemp("closer"))}


@pytest.fixture(scope="module")
def dressed(homes, looks):
    return {name: dress(looks[0], files, every_component(looks[0])) for name, files in homes.items()}


def shown(paints):
    """Return every colour that is drawn, opaque."""
    rows = (c for p in paints.values() for c in (p.text, p.edge, p.fill, *(c for layer in p.layers for c in layer)))
    return {c.opaque for c in rows if c is not None and c.a > 0}


@pytest.mark.long
@pytest.mark.some(1)
@pytest.mark.parametrize("home", ["coloured", "closer"])
@every("id_", [c.id for c in COMPONENTS])
def test_no_colour_of_before_shows_any_more(id_, home, homes, dressed, looks):
    before = shown(as_it_is(homes[home])[id_])
    fresh = dressed[home]
    if not fresh.files[id_]:
        pytest.skip("it only recolours what is there")
    paints = fresh.paints[id_]
    ours = shown(dress(looks[0], NoFiles(), frozenset({id_})).paints[id_]) | set(looks[0].colours.values())
    assert paints and not shown(paints) & LOUD
    if home == "coloured":
        assert not (shown(paints) & before) - ours, id_


@pytest.mark.parametrize("home", ["coloured", "closer"])
@every("id_", [c.id for c in COMPONENTS if c.colours is not None and not c.rewrites])
def test_what_is_read_back_is_what_was_meant_over_the_persons_own(id_, home, dressed, looks):
    component, paints = COMPONENT_BY_ID[id_], dressed[home].paints[id_]
    meant = component.colours(looks[0].scheme(), NoFiles())
    for key, paint in paints.items():
        part = component.by_key[key]
        if part.text_role and paint.text is not None:
            assert paint.text.opaque == meant[part.text_role], (key, part.text_role)
        if part.fill_role and paint.fill is not None and paint.fill.a > 0:
            assert meant[part.fill_role] in {c.opaque for layer in paint.layers for c in layer}, (key, part.fill_role)
    named = {p.key for p in component.parts if p.text or p.fill or p.at}
    assert named <= set(paints), named - set(paints)


@pytest.mark.parametrize("home", ["coloured", "closer"])
def test_all_of_it_can_be_read(home, dressed):
    short = [f for f in prove(dressed[home]) if not f.passes]
    assert not short, [(f.component, f.part.key, f.ratio) for f in short[:10]]


@pytest.mark.long
@pytest.mark.some(1)
@pytest.mark.parametrize("home", ["coloured", "closer"])
def test_what_lies_on_the_disk_is_read_as_what_was_dressed(home, homes, dressed, looks):
    """The home with the files in it, read as it is: the same colours, whichever file comes first in a folder."""
    fresh = dressed[home]
    on_disk = as_it_is(layered(homes[home], list(fresh.outputs)))
    chosen_by_the_desktop = {"xfwm", "metacity", "plank", "tilix", "wezterm", "gtksourceview", "ksyntax", "xfce-notify"}
    for id_ in fresh.files:
        if fresh.files[id_] and id_ not in chosen_by_the_desktop:
            assert on_disk[id_] == fresh.paints[id_], id_
    short = [f for f in findings(on_disk, Behind.of(fresh.look.scheme()), "dark") if not f.passes]
    assert not [f for f in short if f.component in fresh.files and f.component not in chosen_by_the_desktop]
