"""A home with files of every kind that components recolour, beside the demo's own."""

from __future__ import annotations

from pathlib import Path

from mellow_finch.components.catalogue import COMPONENTS
from mellow_finch.components.model import FolderFiles
from mellow_finch.demo.build import build_demo_home

EXTRA = {
    ".config/alacritty/alacritty.yml": (
        "# the laptop\ncolors:\n  primary:\n    background: '#23282b'\n    foreground: '#b8bfc2'\n"
        "  cursor:\n    text: '#23282b'\n    cursor: '#ff2fa0'\n"
        "  selection:\n    text: '#ffd0e8'\n    background: '#ff2fa0'\n"
        "  normal:\n"
        + "".join(
            f"    {n}: '#{i}05060'\n"
            for i, n in enumerate(["black", "red", "green", "yellow", "blue", "magenta", "cyan", "white"])
        )
        + "  bright:\n"
        + "".join(
            f"    {n}: '#{i}0a0b0'\n"
            for i, n in enumerate(["black", "red", "green", "yellow", "blue", "magenta", "cyan", "white"])
        )
    ),
    ".config/alacritty/alacritty.toml": '[font]\nsize = 11 # mine\n\n[colors.primary]\nbackground = "#23282b"\n',
    ".config/sway/config": (
        "set $ground #262a2e\nbindsym Mod4+q kill\nbar {\n    colors {\n        background $ground\n"
        "        statusline #9aa3a8\n        focused_workspace #ff2fa0 #ff2fa0 #ffd0e8\n"
        "        inactive_workspace $ground $ground #4d5559\n        urgent_workspace #8a2b2b #8a2b2b #d97a7a\n    }\n}\n"
    ),
    ".config/hypr/hyprland.conf": "general {\n    gaps_in = 4\n    col.active_border = rgba(ff2fa0ee)\n}\n",
    ".config/hypr/hyprlock.conf": (
        "background {\n    color = rgba(262a2eff)\n}\nlabel {\n    text = hide 2\n    color = rgba(4d5559ff)\n}\n"
        "input-field {\n    size = 200, 50\n    outer_color = rgb(ff2fa0)\n    inner_color = rgb(2b2f33)\n"
        "    font_color = rgb(4d5559)\n}\n"
    ),
    ".config/tint2/tint2rc": (
        "rounded = 0\nbackground_color = #262a2e 90\nborder_color = #ff2fa0 100\n"
        "rounded = 2\nbackground_color = #ff2fa0 100\n"
        "rounded = 2\nbackground_color = #8a2b2b 100\n"
        "rounded = 2\nbackground_color = #2b2f33 100\n"
        "task_font_color = #5d666b 100\ntask_active_font_color = #ffd0e8 100\ntask_urgent_font_color = #d97a7a 100\n"
        "task_iconified_font_color = #4d5559 100\nclock_font_color = #9aa3a8 100\ntooltip_font_color = #6f787d 100\n"
        "time1_format = %H:%M\n"
    ),
    ".config/mako/config": "font=Sans 11\nbackground-color=#2b2f33\ntext-color=#4d5559\n\n[app-name=nets]\nborder-color=#ff2fa0\n",
    ".config/wofi/style.css": (
        "#window { background-color: #262a2e; color: #5d666b; }\n#input { background-color: #2b2f33; color: #4d5559; }\n"
        "#entry:selected { background-color: #ff2fa0; }\n#text:selected { color: #ffd0e8; }\n"
    ),
    ".config/swaync/style.css": (
        ".notification { background-color: #2b2f33; color: #5d666b; }\n"
        ".notification.critical { background-color: #8a2b2b; color: #d97a7a; }\n"
        ".notification-action { background-color: #33393d; color: #5d666b; }\n"
        ".notification-action:hover { background-color: #ff2fa0; color: #ffd0e8; }\n"
        ".control-center { background-color: #262a2e; color: #6f787d; }\n"
    ),
    ".local/share/themes/Saltpan/cinnamon/cinnamon.css": (
        "stage { color: #9aa3a8; }\n#panel { background-color: #262a2e; color: #5d666b; }\n"
        ".menu, .popup-menu-content { background-color: #2b2f33; color: #4d5559; }\n"
        ".popup-menu-item:active { background-color: #ff2fa0; color: #ffd0e8; }\n"
    ),
    ".config/nvim/init.lua": "vim.o.number = true\n",
    ".config/xfce4/terminal/terminalrc": "[Configuration]\nFontName=Sans 11\nColorForeground=#b8bfc2\nMiscBell=FALSE\n",
    ".config/qt5ct/qt5ct.conf": "[Appearance]\nstyle=Fusion\ncustom_palette=false\n\n[Interface]\nstylesheets=/marsh/own.qss\n\n[Fonts]\nfixed=@Variant(x)\n",
    ".config/lxqt/lxqt.conf": "[General]\ntheme=plain\n\n[Palette]\nwindow_color=#262a2e\n",
    ".gtkrc-2.0": '# mine\ngtk-font-name = "Sans 10"\n',
}


def whole_home(folder: Path) -> FolderFiles:
    """Return the demo home with a file of every kind that is recoloured or added to."""
    home = build_demo_home(folder / "whole" / "home")
    for path, text in EXTRA.items():
        target = home / path
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_text(text)
    return FolderFiles(home)


def full_home(folder: Path) -> Path:
    """Return a home that has a file of every kind, and every program of the catalogue on its own path."""
    home = whole_home(folder).root
    for name in sorted({program for component in COMPONENTS for program in component.programs}):
        program = home / ".local/bin" / name
        program.write_text("#!/bin/sh\n")
        program.chmod(0o755)
    return home
