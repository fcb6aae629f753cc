"""Contracts over every component there is, in an empty home and in one with a file of every kind."""

from __future__ import annotations

import configparser
import io
import json
import re
import tarfile
import tomllib
from dataclasses import replace
from pathlib import Path

import pytest
import tinycss2
from defusedxml import ElementTree
from hypothesis import Phase, given, settings
from hypothesis import strategies as st
from PIL import Image
from tools.rigs.homes import USUAL, whole_home

from mellow_finch.colour.contrast import ratio
from mellow_finch.colour.rgb import Rgba
from mellow_finch.components.catalogue import COMPONENT_BY_ID, COMPONENTS
from mellow_finch.components.decisions import Owner, Slot
from mellow_finch.components.define.definition import defined
from mellow_finch.components.define.kinds import KINDS
from mellow_finch.components.files import FolderFiles, NoFiles, OutFile, layered, text_of
from mellow_finch.components.judge import Behind, judge_parts
from mellow_finch.components.read.presence import presence_of, present_in
from mellow_finch.components.write.template import SPELLINGS, names_in
from mellow_finch.look.decision_edits import with_added, with_beside, with_choice, with_dressed, with_knob
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.edits import with_blur, with_opacity, with_role, with_tone
from mellow_finch.look.model import derived_look
from mellow_finch.palette.recipe import TONES, Recipe
from mellow_finch.palette.roles import ROLE_IDS
from mellow_finch.palette.temper import Temper
from mellow_finch.palette.veil import KINDS as VEILS
from mellow_finch.picture.backdrop import backdrop_of
from mellow_finch.picture.load import load_picture
from mellow_finch.recolour.groups import KEEP
from mellow_finch.syntax.region import BEGIN
from tests.every import every

IDS = [c.id for c in COMPONENTS]
OURS = [c.id for c in COMPONENTS if c.colours is not None]


@pytest.fixture(scope="module")
def whole(tmp_path_factory):
    return whole_home(tmp_path_factory.mktemp("whole"))


EACH = every("component", [COMPONENT_BY_ID[id_] for id_ in IDS], lambda component: component.id)


def worn(component, look, files):
    """Return what a component's files say once they are in the home, those it has to see included."""
    dressed = dress(look, files, frozenset({component.id, *component.after}))
    return dressed.files[component.id], dressed.paints[component.id]


def test_there_are_a_hundred_and_more_of_every_kind():
    assert len(COMPONENTS) >= 100 and len(set(IDS)) == len(IDS)
    assert {c.kind for c in COMPONENTS} == set(KINDS)


@EACH
def test_a_definition_is_whole(component, look):
    assert component.title and component.kind in KINDS and component.scene
    assert component.reads and not component.reads.endswith(".") and component.restart.endswith(".")
    assert component.effect in ("at once", "reload", "restart") and component.tried
    assert component.signs or component.programs or component.everywhere
    for part in component.parts:
        assert part.text_role or part.fill_role or part.edge_role
        if component.colours is None:
            assert {part.text_role, part.fill_role, part.edge_role} - {""} <= set(ROLE_IDS)


@EACH
def test_a_line_in_the_docs_says_what_it_was_tried_with(component):
    docs = (Path(__file__).parents[2] / "docs" / "formats.md").read_text(encoding="utf-8")
    line = next(line for line in docs.splitlines() if line.startswith(f"| {component.id} |"))
    assert component.title in line and component.tried in line


def test_no_two_components_write_the_same_file_unseen(look, whole):
    seen: dict[str, tuple[str, bytes]] = {}
    for id_, files in dress(look, whole, every_component(look)).files.items():
        for file in files:
            other, data = seen.setdefault(file.path, (id_, file.data))
            seen_by = other in COMPONENT_BY_ID[id_].after or id_ in COMPONENT_BY_ID[other].after
            assert other == id_ or seen_by or data == file.data, file.path


