#!/bin/sh
# Gives back what install.sh changed: every old file to the byte, every setting. What you edited since stays, and is said.
#   uninstall.sh [--dry-run]
set -eu

here=$(cd "$(dirname "$0")" && pwd)
folder=$(sed -n 's/^folder=//p' "$here/lists/about.txt")
name=$(sed -n 's/^name=//p' "$here/lists/about.txt")
case ${XDG_STATE_HOME-} in /*) state=$XDG_STATE_HOME ;; *) state=$HOME/.local/state ;; esac
state=$state/parcels/$folder
dry=0 left=0 changed=0

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

# What is not done stays in the log, so that this can be run again when what stood in the way is gone.
stays() {
  say "stays   $1"
  left=1
  [ $dry = 1 ] || printf '%s\n' "$row" >>"$rest"
}

back() {
  what=$1 sum=$2 path=$3
  place=$(target "$HOME/$path")
  kept=$state/backup/$path
  if [ ! -f "$place" ]; then
    say "gone    ~/$path"
    [ "$what" = create ] || restore "$path" "$place"
    return 0
  fi
  if [ "$what" = change ] && cmp -s "$kept" "$place"; then
    return 0
  fi
  if [ "$(cksum <"$place" | tr ' ' '-')" != "$sum" ]; then
    if [ "$what" = create ]; then
      stays "~/$path: it was edited since"
    else
      stays "~/$path: it was edited since; the old one is in $kept"
    fi
    return 0
  fi
  if [ "$what" = create ]; then
    say "remove  ~/$path"
    [ $dry = 1 ] || rm -f "$place" 2>/dev/null || stays "~/$path: it cannot be removed"
  else
    restore "$path" "$place"
  fi
}

# Copies a file with its mode, owner, times and attributes, as far as the system can.
alike() { cp -a "$1" "$2" 2>/dev/null || cp -p "$1" "$2"; }

restore() {
  say "restore ~/$1"
  [ $dry = 0 ] || return 0
  kept=$state/backup/$1
  if [ ! -f "$kept" ]; then
    stays "~/$1: the old one is missing"
    return 0
  fi
  if [ -f "$2" ] && [ "$(stat -c %h "$2")" != 1 ] && [ -w "$2" ]; then
    cat "$kept" >"$2" # a file of several names stays one
    touch -r "$kept" "$2"
    return 0
  fi
  work=$(dirname "$2")/.parcel-$$
  mkdir -p "$(dirname "$2")"
  if ! (umask 077 && : >"$work") 2>/dev/null; then
    stays "~/$1: its folder cannot be written to"
    return 0
  fi
  if [ -f "$2" ]; then # what the file has beside its bytes is still on it
    alike "$2" "$work"
    chmod u+w "$work"
    cat "$kept" >"$work"
    chmod "$(stat -c %a "$kept")" "$work"
    touch -r "$kept" "$work"
  else
    alike "$kept" "$work"
  fi
  mv "$work" "$2"
}

now_is() {
  case $1 in
    gsettings) gsettings get "$2" "$3" 2>/dev/null ;;
    *) xfconf-query -c "$2" -p "$3" 2>/dev/null ;;
  esac
}

reset() {
  store=$1 schema=$2 key=$3 value=$4 had=$5 old=$6
  now=$(now_is "$store" "$schema" "$key") || return 0
  [ "$had" = 0 ] || [ "$now" != "$old" ] || return 0
  if [ "$now" != "'$value'" ] && [ "$now" != "$value" ]; then
    usual=
    [ "$store" != gsettings ] || usual=$(GSETTINGS_BACKEND=memory gsettings get "$schema" "$key" 2>/dev/null || true)
    if [ "$had" = 1 ] || [ "$now" != "$usual" ]; then
      say "keeps   $schema $key: it was changed since"
      changed=1
    fi
    return 0
  fi
  say "reset   $schema $key"
  [ $dry = 0 ] || return 0
  case $store in
    gsettings)
      if [ "$had" = 1 ]; then
        gsettings set "$schema" "$key" "$old" 2>/dev/null || true
      else
        gsettings reset "$schema" "$key" 2>/dev/null || true
      fi
      ;;
    *) [ "$had" = 0 ] || xfconf-query -c "$schema" -p "$key" -s "$old" 2>/dev/null || true ;;
  esac
  if [ "$had" = 1 ] && [ "$(now_is "$store" "$schema" "$key")" != "$old" ]; then
    stays "$schema $key: the desktop did not take it"
  fi
}

turned=$(mktemp)
rest=$(mktemp)
trap 'rm -f "$turned" "$rest"' EXIT
sed '1!G;h;$!d' "$state/log" >"$turned"
while IFS= read -r row; do
  IFS='|' read -r kind a b c d e f <<END
$row
END
  case $kind in
    f) back "$a" "$b" "$c" ;;
    s) reset "$a" "$b" "$c" "$d" "$e" "$f" ;;
    t) [ $dry = 1 ] || rm -f "$a" ;;
    d)
      if [ $dry = 0 ] && [ -d "$HOME/$a" ] && ! rmdir "$HOME/$a" 2>/dev/null; then
        printf '%s\n' "$row" >>"$rest" # not empty: it may go when what is in it does
      fi
      ;;
  esac
done <"$turned"
if [ $dry = 1 ]; then
  say "Nothing was changed."
elif [ $left = 1 ]; then
  sed '1!G;h;$!d' "$rest" >"$state/log.new"
  mv "$state/log.new" "$state/log"
  say "Done, but for what is named above; run this again when it is mended."
else
  [ ! -e "$state/made" ] || sed '1!G;h;$!d' "$state/made" >"$turned"
  [ -e "$state/made" ] || : >"$turned"
  rm -rf "$state"
  while IFS='|' read -r kind a; do
    [ "$kind" != p ] || rmdir "$a" 2>/dev/null || true
  done <"$turned"
  if [ $changed = 1 ]; then say "Done, but for what you changed since."; else say "Done: everything is as it was."; fi
fi
