"""Configurations of one command a line: a command's words, and what follows them."""

from __future__ import annotations

import re


def set_lines(text: str, words: str, value: str) -> str:
    """Return a text in which every line that begins with some words ends in a value; one more line where none does.

    words: separated by spaces, "*" for any one word. All other lines, and how these begin, are kept.
    """
    begin = r"[ \t]+".join(r"(?:\"[^\"\n]*\"|[^\s#]+)" if word == "*" else re.escape(word) for word in words.split())
    fresh, count = re.subn(rf"(?m)^([ \t]*{begin}[ \t]+)\S[^\n]*", lambda m: m[1] + value, text)
    return fresh if count else f"{text}{'' if text.endswith(chr(10)) or not text else chr(10)}{words} {value}\n"
