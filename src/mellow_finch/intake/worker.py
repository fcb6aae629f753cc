"""Readers of foreign bytes in processes of their own: what crashes, hangs or swells there ends that process alone.

A module that calls `serve` is run as `python -m MODULE HANDLE` and answers one request after another over a socket. A
request and its answer are a small table, some bytes, and files that are open already: the process itself opens nothing,
writes nothing, starts nothing. Those that are idle are kept for the next request.
"""

from __future__ import annotations

import atexit
import json
import os
import socket
import struct
import sys
import threading
import time
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from ..errors import FinchError
from ..itself import own_module
from ..language import tr

_INHERITED = ("PATH", "PYTHONPATH", "HOME", "LANG")
_FRAME = struct.Struct("<IQ")  # how many bytes of table and of body follow
_MOST_TABLE = 1_000_000
_MOST_BODY = 4 * 2**30
_MOST_IDLE = 2
_START_BYTES = 1_000_000_000  # of address space, until a request asks for more
_START_S = 2
_SLOWER = 12  # how many times its processor time a request may take on a machine that is busy
_REFUSED = (
    "subprocess.", "os.exec", "os.posix_spawn", "os.fork", "os.system", "os.spawn", "socket.connect", "socket.bind",
    "socket.getaddrinfo", "ctypes.", "os.remove", "os.rename", "os.mkdir", "os.rmdir", "os.link", "os.symlink",
    "os.truncate", "os.chmod", "os.chown", "shutil.", "tempfile.", "webbrowser.",
)  # fmt: skip

Table = dict[str, Any]


class WorkerLostError(FinchError):
    """The process of a reader ended, or did not answer in time; the caller says it in its own words."""

    code = "worker"


def _send(sock: socket.socket, table: Table, body: Any = b"", handles: Sequence[int] = ()) -> None:
    text = json.dumps(table).encode("utf-8")
    with memoryview(body) as view:
        frame = _FRAME.pack(len(text), view.nbytes)
        if handles:
            socket.send_fds(sock, [frame], list(handles))
        else:
            sock.sendall(frame)
        sock.sendall(text)
        sock.sendall(view)


def _exactly(sock: socket.socket, size: int, until: float | None) -> bytearray:
    out = bytearray(size)
    view, at = memoryview(out), 0
    while at < size:
        if until is not None:
            sock.settimeout(max(0.001, until - time.monotonic()))
        got = sock.recv_into(view[at:])
        if not got:
            raise EOFError
        at += got
    return out


def _receive(sock: socket.socket, until: float | None = None) -> tuple[Table, bytearray, list[int]]:
    if until is not None:
        sock.settimeout(max(0.001, until - time.monotonic()))
    frame, handles, *_ = socket.recv_fds(sock, _FRAME.size, 4)
    if len(frame) < _FRAME.size:
        if not frame:
            raise EOFError
        frame += _exactly(sock, _FRAME.size - len(frame), until)
    table, body = _FRAME.unpack(frame)
    if table > _MOST_TABLE or body > _MOST_BODY:
        raise EOFError
    head = json.loads(_exactly(sock, table, until))
    return head, _exactly(sock, body, until), handles


# In the process of a reader


def allow(seconds: float, room: int) -> None:
    """Give what is being read so much processor time from now on, and so much address space in bytes."""
    import resource

    spent = resource.getrusage(resource.RUSAGE_SELF)
    until = int(spent.ru_utime + spent.ru_stime + seconds) + 1
    for kind, most in ((resource.RLIMIT_CPU, until), (resource.RLIMIT_AS, room)):
        hard = resource.getrlimit(kind)[1]  # what the system gives everything the person starts
        resource.setrlimit(kind, (most if hard == resource.RLIM_INFINITY else min(most, hard), hard))


