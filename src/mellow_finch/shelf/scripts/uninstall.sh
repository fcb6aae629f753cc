#!/bin/sh
# Gives back what install.sh changed: every old file to the byte, every setting. What you edited since stays, and is said.
#   uninstall.sh [--dry-run]
set -eu

here=$(cd "$(dirname "$0")" && pwd)
folder=$(sed -n 's/^folder=//p' "$here/lists/about.txt")
name=$(sed -n 's/^name=//p' "$here/lists/about.txt")
state=${XDG_STATE_HOME:-$HOME/.local/state}/parcels/$folder
dry=0 left=0

say() { printf '%s\n' "$*"; }

case ${1-} in
  '') ;;
  --dry-run) dry=1 ;;
  --help | -h) sed -n '2,3s/^# \{0,1\}//p' "$0"; exit 0 ;;
  *) say "'$1' is not known here; try --help." >&2; exit 2 ;;
esac
if [ ! -e "$state/log" ]; then
  say "'$name' is not installed here." >&2
  exit 1
fi

target() {
  at=$1 turns=0
  while [ -L "$at" ] && [ $turns -lt 20 ]; do
    to=$(readlink "$at")
    case $to in /*) at=$to ;; *) at=$(dirname "$at")/$to ;; esac
    turns=$((turns + 1))
  done
  printf '%s' "$at"
}

back() {
  what=$1 sum=$2 path=$3
  place=$(target "$HOME/$path")
  if [ ! -f "$place" ]; then
    say "gone    ~/$path"
    [ "$what" = create ] || restore "$path" "$place"
    return 0
  fi
  if [ "$(cksum <"$place" | tr ' ' '-')" != "$sum" ]; then
    say "stays   ~/$path: it was edited since; the old one is in $state/backup/$path"
    left=1
    return 0
  fi
  if [ "$what" = create ]; then
    say "remove  ~/$path"
    [ $dry = 1 ] || rm -f "$place"
  else
    restore "$path" "$place"
  fi
}

restore() {
  say "restore ~/$1"
  [ $dry = 0 ] || return 0
  work=$(dirname "$2")/.parcel-$$
  cp -p "$state/backup/$1" "$work"
  mv "$work" "$2"
}

reset() {
  store=$1 schema=$2 key=$3 value=$4 had=$5 old=$6
  case $store in
    gsettings) now=$(gsettings get "$schema" "$key" 2>/dev/null) || return 0 ;;
    *) now=$(xfconf-query -c "$schema" -p "$key" 2>/dev/null) || return 0 ;;
  esac
  if [ "$now" != "'$value'" ] && [ "$now" != "$value" ]; then
    say "stays   $schema $key: it was changed since"
    return 0
  fi
  say "reset   $schema $key"
  [ $dry = 0 ] || return 0
  case $store in
    gsettings) if [ "$had" = 1 ]; then gsettings set "$schema" "$key" "$old"; else gsettings reset "$schema" "$key"; fi ;;
    *) [ "$had" = 0 ] || xfconf-query -c "$schema" -p "$key" -s "$old" ;;
  esac
}

turned=$(mktemp)
trap 'rm -f "$turned"' EXIT
sed '1!G;h;$!d' "$state/log" >"$turned"
while IFS='|' read -r kind a b c d e f; do
  case $kind in
    f) back "$a" "$b" "$c" ;;
    s) reset "$a" "$b" "$c" "$d" "$e" "$f" ;;
    d) [ $dry = 1 ] || rmdir "$HOME/$a" 2>/dev/null || true ;;
  esac
done <"$turned"
if [ $dry = 1 ]; then
  say "Nothing was changed."
elif [ $left = 1 ]; then
  rm -f "$state/log"
  say "Done, but for what you edited."
else
  [ ! -e "$state/made" ] || sed '1!G;h;$!d' "$state/made" >"$turned"
  [ -e "$state/made" ] || : >"$turned"
  rm -rf "$state"
  while IFS='|' read -r kind a; do
    [ "$kind" != p ] || rmdir "$a" 2>/dev/null || true
  done <"$turned"
  say "Done: everything is as it was."
fi