@pytest.mark.long
@pytest.mark.parametrize("home", ["empty", "whole"])
@EACH
def test_files_lie_in_the_home_and_are_the_same_each_time(component, look, whole, home):
    files = NoFiles() if home == "empty" else whole
    first, _ = worn(component, look, files)
    assert first == worn(component, look, files)[0]
    for file in first:
        path = Path(file.path)
        assert not path.is_absolute() and ".." not in path.parts and "{" not in file.path and "*" not in file.path
        assert b"\xe2\x80\xb9" not in file.data  # no place of a template was left unfilled
        assert not component.exported or file.path.startswith(".local/share/mellow-finch/")
    assert first or component.needs_file or home == "empty"


def surface(paint):
    return next((layer for layer in reversed(paint.layers) if any(c.a > 0 for c in layer)), ())


@pytest.mark.parametrize("tone", TONES)
@every("id_", OURS)
def test_what_is_read_back_is_what_was_meant(id_, look, tone):
    """From the text of the files alone, in a home that has none: every part has the colour of its role or shade."""
    component = COMPONENT_BY_ID[id_]
    look = with_tone(look, tone)
    files, paints = worn(component, look, NoFiles())
    if not files:
        pytest.skip("it only recolours what is there")
    meant = component.colours(look.scheme(), NoFiles())
    for key, paint in paints.items():
        part = component.by_key[key]
        if part.text_role and paint.text is not None:
            assert paint.text.opaque == meant[part.text_role], (key, part.text_role)
        if part.fill_role and surface(paint):
            assert meant[part.fill_role] in [c.opaque for c in surface(paint)], (key, part.fill_role)
        if part.edge_role and paint.edge is not None:
            assert paint.edge.opaque == meant[part.edge_role], (key, part.edge_role)
    named = [p.key for p in component.parts if p.text or p.fill or p.at]
    assert len(set(named) - set(paints)) <= (7 if component.rewrites else 0), sorted(set(named) - set(paints))


def scrambled(data: bytes) -> bytes:
    """Return a file with every spelling of a colour turned into another colour."""
    data = re.sub(
        rb"(?<![\w-])(#|0x|)([0-9a-fA-F]{8}|[0-9a-fA-F]{6})(?![\w-])",
        lambda m: m.group(1) + b"".join(b"%x" % (15 - int(chr(d), 16)) for d in m.group(2)),
        data,
    )
    data = re.sub(rb"(?<=[:=\s\[])(\d{1,3}), ?(\d{1,3}), ?(\d{1,3})(?![\d.])", b"9,8,7", data)
    data = re.sub(rb"rgba?\((\d+), ?(\d+), ?(\d+)", b"rgba(9, 8, 7", data)
    data = re.sub(rb"(?m)^ *\d+ +\d+ +\d+(?=\t)", b"  9   8   7", data)
    data = re.sub(rb"(?<=8;2;)\d+;\d+;\d+", b"9;8;7", data)
    return re.sub(rb"\d{1,3};;\d{1,3};;\d{1,3};;", b"9;;8;;7;;", data)


@EACH
def test_break_the_files_and_the_reading_shows_it(component, look, whole):
    """What is read is the text of the files, not the palette."""
    files, good = worn(component, look, whole)
    around = [f for a in component.after for f in dress(look, whole, frozenset({a})).files[a]]
    if component.id == "panel-strip":
        files = [OutFile(f.path, inverted(f.data) if f.path.endswith("png") else f.data) for f in files]
        bad = component.read(layered(whole, files))
    else:
        bad = component.read(layered(whole, [*around, *(OutFile(f.path, scrambled(f.data)) for f in files)]))
        if bad == good:  # the terminal's own colours, by their names
            bad = component.read(layered(whole, [*around, *(OutFile(f.path, misnamed(f.data)) for f in files)]))
    same = [k for k in good if k in bad and good[k][:3] == bad[k][:3]]
    assert good and len(same) < len(good) / 2, same


