#!/bin/sh
# UNTESTED: nobody has run this on macOS yet. It needs a Java 17 runtime and a PostgreSQL database,
# and a settings file as in kavrin.properties.example. What this system cannot tell (who has a file
# open, capabilities) stands as "unknown" on the screens.
set -eu
here=$(cd "$(dirname "$0")/.." && pwd)
settings=${1:?"usage: kavrin-macos-untested.sh SETTINGS-FILE (see kavrin.properties.example)"}
exec java -Xmx512m -Dfile.encoding=UTF-8 -cp "$here/lib/*" dev.kavrin.server.Kavrin "$settings"
