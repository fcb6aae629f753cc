"""A reader that does whatever it is asked for; run in a process of its own by the tests."""

from __future__ import annotations

import os
import socket
import subprocess
from pathlib import Path

from mellow_finch.intake.worker import allow, serve


def answer(table, body, handles):
    allow(1, 400_000_000)
    what = table["do"]
    if what == "echo":
        return {"got": len(body)}, bytes(body)
    if what == "read":
        return {}, os.read(handles[0], 100)
    if what == "hang":
        while True:
            pass
    if what == "swell":
        return {"size": len(bytearray(2_000_000_000))}, b""
    if what == "crash":
        os.abort()
    if what == "open":
        return {}, Path(table["path"]).read_bytes()
    if what == "write":
        Path(table["path"]).write_bytes(b"x")
    if what == "start":
        subprocess.run(["true"], check=True)
    if what == "call":
        socket.create_connection(("127.0.0.1", 9))
    return {}, b""


if __name__ == "__main__":
    serve(answer)