def misnamed(data: bytes) -> bytes:
    """Return a file with every name of a terminal's colour turned into that of another."""
    data = re.sub(rb"\b(?:red|green|yellow|blue|magenta|cyan|default|none)\b", b"white", data)
    data = re.sub(rb"(?<=;3)\d", b"7", data)
    data = re.sub(rb"\b(?:[\da-f]{2}){12}\b", b"07" * 12, data)
    return re.sub(rb"%[krgybmc](?=[$\"])", b"%w", data)


def inverted(data: bytes) -> bytes:
    with Image.open(io.BytesIO(data)) as image:
        out = io.BytesIO()
        image.point(lambda v: 255 - v).save(out, "PNG")
    return out.getvalue()


def short_of(look, files):
    scheme = look.scheme()
    dressed = dress(look, files, every_component(look))
    return [
        (id_, p.part.key, p.what, round(p.ratio, 2), p.need)
        for id_, paints in dressed.paints.items()
        for found in (paints, *dressed.further(id_).values())
        for p in judge_parts(COMPONENT_BY_ID[id_].parts, found, Behind.of(scheme))
        if not p.passes
    ]


@settings(max_examples=3, phases=[Phase.explicit, Phase.reuse, Phase.generate])
@given(
    accent=st.tuples(*[st.integers(0, 255)] * 3).map(lambda t: Rgba(*t)),
    hue=st.floats(0, 360),
    tone=st.sampled_from(TONES),
    need=st.sampled_from([4.5, 7.0]),
    opacity=st.dictionaries(st.sampled_from([k.id for k in VEILS]), st.floats(0, 1)),
    accented=st.floats(0, 1),
    blur=st.booleans(),
    source=st.integers(0, 4),
)
def test_every_pair_passes_for_any_look_in_every_home(
    pictures, tmp_path_factory, accent, hue, tone, need, opacity, accented, blur, source
):
    home = whole_home(tmp_path_factory.getbasetemp() / "any-whole")
    drop = backdrop_of(load_picture(pictures[source]))
    temper = Temper(panel=accented, header=accented, menu=accented / 2, border=1 - accented, text_need=need)
    look = derived_look("Any", Recipe(accent, hue, 0.02), tone, backdrop=drop, temper=temper)
    look = with_blur(look, blur)
    for kind, alpha in opacity.items():
        look = with_opacity(look, kind, alpha)
    assert short_of(look, NoFiles()) == [] and short_of(look, home) == []


@settings(max_examples=25)
@given(
    id_=st.sampled_from([i for i in OURS if COMPONENT_BY_ID[i].roles]),
    swaps=st.lists(st.tuples(st.integers(0, 99), st.sampled_from(ROLE_IDS)), min_size=1, max_size=3),
)
def test_other_roles_than_usual_are_taken_and_stay_readable(look, id_, swaps):
    """Whatever role a person gives a component's roles, its texts follow until they read."""
    component = COMPONENT_BY_ID[id_]
    asked = {component.roles[n % len(component.roles)]: role for n, role in swaps}
    for role, choice in asked.items():
        look = with_choice(look, Owner.component(id_), [Slot("roles", role)], choice)
    scheme = look.scheme()
    _, paints = worn(component, look, NoFiles())
    assert [p.part.key for p in judge_parts(component.parts, paints, Behind.of(scheme)) if not p.passes] == []


def test_this_panel_in_the_accent(look):
    component = COMPONENT_BY_ID["waybar"]
    asked = with_choice(look, Owner.component("waybar"), [Slot("roles", "panel")], "accent")
    _, paints = worn(component, asked, NoFiles())
    bar = paints["bar"]
    assert bar.fill == look.colours["accent"] and ratio(bar.text, bar.fill) >= 4.5
    assert worn(COMPONENT_BY_ID["tint2"], asked, NoFiles())[1]["bar"].fill == look.colours["panel"]


