#!/usr/bin/env bash
# A first backup by the command that is given: starts Kavrin over a folder, makes a project through
# the API as the page does, and waits until the document's bytes stand in the backup folder.
# usage: first-backup.sh COMMAND FOLDER PROJECT [word of start]…
set -euo pipefail
COMMAND="$1" FOLDER="$2" PROJECT="$3"
JAR="$FOLDER/.jar"

shift 3
link=$("$COMMAND" start --root "$FOLDER" "$@" | sed -n "s|^Open ||p" | tail -n 1)
base="${link%%/api/*}"
curl -fsSk -c "$JAR" -o /dev/null "$link"
curl -fsSk -b "$JAR" -c "$JAR" -o /dev/null "$base/api/session"
token=$(sed -n 's/.*XSRF-TOKEN[[:space:]]*//p' "$JAR")
began=$(date +%s)
curl -fsSk -b "$JAR" -o /dev/null -H "X-XSRF-TOKEN: $token" -H 'Content-Type: application/json' "$base/api/projects" -d @- <<JSON
{"name":"$PROJECT","folder":"$FOLDER/$PROJECT","rule":["*.csv"],"recovery":"$FOLDER/$PROJECT-kept",
 "plan":{"interval":"PT1S","quiet":"PT2S","hardLimit":"PT4H",
  "keep":{"newest":5,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0},"accepted":"PT30M"}}
JSON
work=$(find "$FOLDER/$PROJECT" -name '*.csv' | head -n 1)
until find "$FOLDER/$PROJECT-kept" -name '*.csv' -exec cmp -s "$work" {} \; -print 2>/dev/null | grep -q .; do
  [ $(($(date +%s) - began)) -lt 240 ] || { echo "no backup within four minutes" >&2; exit 1; }
  sleep 0.2
done
echo "first backup after $(($(date +%s) - began)) s"
