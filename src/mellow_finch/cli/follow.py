"""Following the wallpaper and the time of day without a window."""

from __future__ import annotations

import json
import subprocess
from datetime import datetime
from typing import TYPE_CHECKING, Any

import click

from ..errors import ParseError
from ..itself import own_module
from ..language import tr
from .parts import JSON_OPTION, in_a_sentence, print_json, say

if TYPE_CHECKING:
    from ..follow.follower import Follower
    from ..follow.rules import Rules


@click.group()
def follow() -> None:
    """Follow the wallpaper, light by day and dark by night, without a window."""


def _rules_options(function: Any) -> Any:
    options = (
        click.option("--look", default=None, help=tr("The look from the Shelf to follow; by default the newest.")),
        click.option(
            "--night",
            default=None,
            metavar="LOOK",
            help=tr("The look from the Shelf for the dark variant; “” for the same one."),
        ),
        click.option(
            "--kept/--no-kept",
            "--saved/--no-saved",
            default=None,
            help=tr("Use the look saved for a wallpaper, if there is one."),
        ),
        click.option(
            "--picture/--no-picture",
            "--wallpaper/--no-wallpaper",
            default=None,
            help=tr("Derive a new look for each new wallpaper."),
        ),
        click.option(
            "--day",
            type=click.Choice(["none", "sun", "clock", "desktop"]),
            default=None,
            help=tr("What switches between light and dark."),
        ),
        click.option(
            "--place", default=None, metavar="LATITUDE,LONGITUDE", help=tr("Location, for sunrise and sunset.")
        ),
        click.option("--light-at", default=None, metavar="HH:MM", help=tr("For --day clock.")),
        click.option("--dark-at", default=None, metavar="HH:MM", help=tr("For --day clock.")),
        click.option(
            "--turn", multiple=True, metavar="LOOK", help=tr("Looks from the Shelf that take turns, one a day.")
        ),
    )
    for option in reversed(options):
        function = option(function)
    return function


@follow.command()
@_rules_options
@click.option("--autostart", is_flag=True, help=tr("Use an autostart entry even where user units run."))
@in_a_sentence
def start(autostart: bool, **chosen: Any) -> None:
    """Follow from now on, and with every session: by a user unit, or an autostart entry."""
    from ..follow.rules import DAY_RULES, load_rules, paused, save_rules
    from ..follow.service import follow_folder, has_units, install, nudge

    rules = paused(_with(load_rules(), chosen), False)
    save_rules(rules)
    say(install(follow_folder(), has_units() and not autostart))
    nudge(follow_folder())
    say(
        (
            tr("Wallpaper: a new one gives a new look. {rule}.") if rules.picture else tr("Wallpaper: ignored. {rule}.")
        ).format(rule=DAY_RULES[rules.day])
    )


def _with(rules: Rules, chosen: dict[str, Any]) -> Rules:
    """Return rules with what was given on the command line. Raises ParseError."""
    from dataclasses import replace

    from ..follow.rules import clock_time, rules_from

    given = {k: v for k, v in chosen.items() if v is not None and v != ()}
    try:
        if "place" in given:
            latitude, _, longitude = given["place"].partition(",")
            given["place"] = (float(latitude), float(longitude))
        for key in ("light_at", "dark_at"):
            if key in given:
                given[key] = clock_time(given[key])
    except ValueError as error:
        raise ParseError(f"{error}.", hint=tr("A place is LATITUDE,LONGITUDE, a time HH:MM.")) from error
    return rules_from(replace(rules, **given).as_toml())


@follow.command()
@in_a_sentence
def stop() -> None:
    """Stop following; the unit or autostart entry is removed."""
    from ..follow.service import follow_folder, remove

    remove(follow_folder())
    say(tr("Following has stopped; the applied look stays."))


@follow.command()
@in_a_sentence
def pause() -> None:
    """Pause following."""
    _pause(True)
    say(tr("Paused. “follow resume” continues."))


@follow.command()
@in_a_sentence
def resume() -> None:
    """Continue after a pause, or after a manual change stopped it."""
    from ..follow.service import follow_folder, nudge

    _pause(False)
    _follower().go_on()
    nudge(follow_folder())
    say(tr("Following continues."))


def _pause(on: bool) -> None:
    from ..follow.rules import load_rules, paused, save_rules

    save_rules(paused(load_rules(), on))


@follow.command()
@JSON_OPTION
@in_a_sentence
def status(as_json: bool) -> None:
    """Tell whether following is on, by which rules, and what it did last."""
    from ..follow.rules import DAY_RULES
    from ..follow.service import follow_folder, running

    follower = _follower()
    rules = follower.rules
    pid = running(follow_folder())
    stopped = follower.stopped()
    if as_json:
        log = follower.log()
        print_json({"running": bool(pid), "paused": rules.paused, "stopped": stopped, "day": rules.day, "log": log})
        return
    say(tr("Following.") if pid and not rules.paused else tr("Paused.") if rules.paused else tr("Not following."))
    if stopped:
        say(tr("Stopped: {stopped} “follow resume” continues.").format(stopped=stopped))
    say(tr("Day and night: {day_rules}.").format(day_rules=DAY_RULES[rules.day]))
    for line in follower.log():
        say(f"  {line}")


def _follower() -> Follower:
    from ..follow.follower import own_follower
    from ..wear.places import own_home

    return own_follower(own_home())


@follow.command(hidden=True)
@in_a_sentence
def step() -> None:
    """Check once, and report what was done and when the next check is due."""
    words, again = _follower().step(datetime.now().astimezone())
    print_json({"did": words, "again": again.isoformat()})


@follow.command(hidden=True)
@in_a_sentence
def run() -> None:
    """Follow until stopped. Each change runs in its own process, so waiting uses few resources."""
    from ..follow.service import follow_folder, note
    from ..follow.waiting import QUIET_FILES, Waiter
    from ..wear.places import own_home

    note(follow_folder())
    waiter = Waiter(own_home() / path for path in QUIET_FILES)
    words = own_module("mellow_finch.cli", "follow", "step")
    while True:
        done = subprocess.run(words, capture_output=True, text=True, check=False)
        try:
            again = datetime.fromisoformat(json.loads(done.stdout)["again"])
            seconds = (again - datetime.now().astimezone()).total_seconds()
        except (ValueError, KeyError, TypeError):
            seconds = 600.0  # it said why in its log
        waiter.wait(max(1.0, seconds))


COMMANDS = (follow,)