def test_a_hand_made_part_is_kept(look, whole):
    """The dock's fill stays what the person's own theme has; all else is dressed."""
    component = COMPONENT_BY_ID["plank"]
    before = component.read(whole)["dock"].fill.opaque
    _, paints = worn(component, with_choice(look, Owner.component("plank"), [Slot("roles", "panel")], KEEP), whole)
    assert (
        paints["dock"].fill.opaque == before and paints["dock badge"].edge != component.read(whole)["dock badge"].edge
    )


@EACH
def test_a_person_s_own_lines_stay(component, look, whole):
    """Of a file that was there, every line that says no colour is still in it, in its order."""
    files, _ = worn(component, look, whole)
    for file in files:
        old = whole(file.path)
        if old is None or b"\0" in old:
            continue
        lines = [line for line in old.decode().splitlines() if line.strip()]
        kept = [line for line in lines if not COLOURED.search(line) and not SET_ANEW.search(line)]
        fresh = iter(file.data.decode().splitlines())
        lost = [line for line in kept if line not in fresh]
        assert lost == [], (file.path, lost[:3])


COLOURED = re.compile(
    r"#[0-9a-fA-F]{3,8}\b|rgba?\(|\b[0-9a-fA-F]{6}\b|0x|;;|\d+,\s*\d+,\s*\d+|white|black|Green|magenta|rgb:", re.I
)
SET_ANEW = re.compile(
    r"custom_palette|stylesheets|gtk-theme-name|prefer-dark|<name>|ColorScheme=|^Name=|AccentColor|theme ?=|usefontcolor",
    re.I,
)


@pytest.mark.long
def test_regions_are_written_anew_and_stay_one(look, whole):
    once = dress(look, whole, every_component(look))
    again = dress(with_role(look, "accent", Rgba(30, 120, 90)), once.view, every_component(look))
    for id_, files in again.files.items():
        for file in files:
            marks = [line for line in file.data.splitlines() if BEGIN.encode() in line]
            assert len(marks) == len(set(marks)), (id_, file.path)


def test_borders_look_like_header_bars(look, whole):
    """The same colours, focused and idle, whoever draws the frame."""
    for tone in TONES:
        toned = with_tone(look, tone)
        dressed = dress(toned, whole, every_component(toned))
        bars = dressed.paints["gtk-3"]
        for id_ in ("openbox", "xfwm", "metacity", "i3", "sway", "hyprland", "kde"):
            paints, name = dressed.paints[id_], "window border" if id_ == "kde" else "border"
            for state in ("", ":idle"):
                frame, bar = paints[f"{name}{state}"], bars[f"header bar{state}"]
                assert (frame.fill, frame.text) == (bar.fill, bar.text), (id_, tone, state)


def test_names_that_formats_take_amiss(look, whole):
    """Every file that a library can parse is parsed by one."""
    look = replace(look, name='Reed "dawn" <1>\n</name> ‹x› \\ ; # é')
    parsed, all_ = [], 0
    for files in dress(look, whole, every_component(look)).files.values():
        for file in files:
            all_ += 1
            parse = parser_of(file.path, file.data)
            if parse is not None:
                parse(file.data.decode("utf-8", "surrogateescape"))
                parsed.append(file.path)
    assert len(parsed) > all_ * 0.3, (len(parsed), all_)


def stylesheet(text):
    rows = tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True)
    assert [row.message for row in rows if row.type == "error"] == []


def sections(text):
    parser = configparser.RawConfigParser(
        strict=False, allow_no_value=True, comment_prefixes=("#", ";", "//"), delimiters=("=", ":")
    )
    parser.optionxform = str
    parser.read_string(text)
    assert parser.sections()


