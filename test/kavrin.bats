#!/usr/bin/env bats
# The one script: what it takes for its own process, what it shows others, what it says at once.

setup() {
  WORLD="$(mktemp -d "${BATS_TMPDIR:-/tmp}/kavrin bats.XXXXXX")"
  export KAVRIN_HOME="$WORLD/home"
  mkdir -p "$KAVRIN_HOME" "$WORLD/bin"
  # shellcheck source=/dev/null
  source "$BATS_TEST_DIRNAME/../kavrin"
  # Whoever runs this, the files are theirs.
  ROOT=no
  OWNER=$(id -un)
  DATA="$WORLD/it's data"
  mkdir -p "$DATA"
}

teardown() {
  [ -z "${CHILD:-}" ] || kill "$CHILD" 2>/dev/null || true
  rm -rf "$WORLD"
}


service_like() {
  bash -c 'while :; do sleep 0.2; done' dev.kavrin.server.Kavrin &
  CHILD=$!
  until tr '\0' '\n' < "/proc/$CHILD/cmdline" | grep -qx dev.kavrin.server.Kavrin; do :; done
}

@test "without a pid file nothing runs" {
  run running "$DATA"
  [ "$status" -ne 0 ]
}

@test "a stale pid is not the service" {
  sleep 0 & local gone=$!
  wait "$gone"
  printf '%s\n%s\n' "$gone" 1 > "$DATA/kavrin.pid"
  run running "$DATA"
  [ "$status" -ne 0 ]
}

@test "a pid that another process has by now is not the service, and stop leaves it alone" {
  sleep 60 & CHILD=$!
  printf '%s\n%s\n' "$CHILD" "$(began "$CHILD")" > "$DATA/kavrin.pid"
  run running "$DATA"
  [ "$status" -ne 0 ]
  service_stop "$DATA"
  kill -0 "$CHILD"
  [ ! -f "$DATA/kavrin.pid" ]
}

@test "the same command with another start time is not the service" {
  service_like
  printf '%s\n%s\n' "$CHILD" 12345 > "$DATA/kavrin.pid"
  run running "$DATA"
  [ "$status" -ne 0 ]
  service_stop "$DATA"
  kill -0 "$CHILD"
}

@test "pid, start time and command together are the service" {
  service_like
  printf '%s\n%s\n' "$CHILD" "$(began "$CHILD")" > "$DATA/kavrin.pid"
  running "$DATA"
  [ "$(service_pid "$DATA")" = "$CHILD" ]
}

@test "a pid file that is no number is nothing" {
  echo "rm -rf" > "$DATA/kavrin.pid"
  run running "$DATA"
  [ "$status" -ne 0 ]
}

@test "settings survive quotes, spaces and backslashes" {
  echo 5610 > "$DATA/db.port"
  echo secret > "$DATA/db.password"
  write_settings "$DATA" 8700 "$WORLD/it's work:$WORLD/back\\slash" 'Ilse "Q" Quarn' ""
  grep -qxF "roots=$WORLD/it's work:$WORLD/back\\\\slash" "$DATA/kavrin.properties"
  grep -qxF 'person=Ilse "Q" Quarn' "$DATA/kavrin.properties"
  [ "$(stat -c %a "$DATA/kavrin.properties")" = 600 ]
}

@test "a store to start from is written down, its key where only the owner reads it" {
  printf 'access-key=a\nsecret-key=b\n' > "$WORLD/annex.key"
  write_from "$DATA" s3://annex/tarnwick service http://127.0.0.1:9 key "$WORLD/annex.key"
  grep -qxF 'address=s3://annex/tarnwick' "$DATA/from.properties"
  grep -qxF "key=annex.key" "$DATA/from.properties"
  run grep -q secret "$DATA/from.properties"
  [ "$status" -ne 0 ]
  cmp "$WORLD/annex.key" "$DATA/keys/annex.key"
  [ "$(stat -c %a "$DATA/keys/annex.key")" = 600 ]
}

