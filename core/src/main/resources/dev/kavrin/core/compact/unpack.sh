#!/bin/sh
# Gives back a compacted version: sh unpack.sh RECIPE > FILE
# Needs a POSIX shell, tail, head, sha256sum and zstd; nothing of Kavrin.
set -eu

[ $# = 1 ] || { echo "usage: sh unpack.sh RECIPE > FILE" >&2; exit 2; }
recipe=$1
top=$(cd "$(dirname "$0")" && pwd)

value() { sed -n "s/^$1 //p" "$recipe"; }

[ "$(sed -n 1p "$recipe")" = "kavrin recipe 1" ] && [ "$(sed -n '$p' "$recipe")" = end ] || {
  echo "$recipe is no whole recipe" >&2
  exit 1
}

# A range is some Zstandard frames that follow each other in a pack.
frames() {
  while read -r word offset packed _ pack; do
    [ "$word" = range ] || continue
    case "$pack" in .kavrin/packs/*) ;; *) echo "$pack is no pack" >&2; return 1 ;; esac
    tail -c "+$((offset + 1))" "$top/$pack" 2>/dev/null | head -c "$packed"
  done < "$recipe"
}

said=$(mktemp)
pipe=$(mktemp -u)
trap 'rm -f "$said" "$pipe"' EXIT
mkfifo "$pipe"
sha256sum < "$pipe" > "$said" &
frames | zstd -dcq | tee "$pipe"
wait

[ "$(cut -d ' ' -f 1 < "$said")" = "$(value sha256)" ] || {
  echo "What came out of $recipe is not what was backed up: a pack is damaged or missing" >&2
  exit 1
}