def parser_of(path, data):
    """Return what parses a file, by its name and beginning; None where no library here does."""
    head, name = data[:200].lstrip(), path.rpartition("/")[2]
    if data[:4] in (b"\x89PNG", b"PK\3\4") or b"\0" in data:
        return None
    if head.startswith(b"<"):
        return lambda text: ElementTree.fromstring(text.encode("utf-8", "replace"))
    if name.endswith((".json", ".theme", ".sublime-color-scheme")) and head.startswith(b"{"):
        return json.loads
    if name.endswith(".toml"):
        return tomllib.loads
    if name.endswith((".css", ".qss")) and b"$" not in data:
        return stylesheet
    if name.endswith((".yml", ".yaml", ".lua", ".conf", ".fish", ".zsh", ".bash", ".sh", ".vim", ".el", ".py", ".kak")):
        return (lambda text: compile(text, path, "exec")) if name.endswith(".py") else None
    return sections if re.match(rb"\[[\w :+.-]+\]\s", head) else None


def test_presence_is_told_by_files_and_programs(whole, tmp_path):
    (tmp_path / "bare").mkdir()
    bare = FolderFiles(tmp_path / "bare")
    assert present_in(bare) == {"gtk-4", "gtk-3", "kde", "terminal"}
    only = "kitty".__eq__
    kitty = presence_of(COMPONENT_BY_ID["kitty"], bare, has=only)
    assert not kitty.here and kitty.installed and "“kitty” is installed" in kitty.why
    assert presence_of(COMPONENT_BY_ID["kitty"], bare, runs=only)[:2] == (True, "“kitty” is running")
    assert presence_of(COMPONENT_BY_ID["kitty"], bare, has=only, worn=True).here
    assert presence_of(COMPONENT_BY_ID["gtk-2"], bare, has="pluma".__eq__).here  # whatever starts needs its toolkit
    assert "~/.config/rofi/config.rasi" in presence_of(COMPONENT_BY_ID["rofi"], whole).why
    absent = presence_of(COMPONENT_BY_ID["rofi"], bare)
    assert not absent.here and "rofi" in absent.why
    assert {"waybar", "dunst", "i3", "openbox", "browser-pages", "widget-drawing", "swaylock"} <= present_in(whole)


def test_what_a_home_has_is_dressed_and_more_can_be_added(look, whole):
    assert "wezterm" not in dress(look, whole).files and "rofi" in dress(look, whole).files
    more = with_dressed(with_dressed(look, "wezterm", True, False), "rofi", False, True)
    dressed = dress(more, whole)
    assert "wezterm" in dressed.files and "rofi" not in dressed.files
    back = with_dressed(with_dressed(more, "wezterm", False, False), "rofi", True, True)
    assert (back.added, back.left_out) == (look.added, look.left_out)


def test_no_file_is_new_in_the_top_of_a_home_unless_it_was_asked_for(look, tmp_path):
    """Files that are there, and those in folders, are written; others wait until the look adds their component."""
    (tmp_path / ".muttrc").write_text("set beep\n")
    (tmp_path / ".config/tmux").mkdir(parents=True)
    (tmp_path / ".config/tmux/tmux.conf").write_text("set -g mouse on\n")
    home = FolderFiles(tmp_path)
    wanted = frozenset(COMPONENT_BY_ID)
    dressed = dress(look, home, present=wanted)
    new = {o.path for o in dressed.outputs if not (tmp_path / o.path).exists()}
    assert new and not [path for path in new if "/" not in path]
    assert {".Xresources", ".gitconfig", ".emacs"} <= {p for paths in dressed.held.values() for p in paths}
    assert ".config/tmux/tmux.conf" in {o.path for o in dressed.outputs}
    asked = dress(with_added(look, {"emacs"}), home, present=wanted)
    assert ".emacs" in {o.path for o in asked.outputs} and "emacs" not in asked.held
    assert (
        "emacs"
        not in dress(with_dressed(with_added(look, {"emacs"}), "emacs", False, True), home, present=wanted).files
    )
    assert ".emacs" in {o.path for o in dress(look, home, wanted).outputs}  # a folder of its own is written whole