@test "a key whose name would not be found again is refused before anything starts" {
  echo x > "$WORLD/my key"
  run cmd_start --from s3://annex --key "$WORLD/my key"
  [ "$status" -ne 0 ]
  [[ "$output" == *"letters, digits"* ]]
}

@test "a store that is no address is refused before anything starts" {
  run cmd_start --from annex
  [ "$status" -ne 0 ]
  [[ "$output" == *"not 'annex'"* ]]
}

@test "no password and no key is in a list of arguments" {
  cat > "$WORLD/bin/psql" <<'S'
#!/bin/sh
echo "$@" >> "$SEEN"; cat "$PGPASSFILE" > "$SEEN.pass"
S
  cat > "$WORLD/bin/curl" <<'S'
#!/bin/sh
echo "$@" >> "$SEEN"; cat >> "$SEEN.stdin"
S
  chmod +x "$WORLD/bin/psql" "$WORLD/bin/curl"
  export SEEN="$WORLD/seen"
  PATH="$WORLD/bin:$PATH"
  echo 5610 > "$DATA/db.port"
  echo sesame-password > "$DATA/db.password"
  echo sesame-door > "$DATA/door"
  echo port=8700 > "$DATA/kavrin.properties"
  db_sql "$DATA" postgres "select 1"
  new_link "$DATA"
  run grep -c sesame "$SEEN"
  [ "$output" = 0 ]
  grep -q sesame-password "$SEEN.pass"
  grep -q sesame-door "$SEEN.stdin"
  [ "$(stat -c %a "$DATA/pgpass")" = 600 ]
}

@test "a relative root becomes a whole path" {
  mkdir -p "$WORLD/my work"
  cd "$WORLD"
  [ "$(root_path "my work")" = "$WORLD/my work" ]
}

@test "a root that is not there, or has a colon, is refused with the way out" {
  run root_path "$WORLD/nowhere"
  [ "$status" -ne 0 ]
  [[ "$output" == *"there is no folder"*"mkdir -p"* ]]
  run root_path "$WORLD/a:b"
  [ "$status" -ne 0 ]
  [[ "$output" == *"colon"* ]]
  run root_path ""
  [ "$status" -ne 0 ]
}

@test "a root that may not be written is told with its mending" {
  as_owner() { false; }
  run check_roots "$WORLD"
  [ "$status" -ne 0 ]
  [[ "$output" == *"may not write in $WORLD"* ]]
  [[ "$output" == *"setfacl"* ]]
}

@test "a port that is taken is passed over" {
  node -e 'require("net").createServer().listen(0, "127.0.0.1", function () {
    require("fs").writeFileSync(process.argv[1], String(this.address().port)); })' "$WORLD/port" &
  CHILD=$!
  until [ -s "$WORLD/port" ]; do :; done
  local taken; taken=$(cat "$WORLD/port")
  [ "$(free_port "$taken")" -gt "$taken" ]
}

@test "five logs are kept, the newest first" {
  local n
  for n in 1 2 3 4 5 6 7; do
    turn_logs "$DATA"
    echo "run $n" > "$DATA/kavrin.log"
  done
  [ "$(cat "$DATA/kavrin.log")" = "run 7" ]
  [ "$(cat "$DATA/kavrin.log.1")" = "run 6" ]
  [ "$(cat "$DATA/kavrin.log.5")" = "run 2" ]
  [ ! -e "$DATA/kavrin.log.6" ]
}

@test "start without a root says what is needed" {
  install_missing() { :; }
  build() { :; }
  make_owner() { :; }
  run cmd_start
  [ "$status" -ne 0 ]
  [[ "$output" == *"--root"* ]]
}

@test "a start without roots proposes the folders that are there, as a command" {
  likely_roots() { printf '%s\n' "$WORLD" "$WORLD/bin it's"; }
  run asked_roots
  [ "$status" -ne 0 ]
  [[ "$output" == *"./kavrin start --root '$WORLD' --root '$WORLD/bin it'\\''s'"* ]]
}

