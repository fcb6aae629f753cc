"""The nodes on the way to places in a tree, and the styles that rules give them, as a toolkit cascades them."""

from __future__ import annotations

import re
from bisect import insort
from collections.abc import Iterable
from copy import copy
from typing import Any
from xml.etree.ElementTree import Element, SubElement

from ..progress import give_way

Node = tuple[int, dict[str, Any]]  # a node's number, the same for the same way down, and its style
ORIGINS = "origins"  # the key of a style under which the rules that its properties come from are kept
LAYER = "layer"  # the key of a style under which the number of its sheet is kept, above the first one's
HEAD = "head"  # and the key that says that a node is a title bar
_WORDS = re.compile(r"\W+")


def state_name(state: str) -> str:
    """Return the class that stands for a state; older names of a state are the same state."""
    name = {"insensitive": "disabled", "prelight": "hover", "inconsistent": "indeterminate"}.get(state, state)
    return "__" + _WORDS.sub("-", name).strip("-")


def matched(matcher: Any, places: tuple[str, ...]) -> list[list[Node]]:
    """Return the styles of the nodes on the way to each place."""
    tree = Tree(places)
    tree.match(matcher)
    return [tree.nodes(place) for place in places]


class Tree:
    """The nodes on the way to some places, matched with rules, of which more may come."""

    def __init__(self, places: Iterable[str]) -> None:
        import cssselect2

        root = Element("everything")
        elements: dict[tuple[str, ...], Element] = {(): root}
        numbers: dict[tuple[str, ...], int] = {(): 0}
        self._ways: dict[str, list[int]] = {}
        for place in places:
            way = [compound.strip() for compound in place.split(">")]
            prefixes = [tuple(way[: i + 1]) for i in range(len(way))]
            for prefix in prefixes:
                if prefix not in elements:
                    elements[prefix] = _element(elements[prefix[:-1]], prefix[-1])
                    numbers[prefix] = len(numbers)
            self._ways[place] = [numbers[prefix] for prefix in prefixes]
        wrapped = {e.etree_element: e for e in cssselect2.ElementWrapper.from_xml_root(root).iter_subtree()}
        self._elements = [wrapped[element] for element in elements.values()]
        self._found: list[list[Any]] = [[] for _ in self._elements]
        self._styles: list[dict[str, Any]] = [{} for _ in self._elements]

    def copy(self) -> Tree:
        """Return a tree of the same nodes, which may be matched with more rules than this one."""
        other = copy(self)
        other._found = [list(rows) for rows in self._found]
        other._styles = list(self._styles)
        return other

    def match(self, matcher: Any) -> None:
        """Match every node with all rules of a matcher."""
        for i, element in enumerate(self._elements):
            give_way()
            self._found[i] = matcher.match(element)
            self._restyle(i)

    def match_more(self, rows: Iterable[tuple[Any, int, int, dict[str, Any]]]) -> frozenset[int]:
        """Match every node with rules that came after all others; return the nodes that they change.

        rows: what a selector compiles to, its place in the order of rules, its number, its style.
        """
        changed: set[int] = set()
        for selector, order, number, style in rows:
            if selector.never_matches:
                continue
            for i, element in enumerate(self._elements):
                if selector.test(element):
                    row = (selector.specificity, order, selector.pseudo_element, (number, style))
                    insort(self._found[i], row, key=lambda r: r[:2])
                    changed.add(i)
        for i in changed:
            self._restyle(i)
        return frozenset(changed)

    def _restyle(self, i: int) -> None:
        merged: dict[str, Any] = {}
        origins: dict[str, int] = {}
        found = [(number, style) for *_, (number, style) in self._found[i]]
        for number, style in sorted(found, key=lambda row: row[1].get(LAYER, 0)):
            merged |= style
            origins |= dict.fromkeys(style, number)
        element = self._elements[i].etree_element
        if element.tag == "headerbar" or "titlebar" in element.get("class", "").split():
            merged[HEAD] = True
        self._styles[i] = merged | {ORIGINS: origins}

    def nodes(self, place: str) -> list[Node]:
        """Return the nodes on the way to a place, outermost first."""
        return [(i, self._styles[i]) for i in self._ways[place]]

    def through(self, changed: frozenset[int]) -> list[str]:
        """Return the places on whose way one of some nodes lies."""
        return [place for place, way in self._ways.items() if not changed.isdisjoint(way)]


_COMPOUND = re.compile(r"([.#:])((?:[\w-]|\([\w-]*\))+)")


def _element(parent: Element, compound: str) -> Element:
    name = re.match(r"[\w-]+", compound)
    element = SubElement(parent, name.group() if name else "node")
    classes: list[str] = []
    for mark, value in _COMPOUND.findall(compound):
        if mark == "#":
            element.set("id", value)
        else:
            classes.append(value if mark == "." else state_name(value))
    if classes:
        element.set("class", " ".join(classes))
    return element