def test_a_component_in_view_costs_only_itself(look, whole, monkeypatch):
    """Files are made when they are asked for: the stage asks for what it shows."""
    made: list[str] = []
    watched = {id_: replace_write(COMPONENT_BY_ID[id_], made) for id_ in ("kitty", "rofi")}
    monkeypatch.setattr("mellow_finch.look.dressed.COMPONENT_BY_ID", {**COMPONENT_BY_ID, **watched})
    dressed = dress(look, whole)
    assert dressed.paints["kitty"] and made == ["kitty"]


def replace_write(component, made):
    def write(scheme, files):
        made.append(component.id)
        return component.write(scheme, files)

    return replace(component, write=write)


def test_the_panel_strip_is_a_tile_of_the_look(look):
    glass = with_opacity(look, "panel", 0.8)
    glass = with_knob(with_knob(glass, "panel-strip", "height", 30), "panel-strip", "strip_light_by", 1.5)
    files, paints = worn(COMPONENT_BY_ID["panel-strip"], glass, NoFiles())
    tiles = {}
    for scale in (1, 2):
        data = next(f.data for f in files if f.path.endswith(f"@{scale}.png"))
        tiles[scale] = Image.open(io.BytesIO(data))
        assert tiles[scale].size == (8 * scale, 30 * scale) and tiles[scale].mode == "RGBA"
    assert tiles[1].resize((16, 60), Image.Resampling.NEAREST).tobytes() == tiles[2].tobytes()
    column = [tiles[1].getpixel((0, y)) for y in range(30)]
    light = [sum(p[:3]) for p in column]
    assert light == sorted(light, reverse=True) and light[0] > light[15] > light[-1]
    assert column[15][:3] == glass.colours["panel"][:3]
    alpha = glass.drawn_opacity()["panel"]
    assert all(p[3] == pytest.approx(alpha * 255, abs=1) for p in column)
    assert len({p[:3] for p in column}) > 5 and paints["bar"].text is not None


def test_a_number_that_no_slider_gives_is_held(look):
    wild = with_knob(look, "panel-strip", "height", 1e9)
    tile = next(f.data for f in worn(COMPONENT_BY_ID["panel-strip"], wild, NoFiles())[0] if f.path.endswith("@1.png"))
    assert Image.open(io.BytesIO(tile)).size == (8, 96)


def test_the_packed_borders_are_the_folder(look):
    files, _ = worn(COMPONENT_BY_ID["openbox"], look, NoFiles())
    by_path = {f.path: f.data for f in files}
    packed = next(f.data for f in files if f.path.endswith(".obt"))
    with tarfile.open(fileobj=io.BytesIO(packed), mode="r:gz") as archive:
        inside = {m.name: archive.extractfile(m).read() for m in archive.getmembers()}
    assert f"{look.folder}/openbox-3/themerc" in inside and f"{look.folder}/openbox-3/close.xbm" in inside
    for name, data in inside.items():
        assert by_path[f".local/share/themes/{name}"] == data


def test_every_openbox_key_that_takes_a_colour_is_there(look):
    themerc = next(
        f.data.decode() for f in worn(COMPONENT_BY_ID["openbox"], look, NoFiles())[0] if f.path.endswith("themerc")
    )
    keys = dict(re.findall(r"^([\w.*]+): (.+)$", themerc, re.M))
    for state in ("active", "inactive"):
        for key in (
            "border.color",
            "title.bg.color",
            "title.separator.color",
            "label.text.color",
            "handle.bg.color",
            "grip.bg.color",
            "client.color",
        ):
            assert f"window.{state}.{key}" in keys
        for button in ("unpressed", "pressed", "disabled", "hover", "toggled.unpressed", "toggled.hover"):
            assert {f"window.{state}.button.{button}.bg.color", f"window.{state}.button.{button}.image.color"} <= set(
                keys
            )
    for key in (
        "menu.border",
        "menu.separator",
        "menu.title.text",
        "menu.items.disabled.text",
        "osd.border",
        "osd.active.label.text",
        "osd.hilight.bg",
        "osd.button.focused.text",
    ):
        assert f"{key}.color" in keys


