colours = {
    "ground": "#23282b",  # the wall
    "ink": "#b8bfc2",
}
layouts = [layout.Columns(border_focus="#ff2fa0", border_normal="#262a2e")]
bar = Bar([widget.GroupBox(active="#ffffff", inactive="#4d5559")], foreground="#9aa3a8", background="#262a2e")
