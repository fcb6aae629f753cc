"""A home with files of every kind that components recolour, beside the demo's own."""

from __future__ import annotations

from pathlib import Path

from mellow_finch.components.catalogue import COMPONENTS
from mellow_finch.components.model import FolderFiles
from mellow_finch.demo.build import build_demo_home
from mellow_finch.look.dressed import dress, every_component
from mellow_finch.look.model import Look

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
    ".config/bspwm/bspwmrc": "#!/bin/sh\nbspc config border_width 2\nbspc config focused_border_color '#ff2fa0'\n",
    ".config/river/init": "#!/bin/sh\nriverctl map normal Super Q close\nriverctl border-color-focused 0xff2fa0\n",
    ".config/herbstluftwm/autostart": "#!/bin/sh\nhc() { herbstclient \"$@\"; }\nhc attr theme.active.color '#ff2fa0'\n",
    ".config/hypr/hyprland.lua": "hl.config({\n    general = {\n        gaps_in = 5,\n    },\n})\n",
    ".config/awesome/theme.lua": 'local theme = {}\ntheme.font = "sans 9"\ntheme.bg_normal = "#262a2e"\nreturn theme\n',
    "Notes/.obsidian/app.json": "{}\n",
    ".thunderbird/marsh.default/prefs.js": "// profile\n",
    ".tmux.conf": "set -g mouse on\nset -g status-style 'bg=#ff2fa0,fg=#ffd0e8'\n",
    ".zshrc": "setopt autocd\ntypeset -A ZSH_HIGHLIGHT_STYLES\nZSH_HIGHLIGHT_STYLES[command]='fg=#ff2fa0'\n",
    ".config/fish/config.fish": "set -g fish_greeting\nset -g fish_color_command ff2fa0\n",
    ".gitconfig": '[user]\n\tname = Maren\n[color "diff"]\n\tnew = "#ff2fa0"\n',
    ".config/Code/User/settings.json": (
        '// mine\n{\n    "editor.fontSize": 13, // large\n    "workbench.colorCustomizations": {\n'
        '        "editor.background": "#ff2fa0", // shrill\n    },\n}\n'
    ),
    ".config/zathura/zathurarc": "set guioptions none\nset default-bg '#ff2fa0'\n",
    ".gtkrc-2.0": '# mine\ngtk-font-name = "Sans 10"\n',
    "GNUstep/Defaults/WindowMaker": (
        '{\n  FTitleColor = white;\n  FTitleBack = (solid, "#ff2fa0");\n  MenuTextFont = "sans:pixelsize=12";\n'
        '  PixmapPath = (\n    "~/GNUstep/Backgrounds"\n  );\n  MenuTextBack = (solid, "rgb:aa/aa/aa");\n}\n'
    ),
    ".config/lxpanel/LXDE/panels/panel": (
        "# mine\nGlobal {\n    edge=bottom\n    tintcolor=#ff2fa0\n    usefontcolor=0\n}\n\nPlugin {\n    type=space\n}\n"
    ),
    ".jwmrc": (
        '<?xml version="1.0"?>\n<JWM>\n  <RootMenu onroot="12"><Program label="Log">xterm</Program></RootMenu>\n'
        "  <WindowStyle>\n    <Foreground>#4d5559</Foreground>\n    <Background>#ff2fa0</Background>\n  </WindowStyle>\n</JWM>\n"
    ),
    ".config/qtile/config.py": (
        'colours = {\n    "ground": "#23282b",  # the wall\n    "ink": "#b8bfc2",\n}\n'
        'layouts = [layout.Columns(border_focus="#ff2fa0", border_normal="#262a2e")]\n'
        'bar = Bar([widget.GroupBox(active="#ffffff", inactive="#4d5559")], foreground="#9aa3a8", background="#262a2e")\n'
    ),
    ".config/niri/config.kdl": (
        'layout {\n    focus-ring {\n        width 4 // wide\n        active-color "#ff2fa0"\n'
        '        inactive-color "#505050"\n    }\n}\n'
    ),
    ".irssi/config": 'settings = {\n  core = { nick = "maren"; };\n  "fe-common/core" = {\n    theme = "default";\n  };\n};\n',
    ".newsboat/config": "browser lynx\ncolor listnormal red default\n",
    ".config/ncmpcpp/config": "mpd_host = hide2\nmain_window_color = magenta\n",
    ".taskrc": "data.location=~/.task\ncolor.active=black on color208\n",
    ".config/Element/config.json": '{\n    "brand": "Reedholm",\n    "setting_defaults": {\n        "language": "en"\n    }\n}\n',
}