def test_variants_of_a_widget_stand_side_by_side(look, whole):
    component = COMPONENT_BY_ID["widget"]
    in_place, _ = worn(component, look, whole)
    assert {f.path for f in in_place} >= {".config/conky/conky.conf", ".config/conky/visitors.conf"}
    beside, _ = worn(component, with_beside(look, "widget", True), whole)
    assert {f.path for f in beside} == {re.sub(r"\.conf$", f"-{look.folder}.conf", f.path) for f in in_place}
    assert [f.data for f in beside] == [f.data for f in in_place]
    for id_ in ("widget", "widget-sheet", "widget-words", "widget-drawing"):
        laid = with_beside(look, id_, True)
        assert short_of(replace(laid, left_out=frozenset(IDS) - {id_, "widget"}), whole) == []
    other = with_beside(replace(with_tone(look, "light"), name="Low water"), "widget", True)
    more, _ = worn(component, other, layered(whole, beside))
    assert not {f.path for f in more} & {f.path for f in in_place}


def test_every_widget_of_a_home_is_judged(look, whole):
    dressed = dress(look, whole, frozenset({"widget"}))
    assert list(dressed.further("widget")) == [".config/conky/visitors.conf"]


def test_a_configuration_that_its_reader_refuses_stays(look):
    broken = layered(NoFiles(), [OutFile(".config/alacritty/alacritty.toml", b"[window\nopacity = 1")])
    files = {f.path: f.data for f in worn(COMPONENT_BY_ID["alacritty"], look, broken)[0]}
    assert files == {".config/alacritty/alacritty.toml": b"[window\nopacity = 1"}


def test_a_window_manager_gets_no_configuration_without_keys(look):
    """A file of ours alone would take the place of the manager's own defaults, and with them every key."""
    for id_ in ("i3", "sway"):
        assert worn(COMPONENT_BY_ID[id_], look, NoFiles())[0] == ()
    assert [f.path for f in worn(COMPONENT_BY_ID["hyprland"], look, NoFiles())[0]] == [".config/hypr/mellow-finch.conf"]


def test_a_list_of_a_person_s_own_gets_one_entry_more(look, whole):
    files = {f.path: f.data.decode() for f in worn(COMPONENT_BY_ID["qt-sheet"], look, whole)[0]}
    line = next(row for row in files[".config/qt5ct/qt5ct.conf"].splitlines() if row.startswith("stylesheets"))
    assert line.startswith("stylesheets=/marsh/own.qss, ") and line.endswith(f"{look.folder}.qss")


def test_older_places_count_where_the_newer_are_empty(look):
    older = layered(NoFiles(), [OutFile(".alacritty.toml", b"# mine\n")])
    assert [f.path for f in worn(COMPONENT_BY_ID["alacritty"], look, older)[0]] == [".alacritty.toml"]
    assert [f.path for f in worn(COMPONENT_BY_ID["alacritty"], look, NoFiles())[0]] == [
        ".config/alacritty/alacritty.toml"
    ]


def test_references_are_followed(look, whole):
    """A bar's colours that stand in variables are read, recoloured where they stand, and nothing else changes."""
    files, paints = worn(COMPONENT_BY_ID["polybar"], look, whole)
    assert paints["bar"].fill == look.colours["panel"] and paints["bar"].text == look.colours["panel_text"]
    text = files[0].data.decode()
    assert "background = ${colors.ground}" in text and f"ground = {look.colours['panel'].hex}" in text
    bar = worn(COMPONENT_BY_ID["i3"], look, whole)[1]["bar"]
    assert (bar.fill, bar.text) == (look.colours["panel"], look.colours["panel_text"])


