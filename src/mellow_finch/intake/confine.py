"""A process of a reader shut in by the system itself, so that native code in it can do no more than Python can.

Two things that every process may ask for itself, each where the system has it: a filter of system calls (seccomp) and
a view of the file system that is only read (Landlock). What is asked for cannot be taken back.

Sources: linux/seccomp.h, linux/landlock.h, the tables of system calls of both machines.
"""

from __future__ import annotations

import ctypes
import os
import platform
import struct
from collections.abc import Iterable, Mapping
from typing import NamedTuple

_PR_SET_NO_NEW_PRIVS = 38
_SECCOMP_FILTER, _SECCOMP_ALL_THREADS = 1, 1
_ALLOW, _REFUSE, _ABSENT = (
    0x7FFF0000,
    0x00050000 | 1,
    0x00050000 | 38,
)  # EPERM; ENOSYS, after which libraries ask simply
_LOAD, _EQUAL, _AND_SET, _RETURN = 0x20, 0x15, 0x45, 0x06
_NUMBER, _ARCH, _FIRST_ARG = 0, 4, 16
_WRITING = os.O_WRONLY | os.O_RDWR | os.O_CREAT | os.O_TRUNC | os.O_APPEND
_THREAD = 0x10000  # CLONE_THREAD
_READING = 0b1101  # execute (of libraries), read a file, read a folder
_SYSTEM = (
    "/usr",
    "/lib",
    "/lib64",
    "/etc",
    "/opt",
    "/dev/null",
    "/dev/urandom",
    "/dev/zero",
    "/proc/self",
    "/sys/devices/system/cpu",
)


class _Calls(NamedTuple):
    """The numbers of system calls on one machine. flags: calls by the argument that says how a file is opened."""

    arch: int
    seccomp: int
    refused: tuple[int, ...]
    absent: tuple[int, ...]
    flags: Mapping[int, int]
    clone: int


_BOTH = (425, 426, 427, 452)  # io_uring, fchmodat2
_CALLS: Mapping[str, _Calls] = {
    "x86_64": _Calls(
        0xC000003E, 317,
        (
            # starting programs and processes, and looking into others
            59, 322, 57, 58, 62, 101, 310, 311, 200, 129, 297,
            # sockets and messages
            41, 42, 43, 49, 50, 53, 288, 29, 30, 31, 67, 68, 69, 70,
            # changing files
            85, 76, 77, 82, 83, 84, 86, 87, 88, 90, 91, 92, 93, 94, 133, 188, 189, 190, 197, 198, 199, 258, 259, 260,
            263, 264, 265, 266, 268, 316, 132, 235, 261, 280,
            # the system
            165, 166, 161, 155, 272, 308, 321, 248, 249, 250, 298, 323, 175, 313, 176, 246, 320, 169, 164, 227, 135,
            179, 304, 167, 168, 170, 171, 172, 173, *_BOTH,
        ),
        (435, 437), {2: 1, 257: 2}, 56,
    ),
    "aarch64": _Calls(
        0xC00000B7, 277,
        (
            221, 281, 129, 130, 117, 270, 271, 138, 240,
            198, 203, 202, 200, 201, 199, 242, 194, 196, 195, 186, 187, 188, 189,
            45, 46, 38, 34, 37, 35, 36, 52, 53, 54, 55, 33, 5, 6, 7, 14, 15, 16, 276, 88,
            40, 39, 51, 41, 97, 268, 280, 217, 218, 219, 241, 282, 105, 273, 106, 104, 294, 142, 170, 112, 92, 60, 265,
            224, 225, 161, 162, *_BOTH,
        ),
        (435, 437), {56: 2}, 220,
    ),
}  # fmt: skip


def _step(code: int, value: int, yes: int = 0, no: int = 0) -> bytes:
    return struct.pack("HBBI", code, yes, no, value)


def _program(calls: _Calls) -> bytes:
    """Return the filter: calls that are refused, files that are opened to be written, processes that are no threads."""
    out = [_step(_LOAD, _ARCH), _step(_EQUAL, calls.arch, 1, 0), _step(_RETURN, _REFUSE), _step(_LOAD, _NUMBER)]
    for number in calls.refused:
        out += [_step(_EQUAL, number, 0, 1), _step(_RETURN, _REFUSE)]
    for number in calls.absent:
        out += [_step(_EQUAL, number, 0, 1), _step(_RETURN, _ABSENT)]
    for number, argument in calls.flags.items():
        out += [_step(_EQUAL, number, 0, 4), _step(_LOAD, _FIRST_ARG + 8 * argument)]
        out += [_step(_AND_SET, _WRITING, 0, 1), _step(_RETURN, _REFUSE), _step(_RETURN, _ALLOW)]
    out += [_step(_EQUAL, calls.clone, 0, 3), _step(_LOAD, _FIRST_ARG)]
    out += [_step(_AND_SET, _THREAD, 1, 0), _step(_RETURN, _REFUSE), _step(_RETURN, _ALLOW)]
    return b"".join(out)


def _filtered(libc: ctypes.CDLL) -> bool:
    calls = _CALLS.get(platform.machine())
    if calls is None:
        return False
    program = _program(calls)
    kept = ctypes.create_string_buffer(program, len(program))
    row = struct.pack("HxxxxxxP", len(program) // 8, ctypes.addressof(kept))
    return bool(libc.syscall(calls.seccomp, _SECCOMP_FILTER, _SECCOMP_ALL_THREADS, row) == 0)


def _looked_down(libc: ctypes.CDLL, reads: Iterable[str]) -> bool:
    """Let files be read below some places and nowhere else, and nothing be written; return whether the system can."""
    version = libc.syscall(444, None, ctypes.c_size_t(0), 1)
    if version < 1:
        return False
    handled = (1 << (13 if version < 2 else 14 if version < 3 else 15)) - 1
    rules = libc.syscall(444, struct.pack("Q", handled), ctypes.c_size_t(8), 0)
    if rules < 0:
        return False
    try:
        for path in (*_SYSTEM, *reads):
            try:
                handle = os.open(path, os.O_PATH | os.O_CLOEXEC)
            except OSError:
                continue
            try:
                wanted = _READING if os.path.isdir(path) else 0b101  # noqa: PTH112 - it runs in every reader
                libc.syscall(445, rules, 1, struct.pack("=Qi", wanted, handle), 0)
            finally:
                os.close(handle)
        return bool(libc.syscall(446, rules, 0) == 0)
    finally:
        os.close(rules)


def shut_in(reads: Iterable[str]) -> tuple[str, ...]:
    """Give up what a reader does not need, for good; return what the system has taken away: "files", "calls" or both.

    reads: places below which files may still be read, beside the system's own.
    """
    try:
        libc = ctypes.CDLL(None, use_errno=True)
        if libc.prctl(_PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0) != 0:
            return ()
        files = _looked_down(libc, reads)
        return (*(("files",) if files else ()), *(("calls",) if _filtered(libc) else ()))
    except (OSError, AttributeError):  # a library of C without these, or a system that forbids asking
        return ()
