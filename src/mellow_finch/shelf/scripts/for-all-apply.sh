#!/bin/sh
# Copies a look's themes, and defaults that name them, for every user of this computer. undo.sh gives everything back.
#   [ROOT=/some/folder] apply.sh [--dry-run]
# Files of other looks and programs that are there already are never overwritten: they are told.
set -eu

here=$(cd "$(dirname "$0")" && pwd)
root=${ROOT-}
folder=$(sed -n 's/^folder=//p' "$here/about.txt")
name=$(sed -n 's/^name=//p' "$here/about.txt")
state=$root/var/lib/mellow-finch/$folder
dry=0

say() { printf '%s\n' "$*"; }

case ${1-} in
  '') ;;
  --dry-run) dry=1 ;;
  --help | -h) sed -n '2,4s/^# \{0,1\}//p' "$0"; exit 0 ;;
  *) say "'$1' is not known here; try --help." >&2; exit 2 ;;
esac
if [ -e "$state/log" ]; then
  say "'$name' is there for every user already; run undo.sh first." >&2
  exit 1
fi
if [ $dry = 0 ] && [ -z "$root" ] && [ "$(id -u)" != 0 ]; then
  say "This writes outside of your home: run it as root, or with ROOT set to a folder." >&2
  exit 1
fi

[ $dry = 1 ] || mkdir -p "$state"
compile=0 stays=0
cd "$here/tree"
list=$(mktemp)
trap 'rm -f "$list"' EXIT
find . -type f | sort >"$list"
while IFS= read -r file; do
  path=${file#./}
  place=$root/$path
  if [ -e "$place" ]; then
    if cmp -s "$file" "$place"; then
      continue
    fi
    say "stays   /$path: another file is there already"
    stays=1
    continue
  fi
  say "create  /$path"
  case $path in *.gschema.override) compile=1 ;; esac
  [ $dry = 1 ] && continue
  above=$(dirname "$path")
  while [ ! -d "$root/$above" ]; do
    printf 'folder|%s\n' "$above" >>"$state/folders"
    above=$(dirname "$above")
  done
  mkdir -p "$(dirname "$place")"
  printf 'create|%s|%s\n' "$(cksum <"$file" | tr ' ' '-')" "$path" >>"$state/log"
  cp "$file" "$place.new"
  chmod 644 "$place.new"
  mv "$place.new" "$place"
done <"$list"
if [ $compile = 1 ] && [ $dry = 0 ] && command -v glib-compile-schemas >/dev/null 2>&1; then
  glib-compile-schemas "$root/usr/share/glib-2.0/schemas"
fi
[ $stays = 0 ] || say "What stays was not changed: add its lines by hand where you want them."
say "Users see it from their next login on, where they have chosen nothing else."
