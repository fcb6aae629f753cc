"""Where a definition that comes from somebody else may never write, whatever it says that it is for."""

from __future__ import annotations

import re
from pathlib import PurePosixPath

from ...disk.own import APP

# Files right in the home folder that a shell, a login or a session runs, beside all that a pattern there would match.
_STARTED = re.compile(
    r"\.(?:bash|zsh|ksh|mksh|csh|tcsh|sh|login|logout|profile|zprofile|zlogin|zlogout|zshenv|inputrc|pam_environment|"
    r"x?session|xinit|xprofile|xserver|dmrc|forward|rhosts|netrc|hushlogin|pythonrc|gdbinit|lesskey|env)[\w.-]*",
    re.IGNORECASE,
)
# Folders, at any depth, of keys, of what is run, and of what starts by itself.
_FOLDERS = frozenset(
    (
        APP, ".ssh", ".gnupg", ".pki", ".password-store", "keyrings", "kwalletd", "autostart", "autostart-scripts",
        "systemd", "environment.d", "plasma-workspace", "upstart", "applications", "dbus-1", "services", "bin", "sbin",
        "hooks", "scripts", ".git", ".hg", "fish", "zsh", "bash", "nushell", "elvish", "xonsh", ".oh-my-zsh", "cron",
        "polkit-1", "containers", "flatpak", ".cargo", ".npm", "go", ".local/lib", "lib", "site-packages", "plugins",
        "extensions", "history", "conf.d", "profile.d", "xsessions", "uwsm",
    )
)  # fmt: skip
_NAMES = frozenset(
    (
        "autostart", "autostart.sh", "init", "environment", "bspwmrc", "herbstluftwm", "startup", "rc", "rc.local",
        "config.fish", "authorized_keys", "known_hosts", "makefile", "crontab", "shadow", "passwd", "sudoers",
    )
)  # fmt: skip
_RUN = frozenset(
    (
        ".sh", ".bash", ".zsh", ".fish", ".py", ".pl", ".rb", ".js", ".mjs", ".lua", ".php", ".awk", ".tcl", ".el",
        ".vim", ".desktop", ".service", ".timer", ".socket", ".path", ".mount", ".target", ".so", ".exe", ".run",
        ".bin", ".jar", ".appimage", ".deb", ".rpm", ".whl", ".pyc", ".ps1", ".bat",
    )
)  # fmt: skip


def forbidden(pattern: str) -> bool:
    """Tell whether files that a pattern matches, from the home folder, may not be written for somebody else.

    Only the last part of a pattern may hold wildcards, and it has to lie in a folder of the home that is named.
    """
    path = PurePosixPath(pattern)
    *folders, name = path.parts or ("",)
    if any(set(part) & set("*?[") for part in folders) or (set(name) & set("*?[") and len(folders) < 2):
        return True
    if not folders and (_STARTED.fullmatch(name) or not name.startswith(".")):
        return True
    low = [part.lower() for part in folders]
    if set(low) & _FOLDERS or name.lower() in _NAMES or name.lower() in _FOLDERS:
        return True
    if set(name) & set("*?["):
        return not path.suffix or bool(set(path.suffix) & set("*?[")) or path.suffix.lower() in _RUN
    return path.suffix.lower() in _RUN or _STARTED.fullmatch(name) is not None
