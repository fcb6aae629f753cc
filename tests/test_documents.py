"""What the repository says of itself is true: documents, catalogues, the picture of the imports, what `new` begins."""

import ast
import importlib.util
import re
import sys
import tomllib
from pathlib import Path

import click
import pytest

from mellow_finch.cli import app
from mellow_finch.components.define.definition import defined
from mellow_finch.syntax.catalogue import read_format

ROOT = Path(__file__).resolve().parents[1]


def tool(name: str):
    spec = importlib.util.spec_from_file_location(name, ROOT / f"tools/{name}.py")
    module = importlib.util.module_from_spec(spec)
    sys.modules[name] = module
    spec.loader.exec_module(module)
    return module


ARCHITECTURE = tool("architecture")  # before what imports it, so that it reads the files once
RELEASE, NEW = tool("release"), tool("new")


def test_what_a_release_must_have_is_there():
    assert RELEASE.wrong() == []


def test_a_release_of_another_version_is_refused():
    found = " ".join(RELEASE._versions("99.0"))
    assert "pyproject.toml says version" in found
    assert "metainfo is not 99.0" in found
    assert "no section 99.0" in found


def test_the_picture_of_the_imports_is_made_from_them():
    rows = ARCHITECTURE.parts()
    assert rows[0] == "cli" and rows[-1] == "itself"
    for i, part in enumerate(rows):
        assert all(rows.index(other) > i for other in ARCHITECTURE.imports(part)), part
    assert "wear" in ARCHITECTURE.imports("ui") and "colour" in ARCHITECTURE.imports("palette")
    assert ARCHITECTURE.drawn().count("<circle") == sum(len(ARCHITECTURE.imports(part)) for part in rows)


def test_no_modules_import_each_other_in_a_circle():
    assert ARCHITECTURE.cycles() == []
    circle = {"a": {"b"}, "b": {"c"}, "c": {"b"}, "d": {"a"}}
    assert {"b", "c"} in ARCHITECTURE.strongly_connected(circle) and len(ARCHITECTURE.strongly_connected(circle)) == 3


def test_a_class_is_named_once_and_nothing_is_too_long_to_be_read():
    named: dict[str, str] = {}
    for module, file in ARCHITECTURE.modules().items():
        tree = ARCHITECTURE.tree(file)
        assert tree.body[-1].end_lineno <= 450, module
        for node in ast.walk(tree):
            if isinstance(node, ast.ClassDef):
                assert named.setdefault(node.name, module) == module, node.name
                assert node.end_lineno - node.lineno < 350, node.name


def test_a_new_component_reads_its_own_file(tmp_path):
    file = NEW.begin("component", "night-heron", tmp_path)
    component = defined(file.read_text(encoding="utf-8"))
    assert component.id == "night-heron" and component.kind == "Notifications"
    assert [part.id for part in component.parts] == ["notice", "notice edge"]


def test_a_new_format_finds_colours(tmp_path):
    file = NEW.begin("format", "night-heron", tmp_path)
    made = read_format("night-heron", file.read_text(encoding="utf-8"))
    text = "color_background = #112233\nwidth = 12\n"
    assert [text[s.start : s.end] for s in made.scan(text)] == ["#112233"]
    assert made.claims("night-heron.conf", text)


@pytest.mark.parametrize(
    ("kind", "name"), [("desktop", "x-y"), ("component", "../out"), ("format", "Night"), ("format", "")]
)
def test_what_cannot_be_begun_is_said(tmp_path, kind, name):
    with pytest.raises(ValueError, match="“"):
        NEW.begin(kind, name, tmp_path)
    assert list(tmp_path.iterdir()) == []


def test_nothing_that_is_there_is_written_over(tmp_path):
    NEW.begin("format", "night-heron", tmp_path)
    with pytest.raises(ValueError, match="is there already"):
        NEW.begin("format", "night-heron", tmp_path)


def commands(command, path=()):
    if isinstance(command, click.Group):
        for name, below in command.commands.items():
            yield from commands(below, (*path, name))
    elif not command.hidden:
        yield path, command


@pytest.mark.parametrize(
    ("path", "command"), list(commands(app)), ids=lambda value: " ".join(value) if isinstance(value, tuple) else ""
)
def test_every_command_and_option_is_on_the_page_of_the_command_line(path, command):
    page = (ROOT / "docs/command-line.md").read_text(encoding="utf-8")
    assert f"`{path[0]}" in page and " ".join(path) in page
    options = [name for o in command.params if isinstance(o, click.Option) and not o.hidden for name in o.opts]
    assert [name for name in options if name.startswith("--") and name not in page] == []


def test_the_lists_of_what_is_needed_agree():
    def names(file):
        rows = (row.partition("#")[0].strip() for row in (ROOT / file).read_text(encoding="utf-8").splitlines())
        return {
            re.sub(r"[-_.]+", "-", re.split(r"[;=<>\s]", row)[0]).lower() for row in rows if row and row[0] not in "-#"
        }

    for wanted, lock in (("requirements.in", "requirements.lock"), ("requirements-dev.in", "requirements-dev.lock")):
        assert names(wanted) <= names(lock)
    assert names("requirements.in") | names("requirements-build.in") <= names("requirements-dev.lock")
    told = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))["tool"]["setuptools"]["dynamic"]
    assert told["dependencies"] == {"file": ["requirements.in"]}