@test "at a terminal a start without roots asks; an empty answer takes what it proposes" {
  local ask
  ask=$(mktemp)
  cat > "$ask" <<S
source "$BATS_TEST_DIRNAME/../kavrin"
OWNER=$OWNER
likely_roots() { printf '%s\n' "$WORLD"; }
echo "roots=\$(asked_roots)"
S
  run bash -c "printf '\n' | script -qec 'bash $ask' /dev/null"
  [[ "$output" == *"Under which folders"*"roots=$WORLD"* ]]
  run bash -c "printf '%s\n\n' '$WORLD/bin' | script -qec 'bash $ask' /dev/null"
  [[ "$output" == *"roots=$WORLD/bin"* ]]
  rm -f "$ask"
}

@test "a second start of a running service only gives a new link" {
  install_missing() { :; }
  build() { :; }
  make_owner() { :; }
  new_link() { echo "http://127.0.0.1:8700/api/enter"; }
  mkdir -p "$BASE/data"
  service_like
  printf '%s\n%s\n' "$CHILD" "$(began "$CHILD")" > "$BASE/data/kavrin.pid"
  run cmd_start --root "$WORLD"
  [ "$status" -eq 0 ]
  [[ "$output" == *"running already"*"Open http://127.0.0.1:8700/api/enter"* ]]
}

@test "a start that died halfway leaves nothing that counts as running" {
  install_missing() { :; }
  mkdir -p "$DATA/app"
  java() { :; }
  cat > "$WORLD/bin/java" <<'S'
#!/bin/sh
echo "no database"; exit 1
S
  chmod +x "$WORLD/bin/java"
  unset -f java
  PATH="$WORLD/bin:$PATH"
  run service_start "$DATA"
  [ "$status" -ne 0 ]
  [[ "$output" == *"the service ended"* ]]
  run running "$DATA"
  [ "$status" -ne 0 ]
}

@test "an unknown word prints what there is" {
  run main nonsense
  [ "$status" -eq 0 ]
  [[ "$output" == *"./kavrin demo"* ]]
}

@test "none but the offered capabilities can be allowed" {
  [ "$(capabilities dac_read_search,cap_chown)" = "dac_read_search chown " ]
  [ -z "$(capabilities none)" ]
  run capabilities sys_admin
  [ "$status" -ne 0 ]
  [[ "$output" == *"not 'sys_admin'"* ]]
}

@test "a service that root starts has what was allowed and nothing else" {
  [ "$(id -u)" = 0 ] || skip "needs root"
  ROOT=yes
  id kavrin >/dev/null 2>&1 || skip "no user kavrin yet"
  printf 'chown fowner ' > "$DATA/allowed"
  run as_service "$DATA" sed -n 's/^CapEff:[[:space:]]*//p' /proc/self/status
  # capabilities(7): CAP_CHOWN is bit 0, CAP_FOWNER bit 3.
  [ "$output" = 0000000000000009 ]
  rm "$DATA/allowed"
  run as_service "$DATA" sed -n 's/^CapEff:[[:space:]]*//p' /proc/self/status
  [ "$output" = 0000000000000000 ]
}

@test "a database elsewhere needs an address with a name, and its password in a file" {
  echo secret > "$WORLD/password"
  run db_elsewhere "$DATA" "mysql://x" "$WORLD/password"
  [[ "$output" == *"not 'mysql://x'"* ]]
  run db_elsewhere "$DATA" "postgresql://kavrin:secret@db/records" "$WORLD/password"
  [[ "$output" == *"into a file"* ]]
  run db_elsewhere "$DATA" "postgresql://kavrin@db/records" "$WORLD/none"
  [[ "$output" == *"there is no file"* ]]
  db_elsewhere "$DATA" "postgresql://kavrin@db:5432/records?sslmode=require" "$WORLD/password"
  [ "$(db_url "$DATA")" = "jdbc:postgresql://db:5432/records?sslmode=require" ]
  [ "$(db_user "$DATA")" = kavrin ]
  [ "$(stat -c %a "$DATA/db.elsewhere")" = 600 ]
}

