#!/bin/sh
# A program with one document: program.sh FILE LOCK HOLD
# LOCK: none, empty, or named (with its number and the machine); HOLD: held if it keeps the file open.
# It ends in order at TERM, taking its lock file along, and leaves it behind when it is killed.
file=$1
lock="$(dirname "$file")/.$(basename "${file%.*}").open"
case $2 in
  empty) : >"$lock" ;;
  named) printf 'pid=%s\nhost=%s\n' "$$" "$(uname -n)" >"$lock" ;;
esac
[ "$3" = held ] && exec 3<"$file"
trap '[ "$2" = none ] || rm -f "$lock"; exit 0' TERM
echo ready
while :; do
  sleep 0.1 3<&- &
  wait $!
done
