"""What the window knows: the one look and its steps, what was opened, themes, the home; no widgets."""