@test "records of a PostgreSQL that is gone are told by its version and left alone" {
  mkdir -p "$DATA/pg" "$WORLD/pgs/17/bin"
  echo 15 > "$DATA/pg/PG_VERSION"
  PG_ROOT="$WORLD/pgs"
  run pg_bin "$DATA"
  [ "$status" -ne 0 ]
  [[ "$output" == *"postgresql-15"* ]]
  printf '#!/bin/sh\n' > "$WORLD/pgs/17/bin/initdb"; chmod +x "$WORLD/pgs/17/bin/initdb"
  [ "$(pg_bin "$WORLD/fresh")" = "$WORLD/pgs/17/bin" ]
}

@test "an authority of one's own is made once, its certificate anew before it ends" {
  own_authority "$DATA" office.tarnwick.test 8700 > "$WORLD/told"
  grep -q 'sha256 Fingerprint=' "$WORLD/told"
  openssl verify -CAfile "$DATA/tls/authority.crt" -verify_hostname office.tarnwick.test "$DATA/tls/server.crt"
  run openssl verify -CAfile "$DATA/tls/authority.crt" -verify_hostname other.test "$DATA/tls/server.crt"
  [ "$status" -ne 0 ]
  cp "$DATA/tls/authority.crt" "$WORLD/before"; cp "$DATA/tls/server.crt" "$WORLD/server"
  own_authority "$DATA" office.tarnwick.test 8700 >/dev/null
  cmp "$WORLD/before" "$DATA/tls/authority.crt"; cmp "$WORLD/server" "$DATA/tls/server.crt"
  # One that ends in ten days.
  openssl x509 -in "$DATA/tls/server.crt" -signkey "$DATA/tls/server.key" -days 10 -out "$WORLD/short" 2>/dev/null
  cp "$WORLD/short" "$DATA/tls/server.crt"
  own_authority "$DATA" office.tarnwick.test 8700 >/dev/null
  openssl x509 -in "$DATA/tls/server.crt" -noout -checkend $((300 * 86400))
  cmp "$WORLD/before" "$DATA/tls/authority.crt"
  # It vouches for no other name (RFC 5280, section 4.2.1.10).
  openssl x509 -in "$DATA/tls/authority.crt" -noout -text | grep -A3 'Name Constraints: critical' | grep -q 'DNS:office.tarnwick.test'
}

@test "the unit tells systemd of this command and this folder, in words it can verify" {
  command -v systemd-analyze >/dev/null || skip "no systemd here"
  SELF_PATH="$WORLD/bin/kavrin"; BASE="$WORLD/home of 100%"
  printf '#!/bin/sh\n' > "$SELF_PATH"; chmod +x "$SELF_PATH"
  unit_text > "$WORLD/kavrin.service"
  grep -qxF "PIDFile=$WORLD/home of 100%%/data/kavrin.pid" "$WORLD/kavrin.service"
  grep -qxF 'WantedBy=default.target' "$WORLD/kavrin.service"
  run systemd-analyze verify --user "$WORLD/kavrin.service"
  [[ "$output" != *kavrin.service:* ]]
  ROOT=yes
  unit_text > "$WORLD/kavrin.service"
  grep -qx 'NoNewPrivileges=yes' "$WORLD/kavrin.service"
  run systemd-analyze verify "$WORLD/kavrin.service"
  [[ "$output" != *kavrin.service:* ]]
}

@test "an unattended start hands nobody a link, neither at first nor when it runs already" {
  provide() { :; }; deploy() { :; }; records_start() { :; }; write_settings() { :; }
  service_start() { say "Open http://127.0.0.1:8700/api/enter?token=secret"; }
  new_link() { say "http://127.0.0.1:8700/api/enter?token=secret"; }
  run cmd_start --unattended --root "$WORLD"
  [ "$status" -eq 0 ]
  [[ "$output" != *token* ]]
  [[ "$output" == *"kavrin link"* ]]
  run cmd_start --root "$WORLD"
  [[ "$output" == *token* ]]
  running() { return 0; }
  run cmd_start --unattended
  [ "$output" = "Kavrin is running already." ]
}
