#!/bin/sh
# Puts a look's files into your home, each old file kept first; uninstall.sh beside it gives them back.
#   install.sh [--dry-run] [--only KIND]... [--all] [--no-settings] [--overwrite]
# KIND is one of those that --help lists; --all also takes programs that are not found here; --overwrite also takes the
# place of whole files that are there already, which stay otherwise.
# It never needs root, asks nothing, and touches nothing but what --dry-run lists.
set -eu

here=$(cd "$(dirname "$0")" && pwd)
lists=$here/lists
folder=$(sed -n 's/^folder=//p' "$lists/about.txt")
name=$(sed -n 's/^name=//p' "$lists/about.txt")
case ${XDG_STATE_HOME-} in /*) state=$XDG_STATE_HOME ;; *) state=$HOME/.local/state ;; esac
state=$state/parcels/$folder
dry=0 all=0 settings=1 only= overwrite=0

say() { printf '%s\n' "$*"; }

while [ $# -gt 0 ]; do
  case $1 in
    --dry-run) dry=1 ;;
    --all) all=1 ;;
    --no-settings) settings=0 ;;
    --overwrite) overwrite=1 ;;
    --only)
      [ $# -gt 1 ] || { say "--only wants a kind." >&2; exit 2; }
      only="$only|$2|"
      shift
      ;;
    --help | -h)
      sed -n '2,6s/^# \{0,1\}//p' "$0"
      say "Kinds:"
      cut -d'|' -f2 "$lists/components.txt" | sort -u | sed 's/^/  /'
      exit 0
      ;;
    *) say "'$1' is not known here; try --help." >&2; exit 2 ;;
  esac
  shift
done

case $HOME in /*) ;; *) say "HOME names no folder." >&2; exit 2 ;; esac
[ -d "$HOME" ] || { say "'$HOME' is no folder." >&2; exit 2; }
if [ -e "$state/log" ]; then
  say "'$name' is installed already; run uninstall.sh first." >&2
  exit 1
fi

# Whether a component is wanted: of a kind that was asked for, and with a program that is here.
wanted() {
  row=$(grep "^$1|" "$lists/components.txt") || return 1
  kind=$(printf '%s' "$row" | cut -d'|' -f2)
  if [ -n "$only" ]; then
    case $only in *"|$kind|"*) ;; *) return 1 ;; esac
  fi
  [ $all = 0 ] || return 0
  programs=$(printf '%s' "$row" | cut -d'|' -f3)
  [ -n "$programs" ] || return 0
  for program in $programs; do
    command -v "$program" >/dev/null 2>&1 && return 0
  done
  return 1
}

# The file that a path leads to, links followed.
target() {
  at=$1 turns=0
  while [ -L "$at" ] && [ $turns -lt 20 ]; do
    to=$(readlink "$at")
    case $to in /*) at=$to ;; *) at=$(dirname "$at")/$to ;; esac
    turns=$((turns + 1))
  done
  printf '%s' "$at"
}

escaped=$(printf '%s' "$HOME" | sed 's/[\\|&]/\\&/g')
fill() { sed "s|@HOME@|$escaped|g"; }

note() { printf '%s\n' "$*" >>"$state/log"; }

# Makes the folders above a path, each noted so that it goes again.
folders() {
  set -- "$(dirname "$1")"
  [ -d "$HOME/$1" ] && return 0
  folders "$1" && mkdir "$HOME/$1" 2>/dev/null || return 1
  note "d|$1"
}

# In which form the programs here want a file: "home", "other", or "none" where it is not written then. The first file
# that says yes or no decides.
form_of() {
  tab=$(printf '\t')
  while IFS=$tab read -r of form file yes no; do
    [ "$of" = "$1" ] || continue
    case $file in /*) ;; *) file=$HOME/$file ;; esac
    if grep -aEq -- "$yes" "$file" 2>/dev/null; then printf '%s' "$form"; return 0; fi
    if grep -aEq -- "$no" "$file" 2>/dev/null; then break; fi
  done <"$lists/others.txt"
  printf 'home'
}

# What a file is to hold: its way, its path, and its place here. Written to standard output.
fresh() {
  case $1 in
    after)
      cat "$2"
      [ -z "$(tail -c 1 "$2")" ] || printf '\n'
      fill <"$here/blocks/$3"
      ;;
    before)
      fill <"$here/blocks/$3"
      cat "$2"
      ;;
    text | new) fill <"$here/$form/$3" ;;
    *) cat "$here/$form/$3" ;;
  esac
}

put() {
  way=$1 path=$2 form=$(form_of "$2")
  [ "$form" != none ] || return 0
  place=$(target "$HOME/$path")
  if [ -e "$place" ] && [ ! -f "$place" ]; then
    say "left    ~/$path: it is no plain file"
    return 0
  fi
  if [ -e "$place" ]; then
    [ "$way" != new ] || { say "left    ~/$path: yours stays, as it cannot be added to"; return 0; }
    case $way in
      whole | text)
        if fresh "$way" "" "$path" | cmp -s - "$place"; then return 0; fi
        [ $overwrite = 1 ] || { say "left    ~/$path: there is one already (--overwrite takes its place)"; return 0; }
        ;;
    esac
    if [ ! -r "$place" ]; then say "left    ~/$path: it cannot be read"; return 0; fi
    what=change
  else
    case $way in after | before) way=text ;; esac
    what=create
  fi
  say "$what  ~/$path"
  [ $dry = 0 ] || return 0
  if ! folders "$path"; then
    say "left    ~/$path: a folder on the way cannot be made"
    return 0
  fi
  mkdir -p "$state/backup/$(dirname "$path")"
  work=$(dirname "$place")/.parcel-$$
  if ! (umask 077 && : >"$work") 2>/dev/null; then
    say "left    ~/$path: its folder cannot be written to"
    return 0
  fi
  note "t|$work"
  if [ "$what" = change ]; then
    alike "$place" "$state/backup/$path"
    alike "$place" "$work"
    chmod u+w "$work"
    fresh "$way" "$place" "$path" >"$work"
    chmod "$(stat -c %a "$place")" "$work"
  else
    fresh "$way" "" "$path" >"$work"
    chmod 644 "$work"
  fi
  note "f|$what|$(cksum <"$work" | tr ' ' '-')|$path"
  if [ "$what" = change ] && [ "$(stat -c %h "$place")" != 1 ] && [ -w "$place" ]; then
    cat "$work" >"$place" # a file of several names stays one
    rm -f "$work"
  else
    mv "$work" "$place"
  fi
}

# Copies a file with its mode, owner, times and attributes, as far as the system can.
alike() { cp -a "$1" "$2" 2>/dev/null || cp -p "$1" "$2"; }

# The value of a setting; empty and a failure where it is not set.
setting() {
  case $1 in
    gsettings)
      now=$(gsettings get "$2" "$3" 2>/dev/null) || return 1
      usual=$(GSETTINGS_BACKEND=memory gsettings get "$2" "$3" 2>/dev/null) || return 1
      [ "$now" != "$usual" ] || return 1
      printf '%s' "$now"
      ;;
    xfconf) xfconf-query -c "$2" -p "$3" 2>/dev/null ;;
  esac
}

choose() {
  store=$1 schema=$2 key=$3 value=$4
  case $store in
    gsettings) gsettings writable "$schema" "$key" >/dev/null 2>&1 || return 0 ;;
    xfconf) setting xfconf "$schema" "$key" >/dev/null || return 0 ;;
  esac
  say "set     $schema $key: $value"
  [ $dry = 0 ] || return 0
  if old=$(setting "$store" "$schema" "$key"); then had=1; else had=0 old=; fi
  note "s|$store|$schema|$key|$value|$had|$old"
  case $store in
    gsettings) gsettings set "$schema" "$key" "'$value'" 2>/dev/null || true ;;
    xfconf) xfconf-query -c "$schema" -p "$key" -s "$value" 2>/dev/null || true ;;
  esac
  now=$(setting "$store" "$schema" "$key" || true)
  if [ "$now" != "'$value'" ] && [ "$now" != "$value" ]; then
    usual=
    [ "$store" != gsettings ] || usual=$(GSETTINGS_BACKEND=memory gsettings get "$schema" "$key" 2>/dev/null || true)
    [ "$usual" = "'$value'" ] || [ "$usual" = "$value" ] || say "left    $schema $key: the desktop did not take it"
  fi
}

# Folders above the log that are not there yet go with it.
missing() {
  [ -d "$1" ] && return 0
  missing "$(dirname "$1")"
  printf 'p|%s\n' "$1"
}

if [ $dry = 0 ]; then
  made=$(missing "$(dirname "$state")")
  mkdir -p "$state"
  [ -z "$made" ] || printf '%s\n' "$made" >"$state/made"
  : >"$state/log"
fi
say "'$name', $(wc -l <"$lists/files.txt" | tr -d ' ') files at most:"
while IFS='|' read -r component way path; do
  if [ "$component" = - ] || wanted "$component"; then put "$way" "$path"; fi
done <"$lists/files.txt"
if [ $settings = 1 ] && [ -z "$only" ]; then
  while IFS='|' read -r store schema key value; do
    command -v "$([ "$store" = xfconf ] && echo xfconf-query || echo gsettings)" >/dev/null 2>&1 || continue
    value=$(printf '%s' "$value" | fill)
    case $key in
      *'*'*)
        # shellcheck disable=SC2254
        xfconf-query -c "$schema" -l 2>/dev/null | while read -r one; do
          case $one in $key) choose "$store" "$schema" "$one" "$value" ;; esac
        done
        ;;
      *) choose "$store" "$schema" "$key" "$value" ;;
    esac
  done <"$lists/settings.txt"
fi
if [ $dry = 1 ]; then say "Nothing was changed."; else say "Done. 'uninstall.sh' gives back what was there."; fi