def test_the_browser_guard_pairs_every_field(look, whole):
    files = {f.path: f.data.decode() for f in worn(COMPONENT_BY_ID["browser-pages"], look, whole)[0]}
    sheet = files[".mozilla/firefox/reedholm.default/chrome/userContent.css"]
    for rule in re.findall(r"\{([^}]*)\}", sheet):
        names = re.findall(r"(?:^|;)\s*([\w-]+)\s*:", rule)
        assert "background-color" not in names or "color" in names, rule
    assert 'stylesheets", true' in files[".mozilla/firefox/reedholm.default/user.js"]
    assert "textarea" in sheet and "select" in sheet and "[type=checkbox]" not in sheet


def test_a_new_component_is_one_data_file(look):
    """A format of a syntax that is known, in one text and no code: written, read back, judged."""
    text = """
id = "tide-clock"
title = "Tide clock"
kind = "Widgets"
reads = "The tide clock of the visitors' screen"
effect = "at once"
restart = "It follows by itself."
signs = [".config/tide-clock/colours.ini"]
own = [["clock", "", "notice_text/notice"], ["clock", "low", "quiet/notice"]]

[parts]
"clock" = ["face/ink", "face/ground"]
"clock:low" = ["face/quiet", "face/ground"]

[shades]
quiet = { of = "notice_text", toward = "notice", by = 0.8 }

[[read]]
paths = [".config/tide-clock/colours.ini"]
format = "notification-keys"
patterns = [["face/{}", '^(\\w+) = (#[0-9a-f]{6})']]

[[files]]
paths = [".config/tide-clock/colours.ini"]
template = "[face]\\nink = ‹notice_text›\\nquiet = ‹quiet›\\nground = ‹notice›\\n"
"""
    component = defined(text)
    scheme = look.scheme()
    paints = component.read(layered(NoFiles(), component.write(scheme, NoFiles())))
    assert (
        paints["clock"].fill == look.colours["notice"]
        and paints["clock:low"].text == component.colours(scheme, NoFiles())["quiet"]
    )
    assert all(p.passes for p in judge_parts(component.parts, paints, Behind.of(scheme)))


def test_a_definition_that_names_an_unknown_part_is_refused():
    with pytest.raises(ValueError, match="no such parts: nothing"):
        defined('id = "x"\nset = "bar"\n[parts]\n"nothing" = ["a", "b"]\n')


@EACH
def test_templates_name_what_there_is(component, look):
    if component.colours is not None:
        assert set(component.roles) <= set(component.colours(look.scheme(), NoFiles()))


def test_spellings_are_read_by_other_code():
    colour = Rgba(18, 52, 86, 0.5)
    assert SPELLINGS["argb"](colour) == "#80123456" and SPELLINGS["hexa"](colour) == "#12345680"
    assert SPELLINGS["bare8"](colour) == "12345680" and SPELLINGS["inside"](colour) == "rgba(12345680)"
    assert SPELLINGS["semicolons"](colour) == "18;;52;;86;;128" and SPELLINGS["decimals"](colour) == "18,52,86"
    assert SPELLINGS["css"](colour) == "rgba(18, 52, 86, 0.500)" and SPELLINGS["css"](colour.opaque) == "#123456"
    assert json.loads(SPELLINGS["list"](colour)) == [18, 52, 86]
    assert names_in("‹a›‹=b›‹~c d›") == ("a", "c")


def test_extra_files_of_the_whole_home_are_all_met(look, whole):
    """The home of these tests is not larger than what components look at."""
    touched = {f.path for files in dress(look, whole, every_component(look)).files.values() for f in files}
    read = {c.origin(whole) for c in COMPONENTS if c.origin is not None}
    usual = {str(file.relative_to(USUAL)) for file in USUAL.rglob("*") if file.is_file()}
    told = {path for path in usual if any(Path(path).match(sign) for c in COMPONENTS for sign in c.signs)}
    assert usual - touched - read - told == set()
    assert text_of(whole, ".config/sway/config")