def _shut_in(reads: tuple[str, ...] = ()) -> None:
    """Refuse everything that a reader does not need, whatever in it asks for that. reads: files that it may read."""
    import resource

    from .confine import shut_in

    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    named = [os.path.normpath(p) for p in (*sys.path, sys.prefix, sys.base_prefix, *reads) if p]
    own = tuple({*named, *(str(Path(p).resolve()) for p in named)})  # a home is often reached through a link
    writing = os.O_WRONLY | os.O_RDWR | os.O_CREAT

    def hook(event: str, args: tuple[Any, ...]) -> None:
        if event == "open":
            path, _, flags = args
            if isinstance(path, int):
                return
            if (isinstance(flags, int) and flags & writing) or not os.path.normpath(os.fsdecode(path)).startswith(own):
                raise PermissionError("a reader opens no files")
        elif event.startswith(_REFUSED):
            raise PermissionError("a reader does nothing but read")

    shut_in(own)
    sys.addaudithook(hook)


def serve(answer: Callable[[Table, bytearray, list[int]], tuple[Table, Any]], reads: tuple[str, ...] = ()) -> None:
    """Answer requests until nobody asks any more. What `answer` raises is told as a table with "raised".

    reads: paths of files that the reader's libraries need besides their own.
    """
    sock = socket.socket(fileno=int(sys.argv[1]))
    _shut_in(reads)
    while True:
        try:
            table, body, handles = _receive(sock)
        except (EOFError, OSError):
            return
        try:
            allow(_START_S, _START_BYTES)
            out, data = answer(table, body, handles)
        except Exception as error:
            out, data = {"raised": type(error).__name__}, b""
        finally:
            for handle in handles:
                os.close(handle)
        del body
        try:
            _send(sock, out, data)
        except OSError:
            return
        del data


# On this side


class _Worker:
    """One such process."""

    def __init__(self, module: str) -> None:
        import subprocess

        ours, theirs = socket.socketpair()
        environment = {k: v for k, v in os.environ.items() if k.startswith("LC_") or k in _INHERITED}
        environment["QT_QPA_PLATFORM"] = "offscreen"
        with theirs:
            self._process = subprocess.Popen(
                own_module(module, str(theirs.fileno())),
                pass_fds=(theirs.fileno(),),
                stdin=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
                env=environment,
                cwd="/",
            )
        self._sock = ours

    def ask(self, table: Table, body: Any, handles: Sequence[int], seconds: float) -> tuple[Table, bytearray]:
        until = time.monotonic() + seconds
        self._sock.settimeout(seconds)
        _send(self._sock, table, body, handles)
        out, data, extra = _receive(self._sock, until)
        for handle in extra:
            os.close(handle)
        return out, data

    def end(self) -> None:
        self._sock.close()
        self._process.kill()
        self._process.wait()


_IDLE: dict[str, list[_Worker]] = {}
_LOCK = threading.Lock()


def _end_all() -> None:
    with _LOCK:
        rows = [worker for row in _IDLE.values() for worker in row]
        _IDLE.clear()
    for worker in rows:
        worker.end()


atexit.register(_end_all)
os.register_at_fork(after_in_child=_IDLE.clear)


def ask(
    module: str, table: Table, body: Any = b"", handles: Sequence[int] = (), seconds: float = 5.0
) -> tuple[Table, bytearray]:
    """Return a reader's answer. seconds: of processor time that it may need; a busy machine gets more.

    Raises WorkerLostError when its process ended or took too long.
    """
    with _LOCK:
        idle = _IDLE.setdefault(module, [])
        worker = idle.pop() if idle else None
    worker = worker or _Worker(module)
    try:
        out, data = worker.ask(table, body, handles, seconds * _SLOWER)
    except (OSError, EOFError, ValueError, struct.error) as error:
        worker.end()
        raise WorkerLostError(tr("The file could not be read completely.")) from error
    except BaseException:
        worker.end()
        raise
    with _LOCK:
        if "raised" not in out and len(_IDLE.setdefault(module, [])) < _MOST_IDLE:
            _IDLE[module].append(worker)
            worker = None
    if worker is not None:
        worker.end()
    return out, data
