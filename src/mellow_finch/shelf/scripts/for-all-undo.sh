#!/bin/sh
# Takes back what apply.sh copied for every user of this computer. What was edited since stays, and is said.
#   [ROOT=/some/folder] undo.sh
set -eu

here=$(cd "$(dirname "$0")" && pwd)
root=${ROOT-}
folder=$(sed -n 's/^folder=//p' "$here/about.txt")
name=$(sed -n 's/^name=//p' "$here/about.txt")
state=$root/var/lib/mellow-finch/$folder

say() { printf '%s\n' "$*"; }

case ${1-} in
  '') ;;
  --help | -h) sed -n '2,3s/^# \{0,1\}//p' "$0"; exit 0 ;;
  *) say "'$1' is not known here; try --help." >&2; exit 2 ;;
esac
if [ ! -e "$state/log" ]; then
  say "'$name' was not copied for every user here." >&2
  exit 1
fi
if [ -z "$root" ] && [ "$(id -u)" != 0 ]; then
  say "This writes outside of your home: run it as root." >&2
  exit 1
fi

left=0 compile=0
rest=$state/rest
: >"$rest"
while IFS='|' read -r what sum path; do
  place=$root/$path
  [ -e "$place" ] || continue
  if [ "$(cksum <"$place" | tr ' ' '-')" != "$sum" ]; then
    say "stays   /$path: it was edited since"
    printf '%s|%s|%s\n' "$what" "$sum" "$path" >>"$rest"
    left=1
    continue
  fi
  rm -f "$place"
  case $path in *.gschema.override) compile=1 ;; esac
done <"$state/log"
if [ $compile = 1 ] && command -v glib-compile-schemas >/dev/null 2>&1; then
  glib-compile-schemas "$root/usr/share/glib-2.0/schemas"
fi
if [ -e "$state/folders" ]; then
  sort -r "$state/folders" | while IFS='|' read -r _ path; do
    rmdir "$root/$path" 2>/dev/null || :
  done
fi
if [ $left = 1 ]; then
  mv "$rest" "$state/log"
  exit 1
fi
rm -rf "$state"
for above in var/lib/mellow-finch var/lib var; do
  rmdir "$root/$above" 2>/dev/null || :
done
say "'$name' was taken back."
