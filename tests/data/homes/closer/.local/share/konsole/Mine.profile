[Appearance]
ColorScheme=Aaa
