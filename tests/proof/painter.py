"""A small program for rehearsals: paints a window from a file of colours, with words on it. Run as a program.

Words: the file, the name of the text's colour in it, and of the surface's; "!#rrggbb" stands for a colour of its own.
"""

import re
import sys
import time
from pathlib import Path

from Xlib import X
from Xlib.display import Display


def colour(text: str, name: str) -> int:
    if name.startswith("!"):
        return int(name[2:], 16)
    found = re.search(rf"^[ \t]*{name}[ \t=:]+#?([0-9a-fA-F]{{6}})", text, re.MULTILINE)
    return int(found[1], 16) if found else 0x777777


path, ink, ground = sys.argv[1:4]
file = Path(path).expanduser()
text = file.read_text() if file.exists() else ""
display = Display()
screen = display.screen()
window = screen.root.create_window(
    120, 90, 420, 260, 0, screen.root_depth, background_pixel=colour(text, ground), event_mask=X.ExposureMask
)
window.map()
font = display.open_font("fixed")
pen = window.create_gc(foreground=colour(text, ink), background=colour(text, ground), font=font)
until = time.monotonic() + 30
while time.monotonic() < until:
    for row, words in enumerate(("Reedlings in the east net", "Tide at half past six", "The hide is open")):
        window.draw_text(pen, 20, 40 + 24 * row, words.encode())
    display.sync()
    time.sleep(0.2)
