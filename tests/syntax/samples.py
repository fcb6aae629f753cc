"""One small file of every text format, and how many colours are in it. Comments and words hold decoys."""

from __future__ import annotations

SAMPLES: dict[str, tuple[str, int]] = {
    "bar-ini": (
        "[colors]\nbg = #e6202020\nfg = #ddd\n;x = #fff\n[module/a]\nformat = %{F#abcdef}x%{F-}\nlabel-foreground = ${colors.fg}\n",
        3,
    ),
    "compositor-words": (
        "general {\n  col.active_border = rgba(33ccffee) rgb(00ff99) 45deg\n  x = 0xff112233\n}\n# y = rgb(112233)\n",
        3,
    ),
    "desktop-palette": (
        "[Palette]\nwindow_color=#202124\nwindow_text_color=#eee\nname=red\n",
        2,
    ),
    "dock-keys": (
        "[PlankTheme]\nOuterStrokeColor=26;;26;;26;;255\nTopRoundness=4\n#A=1;;2;;3;;4\n",
        1,
    ),
    "editor-scheme": (
        '<style-scheme id="x"><color name="bg" value="#202020"/><color name="r" value="#red"/><style name="text" foreground="#rgba(1,2,3,0.5)" background="bg"/></style-scheme>',
        3,
    ),
    "editor-script": (
        'hi Normal guifg=#dddddd guibg=#202020 ctermfg=12\n" hi X guifg=#fff\nlet g:x = 1\n',
        2,
    ),
    "gtkrc": (
        'gtk-color-scheme = "fg_color:#ddd;bg_color:#222222\\nbase_color:red"\nstyle "x" {\n bg[NORMAL] = "#fff" # note #000\n fg[ACTIVE] = { 0.1, 0.2, 0.3 }\n base[NORMAL] = shade(1.1, "#123456")\n text[NORMAL]=@fg_color\n}\n',
        6,
    ),
    "json": (
        '{\n "a": "#112233",\n "palette": [\n  "#000000", "#ffffff"\n ], "b": 3, "#ffffff": "rgba(1,2,3,0.5)" }\n',
        4,
    ),
    "kde-scheme": (
        "[Colors:Window]\nBackgroundNormal=1,2,3\nForegroundNormal=#ff112233\nName=a\nX=1,2,3\n",
        2,
    ),
    "launcher-bare": (
        "[colors]\nbackground=fdf6e3dd\ntext=657b83ff\n[main]\nfont=abcdefff\n",
        2,
    ),
    "lock-bare": (
        "color=112233\nring-color=11223344\nfont-size=123456\n",
        2,
    ),
    "login-keys": (
        "[General]\nbackground=reed.png\ncolor=#1d99f3\ntype=color\nAccentColour=teal\n",
        2,
    ),
    "lua": (
        "-- '#111111'\nconky.config = {\n  default_color = '#ABCDEF', color1 = \"red\",\n  gap_x = 10,\n}\ndial = { fg_colour = 0xFF00AA, sum = 0x00FFEE }\nconky.text = [[\n${color #123456}x${color abcdef}${cpugraph 9,9 112233 445566}]]",
        7,
    ),
    "manager-words": (
        "client.focused #111111 #222222 #fff333 #44444455\nset $bg #123456\n# set $x #123456\nbar {\n colors {\n  background #000000\n  focused_workspace #111111 #222222 #333333\n }\n}\n",
        9,
    ),
    "notification-keys": (
        "background-color=#112233\nprogress-color=over #11223344\n[urgency=high]\ntext-color=#ffffff\n",
        3,
    ),
    "notification-rc": (
        '[urgency_low]\n background = "#2b2b2b" # "#fff"\n foreground = "#ddd"\n frame_color = "red"\n timeout = 10\n',
        3,
    ),
    "office-palette": (
        '<office:color-table><draw:color draw:name="red" draw:color="#aabbcc"/><draw:color draw:name="b" draw:color="#112233"/></office:color-table>',
        2,
    ),
    "panel-blocks": (
        "rounded = 0\nbackground_color = #202020 90\nborder_color = #444444 100\n",
        2,
    ),
    "pixmap": (
        '/* XPM */\nstatic char *a[] = {\n"2 1 4 1",\n"  c None",\n". c #FFAA00 s active_color_1",\n"+ c #111122223333",\n"@ c red m black",\n".+"};\n',
        4,
    ),
    "drawn-style-keys": (
        "[%General]\nauthor=x\n[GeneralColors]\nwindow.color=#202124\ntext.color=white\nlayout.margin=123456\n",
        2,
    ),
    "prompt": (
        'palette = "reed"\n[palettes.reed]\nmud = "#5a4a3a"\nsedge = "#8a9a5b" # a note\n[character]\nsuccess_symbol = "[>](bold #8a9a5b)"\n',
        3,
    ),
    "qss": (
        "QWidget { color: #80112233; background: qlineargradient(x1:0, stop:0 #aabbcc, stop:1 rgba(1,2,3,50%)); border: 1px solid hsv(10, 20%, 30%); } /* #fff */",
        4,
    ),
    "qt-palette": (
        "[ColorScheme]\nactive_colors=#ffdddddd, #ff333333, #fff\n",
        3,
    ),
    "rasi": (
        "* { bg: #202020; fg: rgba(1 2 3 / 50%); c: hwb(10 20% 30%); /* #fff */ // #fff\n x: Red; }\nwindow { background-color: @bg; border-color: #12345678; }",
        5,
    ),
    "scss": (
        "// #fff\n$bg: #202020;\n.bar { color: $bg; a { background: rgba(1, 2, 3, 0.5); } }\n",
        2,
    ),
    "settings-list": (
        "[/]\nforeground-color='#dddddd'\nbackground-color='rgb(32,32,32)'\npalette=['#000000', '#ff0000']\nuse-theme-colors=false\n",
        4,
    ),
    "shell-scripts": (
        "#!/bin/sh\nBG='#202020'\nfg_colour=#dddddd\n# accent=#ffffff\necho 123456\n",
        2,
    ),
    "style-sheet": (
        "/* #111 */ a:hover, #fade {\r\n  color: #AbC; background: url(x#123.png) rgba(1, 2, 3, .5);\r\n}\n@define-color ü #00ff00;\nb { border: 1px solid RED; box-shadow: 0 0 #12345678, 0 0 hsl(10, 20%, 30%); font-family: Tan, Linen }",
        6,
    ),
    "svg": (
        '<svg xmlns="x"><!-- #fff --><style>.a{fill:#ff0000}</style><mask><rect fill="#fff"/></mask><sodipodi:namedview pagecolor="#ffffff"/><rect fill="#abc" style="stroke:rgb(1,2,3);opacity:1"/><stop stop-color="red"/><path fill="none" d="M0 0"/><g color="currentColor" id="fff"/></svg>',
        4,
    ),
    "syntax-theme": (
        '{ "metadata": {},\n"editor-colors": { "BackgroundColor": "#ff112233" } }',
        1,
    ),
    "terminal-bare": (
        "[colors]\nforeground=dddddd\nregular0=202020 # x\nalpha=0.9\njump-labels=111111 222222\n[csd]\ncolor=ff112233\nfont=abcdef\n",
        5,
    ),
    "terminal-lists": (
        "[Scheme]\nName=Red\nColorForeground=#ddd\nColorPalette=#000;#111111;#222222222222;rgb(1,2,3)\n",
        5,
    ),
    "terminal-profile": (
        "[Appearance]\nColorScheme=Reed\n[Cursor Options]\nCustomCursorColor=1,2,3\nCustomCursorTextColor=#aabbcc\n",
        2,
    ),
    "terminal-scheme": (
        "[Background]\nColor=32,32,32\n[Color1]\nColor=1,2,3\nBold=true\n",
        2,
    ),
    "terminal-toml": (
        '[colors.primary]\nforeground = "#dddddd"\nbackground = "0x202020"\n[[colors.indexed_colors]]\nindex = 16\ncolor = "#112233"\nansi = [\n  "#000000", "#ff0000",\n]\n',
        5,
    ),
    "terminal-words": (
        "foreground #dddddd\n# background #000000\ncolor1 red\ncursor rgb:1/2/3\nfont_size 11\n",
        3,
    ),
    "terminal-yaml": (
        "colors:\n  primary:\n    background: '0x1d1f21'\n    foreground: '#c5c8c6' # c\n",
        2,
    ),
    "widget-words": (
        "own_window_colour 202020\ndefault_color red\ncolor1 #aabbcc\nupdate_interval 100000\nTEXT\n${color abcdef}x ${color #112233}\n",
        5,
    ),
    "window-borders-keys": (
        "active_text_color=#FFFFFF\ninactive_text_color=active_hilight_1\nactive_color_1=#112233\nbutton_offset=2\n# active_mid_1=#fff\n",
        2,
    ),
    "window-borders-rc": (
        "window.active.title.bg.color: #3a3f44\nmenu.items.text.color: rgb:aa/bb/cc\nborder.width: 1\nx.color: red\n!a.color: #fff\n",
        3,
    ),
    "window-borders-xml": (
        '<metacity_theme><constant name="C_x" value="#aabbcc"/><title color="shade/#112233/0.5"/><x value="gtk:custom(a,#ffffff)"/></metacity_theme>',
        3,
    ),
    "x-resources": (
        "*background: #1b1b1e\nXTerm*color1: red\n*c: rgb:1/2/3\n! *x: #fff\n*n: #111122223333\n*b: [80]#112233\n",
        5,
    ),
    "script-settings": (
        '# the wall is #ffffff\ncolours = {\n    "ground": "#23282b",\n    "ink": "#b8bfc2",\n}\n'
        'layouts = [layout.Columns(border_focus_stack=["#d75f5f", "#8f3d3d"], border_focus="#ff2fa0")]\n'
        'bar = Bar([widget.GroupBox(active="#ffffff80", inactive="#4d5559")], background=colours["ground"])\n',
        7,
    ),
}
