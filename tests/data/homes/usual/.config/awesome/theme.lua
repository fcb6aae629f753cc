local theme = {}
theme.font = "sans 9"
theme.bg_normal = "#262a2e"
return theme