class OwnFiles(FolderFiles):
    """The files of a home, on a machine of which nothing is known."""

    def __call__(self, path):
        """Return a file's bytes, None for one of the system."""
        return None if path.startswith("/") else super().__call__(path)

    def find(self, pattern):
        """Return the files that match."""
        return [] if pattern.startswith("/") else super().find(pattern)


def whole_home(folder: Path) -> FolderFiles:
    """Return the demo home with a file of every kind that is recoloured or added to."""
    home = build_demo_home(folder / "whole" / "home")
    for path, text in EXTRA.items():
        target = home / path
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_text(text)
    return OwnFiles(home)


def full_home(folder: Path) -> Path:
    """Return a home that has a file of every kind, and every program of the catalogue on its own path."""
    home = whole_home(folder).root
    for name in sorted({program for component in COMPONENTS for program in component.programs}):
        program = home / ".local/bin" / name
        program.write_text("#!/bin/sh\n")
        program.chmod(0o755)
    return home


# What people write into their own files beside plain lines: closer, later, in other files, in rules of their own.
CLOSER = {
    ".Xresources": (
        '#include ".config/x-colours"\nXTerm*VT100.background: #31ff07\nxterm*foreground: #0a0aff\n'
        "XTerm.vt100.color1: #31ff07\n*VT100*color2: #0a0aff\nurxvt.background: #31ff07\nURxvt.color3: #0a0aff\n"
        "XTerm*Background: #0a0aff\nxterm.vt100.cursorColor: #31ff07\nXClock*background: #31ff07\n"
    ),
    ".config/x-colours": "xterm*vt100*color4: #31ff07\nXTerm*vt100.highlightColor: #0a0aff\n",
    ".config/foot/foot.ini": (
        "[main]\ninclude=~/.config/foot/night.ini\n[colors]\nbackground=31ff07\nforeground=0a0aff\nregular1=31ff07\n"
        "background=0a0aff\n[cursor]\ncolor=31ff07 0a0aff\n"
    ),
    ".config/foot/night.ini": "[colors]\nregular2=31ff07\nurls=0a0aff\n",
    ".config/kitty/kitty.conf": (
        "include night.conf\nbackground #31ff07\nforeground #0a0aff\ncolor1 #31ff07\ncursor #0a0aff\nglobinclude *.col\n"
    ),
    ".config/kitty/night.conf": "color2 #31ff07\nselection_background #0a0aff\n",
    ".config/kitty/z.col": "color3 #31ff07\n",
    ".config/alacritty/alacritty.toml": (
        'import = ["~/.config/alacritty/night.toml"]\n[colors]\nprimary = { background = "#31ff07", foreground = "#0a0aff" }\n'
        '[colors.normal]\nred = "#31ff07"\n[colors.cursor]\ncursor = "#0a0aff"\ntext = "CellBackground"\n'
    ),
    ".config/alacritty/night.toml": '[colors.normal]\ngreen = "#31ff07"\n',
    ".config/gtk-3.0/gtk.css": (
        '@import url("night.css");\nheaderbar.titlebar { background: #31ff07; color: #0a0aff; }\n'
        "* { color: #0a0aff; }\n.xfce4-panel { color: #31ff07; background-color: #0a0aff; }\nmenu menuitem { color: #31ff07; }\n"
    ),
    ".config/gtk-3.0/night.css": "window.background { background-color: #31ff07; }\n",
    ".config/gtk-4.0/gtk.css": (
        "@define-color window_bg_color #31ff07;\nwindow.background { background-color: #0a0aff; color: #31ff07; }\n"
    ),
    ".gtkrc-2.0": (
        'gtk-theme-name = "Shrill"\nstyle "mine" {\n  bg[NORMAL] = "#31ff07"\n  fg[NORMAL] = "#0a0aff"\n'
        '  base[NORMAL] = "#31ff07"\n  text[NORMAL] = "#0a0aff"\n}\nclass "*" style "mine"\n'
    ),
    ".config/dunst/dunstrc": (
        '[global]\n    frame_color = "#31ff07"\n[urgency_normal]\n    background = "#31ff07"\n    foreground = "#0a0aff"\n'
        '[nets]\n    appname = nets\n    background = "#0a0aff"\n    foreground = "#31ff07"\n'
    ),
    ".config/dunst/dunstrc.d/99-late.conf": '[urgency_normal]\n    background = "#0a0aff"\n    foreground = "#31ff07"\n',
    ".config/dunst/dunstrc.d/zzz.conf": '[urgency_low]\n    background = "#31ff07"\n    foreground = "#0a0aff"\n',
    ".config/hypr/hyprland.conf": (
        "source = ~/.config/hypr/night.conf\ngeneral {\n    col.active_border = rgba(31ff07ff) rgba(0a0affff) 45deg\n}\n"
    ),
    ".config/hypr/night.conf": "general {\n    col.inactive_border = rgb(31ff07)\n}\n",
    ".config/i3/config": (
        "include ~/.config/i3/night\nclient.focused #31ff07 #31ff07 #0a0aff #31ff07\nbar {\n    colors {\n"
        "        background #31ff07\n        statusline #0a0aff\n    }\n}\n"
    ),
    ".config/i3/night": "client.unfocused #0a0aff #0a0aff #31ff07 #0a0aff\n",
    ".config/polybar/config.ini": (
        "include-file = ~/.config/polybar/colours.ini\n[bar/main]\nbackground = ${colours.ground}\n"
        "foreground = ${colours.ink}\n[module/date]\ntype = internal/date\nformat-foreground = #31ff07\n"
    ),
    ".config/polybar/colours.ini": "[colours]\nground = #31ff07\nink = #0a0aff\n",
    ".config/waybar/style.css": (
        '@import "colours.css";\nwindow#waybar { background: @ground; color: @ink; }\n#clock { color: #31ff07; }\n'
    ),
    ".config/waybar/colours.css": "@define-color ground #31ff07;\n@define-color ink #0a0aff;\n",
    ".config/rofi/config.rasi": (
        '@theme "night"\n* { background-color: #31ff07; text-color: #0a0aff; }\nwindow { background-color: #31ff07; }\n'
        '@theme "~/.config/rofi/late.rasi"\nelement selected.normal { background-color: #0a0aff; }\n'
    ),
    ".config/rofi/late.rasi": "* { background-color: #0a0aff; }\n",
    ".config/fuzzel/fuzzel.ini": "[colors]\nbackground=31ff07ff\ntext=0a0affff\nbackground=0a0affff\n\n[colors]\ntext=31ff07ff\n",
    ".config/xfce4/terminal/terminalrc": (
        "[Configuration]\nColorForeground=#31ff07\nColorUseTheme=TRUE\nColorCursorUseDefault=TRUE\nColorForeground=#0a0aff\n"
    ),
    ".config/kdeglobals": (
        "[Colors:Window]\nBackgroundNormal=49,255,7\nForegroundNormal=10,10,255\n\n[Colors:Window]\nBackgroundNormal=10,10,255\n"
    ),
    ".config/lxqt/lxqt.conf": "[Palette]\nwindow_color=#31ff07\nwindow_text_color=#0a0aff\nwindow_color=#0a0aff\n",
    ".config/qt6ct/qt6ct.conf": (
        "[Appearance]\ncolor_scheme_path=/marsh/mine.conf\ncustom_palette=false\n\n"
        "[Interface]\nstylesheets=~/.config/qt6ct/qss/night.qss\n"
    ),
    ".config/qt6ct/qss/night.qss": "QMainWindow QPushButton { color: #31ff07; background-color: #0a0aff; }\n",
    ".config/swaylock/config": "color=31ff07\ninside-color=0a0aff\ntext-color=31ff07\nring-color=0a0aff\n",
    ".config/mako/config": (
        "background-color=#31ff07\ntext-color=#0a0aff\n[urgency=normal]\nbackground-color=#0a0aff\ntext-color=#31ff07\n"
        "[app-name=nets]\nbackground-color=#31ff07\ntext-color=#0a0aff\n"
    ),
    ".config/starship.toml": 'palette = "mine"\n[palettes.mine]\nground = "#31ff07"\n[palettes.mellow-finch]\nground = "#0a0aff"\n',
    ".vimrc": "set number\ncolorscheme night\nhi Normal guifg=#31ff07 guibg=#0a0aff\n",
    ".vim/colors/night.vim": "hi Normal guifg=#31ff07 guibg=#0a0aff\n",
    ".mozilla/firefox/marsh.default/prefs.js": "// profile\n",
    ".mozilla/firefox/marsh.default/chrome/userContent.css": "textarea { color: #31ff07 !important; background-color: #0a0aff !important; }\n",
    ".config/konsolerc": "[Desktop Entry]\nDefaultProfile=Mine.profile\n",
    ".local/share/konsole/Mine.profile": "[Appearance]\nColorScheme=Aaa\n",
    ".local/share/konsole/Aaa.colorscheme": "[Background]\nColor=49,255,7\n[Foreground]\nColor=10,10,255\n",
    ".config/plasmarc": "[Theme]\nname=Aaa\n",
    ".local/share/plasma/desktoptheme/Aaa/colors": "[Colors:Window]\nBackgroundNormal=49,255,7\n",
    ".config/Kvantum/kvantum.kvconfig": "[General]\ntheme=Aaa\n",
    ".config/Kvantum/Aaa/Aaa.kvconfig": "[GeneralColors]\nwindow.color=#31ff07\nbase.color=#0a0aff\n",
    ".config/openbox/lxde-rc.xml": "<openbox_config><theme><name>Aaa</name></theme></openbox_config>\n",
    ".tmux.conf": "set-option -ag status-style bg=#31ff07\nset -g mode-style 'fg=#0a0aff,bg=#31ff07'\nsetw -g clock-mode-colour '#0a0aff'\n",
    ".zshrc": "typeset -A ZSH_HIGHLIGHT_STYLES\nZSH_HIGHLIGHT_STYLES[comment]='fg=#31ff07'\nZSH_AUTOSUGGEST_HIGHLIGHT_STYLE='fg=#0a0aff'\n",
    ".bashrc": "export FZF_DEFAULT_OPTS='--color=fg:#31ff07,bg:#0a0aff'\n",
    ".config/fish/config.fish": "set -g fish_color_comment 31ff07\nset -g fish_color_search_match --background=0a0aff\n",
    ".gitconfig": '[color "diff"]\n\told = "#31ff07"\n[color "grep"]\n\tmatch = "#0a0aff bold"\n[color "diff"]\n\told = "#0a0aff"\n',
    ".config/btop/btop.conf": 'color_theme = "Aaa"\nupdate_ms = 2000\n',
    ".config/btop/themes/Aaa.theme": 'theme[main_bg]="#31ff07"\ntheme[main_fg]="#0a0aff"\n',
    ".config/bat/config": "--paging=never\n--theme=Aaa\n",
    ".config/bat/themes/Aaa.tmTheme": (
        '<plist version="1.0">\n<dict>\n<key>settings</key>\n<array>\n<dict><key>settings</key><dict>\n'
        "<key>background</key><string>#31ff07</string>\n</dict></dict>\n</array>\n</dict>\n</plist>\n"
    ),
    ".config/Code/User/settings.json": (
        '{ "workbench.colorCustomizations": { "editor.background": "#31ff07", "editor.background": "#0a0aff" },\n'
        '  "editor.tokenColorCustomizations": "none" }\n'
    ),
    ".config/mc/ini": "[Midnight-Commander]\nskin=Aaa\n",
    ".local/share/mc/skins/Aaa.ini": "[core]\n_default_ = #31ff07;#0a0aff\n",
    ".config/helix/config.toml": 'theme = "Aaa"\n[editor]\nmouse = false\n',
    ".config/helix/themes/Aaa.toml": '"ui.text" = { fg = "#31ff07" }\n',
    ".config/micro/settings.json": '{"colorscheme": "Aaa", "tabsize": 8}\n',
    ".config/micro/colorschemes/Aaa.micro": 'color-link default "#31ff07,#0a0aff"\n',
    ".emacs": "(load-theme 'Aaa t)\n(setq visible-bell t)\n",
    ".emacs.d/Aaa-theme.el": (
        "(deftheme Aaa)\n(custom-theme-set-faces 'Aaa\n '(default ((t (:foreground \"#31ff07\")))))\n"
        "(provide-theme 'Aaa)\n"
    ),
    ".config/geany/geany.conf": "[geany]\ncolor_scheme=Aaa.conf\npref_main=true\n",
    ".config/geany/colorschemes/Aaa.conf": "[named_styles]\ndefault=0x31ff07;0x0a0aff\n",
    ".config/mpv/mpv.conf": "osd-color='#31ff07'\n[night]\nosd-border-color='#0a0aff'\n",
    ".config/zathura/zathurarc": "set default-bg '#31ff07'\nset highlight-color rgba(10,10,255,0.5)\n",
    ".config/cava/config": "[general]\nbars = 12\n[color]\ngradient_color_1 = '#31ff07'\n",
    ".config/yazi/theme.toml": '[mgr]\ncwd = { fg = "#31ff07" }\n',
    ".config/qutebrowser/config.py": "config.load_autoconfig()\nc.colors.completion.fg = '#31ff07'\n",
    ".fluxbox/init": "session.styleFile: /usr/share/fluxbox/styles/BlueNight\nsession.screen0.toolbar.visible: true\n",
    ".icewm/theme": 'Theme="Aaa/default.theme"\n',
    ".icewm/themes/Aaa/default.theme": 'ColorActiveTitleBar="#31ff07"\n',
    ".config/weechat/weechat.conf": "[look]\nmouse = off\n\n[color]\nchat = red\nchat_highlight_bg = magenta\n",
    ".config/texstudio/texstudio.ini": "[formats]\nversion=1.0\ndata\\normal\\foreground=#31ff07\n\n[texmaker]\nTabs=2\n",
    ".config/inkscape/ui/user.css": "entry { color: #31ff07; background-color: #0a0aff; margin: 2px; }\n",
    ".themes/Aaa/openbox-3/themerc": "window.active.title.bg.color: #31ff07\n",
}
SHRILL = ("#31ff07", "#0a0aff")


def coloured_home(folder: Path, look: Look) -> FolderFiles:
    """Return a home whose every file sets every colour already, in the colours of a look, as lines of the person's own."""
    home = whole_home(folder).root
    for output in dress(look, FolderFiles(home), every_component(look)).outputs:
        target = home / output.path.replace("mellow-finch", "of-my-own")
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_bytes(output.data.replace(b"mellow-finch", b"of-my-own"))
    return FolderFiles(home)


def closer_home(folder: Path) -> FolderFiles:
    """Return a home with everything in it that people write to win over a theme."""
    home = whole_home(folder).root
    for path, text in CLOSER.items():
        target = home / path
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_text(text)
    return FolderFiles(home)
