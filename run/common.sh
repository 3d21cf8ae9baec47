# shellcheck shell=bash
# What both commands share: the one of a checkout (./kavrin) and the one of a release
# (release/bin/kavrin). Whoever sources this says before:
#   SELF       how a person calls the command;  SELF_PATH  where it lies;  HERE  its programs' folder
#   provide            sees to it that what is needed is there
#   packages_missing   Debian packages that are not, on one line
#   deploy DATA        lays the programs where the service's user can read them
#   app_folder DATA    where they lie then;  archive_file DATA  their archive of loaded classes
export LANG=C.UTF-8 LC_ALL=C.UTF-8 DEBIAN_FRONTEND=noninteractive

ROOT=$([ "$(id -u)" = 0 ] && echo yes || echo no)
OWNER=$([ "$ROOT" = yes ] && echo kavrin || id -un)
if [ -n "${KAVRIN_HOME:-}" ]; then BASE="$KAVRIN_HOME"
elif [ "$ROOT" = yes ]; then BASE=/var/lib/kavrin
else BASE="${XDG_DATA_HOME:-$HOME/.local/share}/kavrin"; fi
JAVA_OPTS=(-Xmx512m -XX:+UseSerialGC -XX:TieredStopAtLevel=4 -Xshare:auto -Dfile.encoding=UTF-8 -Dsun.jnu.encoding=UTF-8)
PG_ROOT=/usr/lib/postgresql

say() { printf '%s\n' "$*"; }

die() { printf 'kavrin: %s\n' "$*" >&2; exit 1; }

make_owner() {
  if [ "$ROOT" = yes ] && ! id kavrin >/dev/null 2>&1; then
    useradd --system --home-dir /var/lib/kavrin --shell /usr/sbin/nologin kavrin
  fi
  mkdir -p "$BASE"
  [ "$ROOT" = no ] || chown kavrin: "$BASE"
}

# Text as one word of a shell that reads it once more.
quoted() { printf "'%s'" "${1//\'/\'\\\'\'}"; }

# Text as a value in a properties file.
escaped() { printf '%s' "${1//\\/\\\\}"; }

# Text from standard input into a file that only its owner may read.
private_file() { as_owner bash -c 'umask 077; cat > "$1"' _ "$1"; }

as_owner() {
  if [ "$ROOT" = yes ]; then
    setpriv --reuid=kavrin --regid=kavrin --init-groups env HOME="$BASE" "$@"
  else
    "$@"
  fi
}

# What the service may beside its own user's rights, each a capability of Linux (capabilities(7)).
CAPABILITIES="dac_read_search fowner chown"

# As the owner, with what was allowed at start; only root can hand that on.
as_service() { # data command…
  local data="$1" allowed; shift
  allowed=$(cat "$data/allowed" 2>/dev/null || true)
  if [ "$ROOT" = no ] || [ -z "$allowed" ]; then as_owner "$@"; return; fi
  local each sets=-all
  for each in $allowed; do sets="$sets,+$each"; done
  setpriv --reuid=kavrin --regid=kavrin --init-groups --bounding-set="$sets" --inh-caps="$sets" --ambient-caps="$sets" \
    env HOME="$BASE" "$@"
}

# The names as setpriv(1) has them, none but those that are offered.
capabilities() { # list, by commas
  local each asked
  IFS=, read -r -a asked <<<"$1"
  for each in "${asked[@]}"; do
    each="${each#cap_}"
    [ "$each" = none ] && continue
    case " $CAPABILITIES " in *" $each "*) printf '%s ' "$each" ;; *) die "--allow takes: none ${CAPABILITIES// / or }, by commas; not '$each'" ;; esac
  done
}

free_port() {
  local port=$1
  while (exec 3<>"/dev/tcp/127.0.0.1/$port") 2>/dev/null; do port=$((port + 1)); done
  say "$port"
}

# ---- records --------------------------------------------------------------------------------
# The programs of PostgreSQL that go with the records of a data folder; the newest for new ones.
pg_bin() { # data
  local version
  if [ -f "$1/pg/PG_VERSION" ]; then
    version=$(as_owner cat "$1/pg/PG_VERSION")
    [ -x "$PG_ROOT/$version/bin/pg_ctl" ] ||
      die "the records in $1/pg are PostgreSQL $version's, which is not installed. Nothing was changed. Run:
  apt-get install postgresql-$version"
  else
    version=$(newest_pg)
    [ -n "$version" ] || die "PostgreSQL is not installed. Run: apt-get install postgresql"
  fi
  say "$PG_ROOT/$version/bin"
}

newest_pg() {
  local each
  for each in "$PG_ROOT"/*/bin/initdb; do
    [ ! -x "$each" ] || basename "$(dirname "$(dirname "$each")")"
  done | sort -n | tail -n 1
}

# Records on a server that somebody else runs: its address, and a file with the password.
db_elsewhere() { # data address password-file
  local rest="${2#postgresql://}" user
  case "$2" in postgresql://?*@?*/?*) ;; *) die "a database is postgresql://USER@HOST[:PORT]/NAME, not '$2'" ;; esac
  user="${rest%%@*}"; rest="${rest#*@}"
  case "$user" in *:*) die "put the password into a file, not into the address: --database-password FILE" ;; esac
  [ -f "$3" ] || die "there is no file '$3' with the database's password: --database-password FILE"
  as_owner mkdir -p "$1"
  tr -d '\n' < "$3" | private_file "$1/db.password"
  printf 'jdbc:postgresql://%s\n%s\n' "$rest" "$user" | private_file "$1/db.elsewhere"
}

# Own records are started; those elsewhere are somebody else's to run.
records_start() { # data port
  [ -f "$1/db.elsewhere" ] || db_start "$1" "$2"
}

db_url() { # data
  if [ -f "$1/db.elsewhere" ]; then head -n 1 "$1/db.elsewhere"
  else say "jdbc:postgresql://127.0.0.1:$(cat "$1/db.port")/kavrin"; fi
}

db_user() { # data
  if [ -f "$1/db.elsewhere" ]; then tail -n 1 "$1/db.elsewhere"; else say kavrin; fi
}

# Of its own and on loopback only; tests, which connect hundreds of times, spare the password's digest.
db_start() { # data [port] [server-options] [authentication]
  local data="$1" pg="$1/pg" bin
  bin=$(pg_bin "$1") || exit 1
  if [ ! -f "$pg/PG_VERSION" ]; then
    as_owner bash -c 'umask 077; mkdir -p "$1"' _ "$pg"
    head -c 24 /dev/urandom | base64 | tr -d '/+=\n' | private_file "$data/db.password"
    as_owner "$bin/initdb" -D "$pg" -U kavrin -A "${4:-scram-sha-256}" --pwfile="$data/db.password" \
      -E UTF8 --locale=C.UTF-8 >/dev/null
  fi
  if ! as_owner "$bin/pg_ctl" -D "$pg" status >/dev/null 2>&1; then
    local port; port=$(free_port "${2:-5610}")
    printf '%s' "$port" | private_file "$data/db.port"
    as_owner "$bin/pg_ctl" -D "$pg" -w -l "$data/pg.log" \
      -o "-c listen_addresses=127.0.0.1 -c port=$port -c unix_socket_directories=$(quoted "$data") ${3:-}" start >/dev/null \
      || die "PostgreSQL did not start; see $data/pg.log"
  fi
  if [ "$(db_sql "$data" postgres "select 1 from pg_database where datname='kavrin'")" != 1 ]; then
    db_sql "$data" postgres "create database kavrin" >/dev/null
  fi
}

# The password goes by a file: a list of arguments can be read by everybody.
db_sql() {
  printf '127.0.0.1:*:*:kavrin:%s' "$(cat "$1/db.password")" | private_file "$1/pgpass"
  as_owner env PGPASSFILE="$1/pgpass" psql -h 127.0.0.1 -p "$(cat "$1/db.port")" \
    -U kavrin -d "$2" -Atqc "$3"
}

db_stop() {
  local bin
  [ -f "$1/pg/PG_VERSION" ] || return 0
  bin=$(pg_bin "$1") || return 0
  if as_owner "$bin/pg_ctl" -D "$1/pg" status >/dev/null 2>&1; then
    as_owner "$bin/pg_ctl" -D "$1/pg" -w -m fast stop >/dev/null
  fi
}

# ---- service --------------------------------------------------------------------------------
# When a process began, in ticks since the machine did (proc(5), field 22).
began() {
  local stat
  stat=$(cat "/proc/$1/stat" 2>/dev/null) || return 1
  # shellcheck disable=SC2086
  set -- ${stat##*) }
  say "${20}"
}

# A pid counts only with its start time and its command: another's process is never taken for ours.
running() {
  local pid start
  [ -f "$1/kavrin.pid" ] || return 1
  { read -r pid && { read -r start || true; }; } < "$1/kavrin.pid" || [ -n "${pid:-}" ] || return 1
  case "$pid" in ''|*[!0-9]*) return 1 ;; esac
  [ -z "${start:-}" ] || [ "$(began "$pid")" = "$start" ] || return 1
  tr '\0' '\n' 2>/dev/null < "/proc/$pid/cmdline" | grep -qx 'dev.kavrin.server.Kavrin'
}

service_pid() { head -n 1 "$1/kavrin.pid"; }

# An authority of this machine's own, for this machine's own names only; colleagues take it into
# their browsers once, by the fingerprint that is printed.
own_authority() { # data name
  local tls="$1/tls" names="DNS:$2,DNS:localhost,IP:127.0.0.1"
  as_owner bash -c 'umask 077; mkdir -p "$1"' _ "$tls"
  if [ ! -f "$tls/authority.crt" ] || [ "$(as_owner cat "$tls/name" 2>/dev/null)" != "$2" ]; then
    as_owner bash -c 'umask 077
      openssl req -x509 -newkey ec -pkeyopt ec_paramgen_curve:P-256 -nodes -days 3650 -subj "/CN=Kavrin on $2" \
        -keyout "$1/authority.key" -out "$1/authority.crt" \
        -addext "basicConstraints=critical,CA:TRUE,pathlen:0" -addext "keyUsage=critical,keyCertSign" \
        -addext "nameConstraints=critical,permitted;DNS:$2,permitted;DNS:localhost,permitted;IP:127.0.0.1/255.255.255.255" 2>/dev/null
      rm -f "$1/server.crt"; printf %s "$2" > "$1/name"' _ "$tls" "$2"
  fi
  # Browsers take a server's certificate for 398 days at most; a month before its end comes a new one.
  if ! as_owner openssl x509 -in "$tls/server.crt" -noout -checkend $((30 * 86400)) >/dev/null 2>&1; then
    as_owner bash -c 'umask 077
      openssl req -newkey ec -pkeyopt ec_paramgen_curve:P-256 -nodes -subj "/CN=$2" -keyout "$1/server.key" -out "$1/server.csr" 2>/dev/null
      printf "subjectAltName=%s\nextendedKeyUsage=serverAuth\nbasicConstraints=CA:FALSE\n" "$3" > "$1/server.ext"
      openssl x509 -req -in "$1/server.csr" -CA "$1/authority.crt" -CAkey "$1/authority.key" -CAcreateserial \
        -days 397 -extfile "$1/server.ext" -out "$1/server.crt" 2>/dev/null
      rm -f "$1/server.csr" "$1/server.ext"' _ "$tls" "$2" "$names"
  fi
  [ -s "$tls/server.crt" ] || die "no certificate could be made in $tls; is openssl there?"
  say "Others open https://$2:$3/ once their browsers know this authority:"
  say "  $tls/authority.crt"
  say "  $(as_owner openssl x509 -in "$tls/authority.crt" -noout -fingerprint -sha256)"
}

# How Kavrin answers off loopback, as lines of its settings; nothing while it does not.
write_outside() { # data name port certificate key
  local certificate="$4" key="$5"
  if [ -z "$certificate" ]; then
    own_authority "$1" "$2" "$3" >&2
    certificate="$1/tls/server.crt"; key="$1/tls/server.key"
  fi
  printf 'name=%s\ntls.certificate=%s\ntls.key=%s\n' "$2" "$(escaped "$certificate")" "$(escaped "$key")" | private_file "$1/outside"
}

here() { # data
  local scheme=http
  [ ! -f "$1/outside" ] || scheme=https
  say "$scheme://127.0.0.1:$(sed -n 's/^port=//p' "$1/kavrin.properties")"
}

write_settings() { # data port roots person adopt
  private_file "$1/kavrin.properties" <<EOF
data=$(escaped "$1")
port=$2
roots=$(escaped "$3")
person=$(escaped "$4")
adopt=$(escaped "$5")
db.url=$(db_url "$1")
db.user=$(db_user "$1")
db.password=$(cat "$1/db.password")
$(cat "$1/outside" 2>/dev/null || true)
EOF
}

# Loaded classes are archived when the service first stops; later starts take them from there.
class_archive() { # data
  local archive; archive=$(archive_file "$1")
  if [ -f "$archive" ]; then say "-XX:SharedArchiveFile=$archive"; else say "-XX:ArchiveClassesAtExit=$archive"; fi
}

# The last five runs' output is kept; what the service tells while it runs is in service.log, which
# it turns over by itself.
turn_logs() { # data
  local n
  for n in 4 3 2 1; do
    [ ! -f "$1/kavrin.log.$n" ] || mv "$1/kavrin.log.$n" "$1/kavrin.log.$((n + 1))"
  done
  [ ! -f "$1/kavrin.log" ] || mv "$1/kavrin.log" "$1/kavrin.log.1"
}

service_start() {
  local data="$1" pid
  rm -f "$data/kavrin.pid"
  turn_logs "$data"
  pid=$(as_service "$data" bash -c 'umask 077; cd "$1"; shift; nohup java "$@" > kavrin.log 2>&1 < /dev/null & echo $!' _ \
    "$data" "${JAVA_OPTS[@]}" "$(class_archive "$data")" -Xlog:cds=off -Xlog:cds+dynamic=off \
    "-Dlogging.file.name=$data/service.log" -Dlogging.threshold.console=OFF \
    -cp "$(app_folder "$data")/*" dev.kavrin.server.Kavrin "$data/kavrin.properties")
  printf '%s\n%s\n' "$pid" "$(began "$pid")" | private_file "$data/kavrin.pid"
  local waited=0
  until grep -q '^Open ' "$data/kavrin.log" 2>/dev/null; do
    kill -0 "$pid" 2>/dev/null || {
      tail -n 20 "$data/kavrin.log" "$data/service.log" >&2 2>/dev/null || true
      die "the service ended; its logs are $data/kavrin.log and $data/service.log"
    }
    sleep 0.2; waited=$((waited + 1))
    [ $waited -lt 1500 ] || die "the service did not come up within five minutes; its log is $data/service.log"
  done
  grep '^Open ' "$data/kavrin.log" | tail -n 1
}

service_stop() {
  if running "$1"; then
    kill "$(service_pid "$1")"
    local waited=0
    while running "$1" && [ $waited -lt 600 ]; do sleep 0.1; waited=$((waited + 1)); done
    if running "$1"; then kill -9 "$(service_pid "$1")"; fi
  fi
  rm -f "$1/kavrin.pid"
}

new_link() {
  printf 'header = "X-Kavrin-Door: %s"\n' "$(cat "$1/door")" | curl -fsSk -X POST -K - "$(here "$1")/api/door"
  say ""
}

zone() { if [ -f /etc/timezone ]; then cat /etc/timezone; else say UTC; fi; }

# A root as a whole path; it must be a folder that is there.
root_path() {
  case "$1" in
    "") die "say which folder: --root FOLDER" ;;
    *:*) die "a root cannot have a colon in its name: $1" ;;
  esac
  [ -d "$1" ] || die "there is no folder $1. Make it first, or mount its drive: mkdir -p $(quoted "$1")"
  realpath -- "$1"
}

# Folders in which work and backups may lie on this machine: one a line, those the user may write.
likely_roots() {
  local each home
  home=$(getent passwd "$OWNER" | cut -d: -f6)
  for each in "$home" /srv/* /mnt/* /media/* /media/*/*; do
    [ -d "$each" ] && [ "$each" != / ] && as_owner test -w "$each" 2>/dev/null && printf '%s\n' "$each"
  done
  return 0
}

# Asks whoever sits there under which folders work and backups may lie; elsewhere says how to.
asked_roots() {
  local likely answer each roots=""
  likely=$(likely_roots)
  if [ ! -t 0 ]; then
    die "say under which folders your work and your backups may lie${likely:+; here these could be meant}:
  $SELF start$(while IFS= read -r each; do [ -z "$each" ] || printf ' --root %s' "$(quoted "$each")"; done <<<"${likely:-/srv/work
/mnt/keep}")"
  fi
  {
    say "Under which folders may Kavrin read your work and keep its backups?"
    [ -z "$likely" ] || printf '  %s\n' "$likely"
    printf 'One after the other, then an empty line%s: ' "${likely:+ (at once: those above)}"
  } >&2
  while IFS= read -r answer && [ -n "$answer" ]; do
    roots="${roots:+$roots:}$(root_path "$answer")"
  done
  [ -n "$roots" ] || roots=$(paste -sd: <<<"$likely")
  [ -n "$roots" ] || die "no folder was said. Nothing was started."
  printf '%s' "$roots"
}

# Says at once which root the user Kavrin runs as may not write, and how to mend it.
check_roots() { # roots
  local root each
  IFS=: read -r -a each <<<"$1"
  for root in "${each[@]}"; do
    as_owner test -w "$root" 2>/dev/null || die "user $OWNER may not write in $root. Best start Kavrin as the person
whose files they are (no root needed). Or let $OWNER in:
  setfacl -R -m u:$OWNER:rwX -m d:u:$OWNER:rwX $(quoted "$root")"
  done
}

# On a new machine: where a store elsewhere is, and the files that open it, laid where only the
# owner reads them.
write_from() { # data address [word value]…
  local data="$1" word name; shift
  {
    printf 'address=%s\n' "$(escaped "$1")"; shift
    while [ $# -gt 0 ]; do
      word="$1"; name="$2"; shift 2
      case "$word" in
        key|authority|passphrase)
          as_owner mkdir -p "$data/keys"
          private_file "$data/keys/$(basename "$name")" < "$name"
          name=$(basename "$name") ;;
      esac
      printf '%s=%s\n' "$word" "$(escaped "$name")"
    done
  } | private_file "$data/from.properties"
}

tls_file() {
  [ -f "$1" ] || die "there is no file '$1'. Off loopback Kavrin answers by TLS only"
  realpath -- "$1"
}

cmd_start() {
  local data="$BASE/data" roots="" port="" adopt="" from="" said=() database="" password="" allow="" name="" certificate="" key="" attended=yes
  while [ $# -gt 0 ]; do
    case "$1" in
      --root) roots="${roots:+$roots:}$(root_path "${2:-}")"; shift 2 ;;
      --port) port="$2"; shift 2 ;;
      --adopt) adopt="$2"; shift 2 ;;
      --name) name="${2:-}"; shift 2
        [[ "$name" =~ ^[A-Za-z0-9]([A-Za-z0-9.-]*[A-Za-z0-9])?$ ]] || die "--name takes this machine's name as the others call it, not '$name'" ;;
      --certificate) certificate=$(tls_file "${2:-}"); shift 2 ;;
      --certificate-key) key=$(tls_file "${2:-}"); shift 2 ;;
      --database) database="${2:-}"; shift 2 ;;
      --database-password) password="${2:-}"; shift 2 ;;
      --unattended) attended=no; shift ;;
      --allow) [ "$ROOT" = yes ] || die "--allow is for a service that root starts; you start Kavrin as yourself, with all you may"
        capabilities "${2:-}" >/dev/null; allow="${2:-}"; shift 2 ;;
      --from) from="${2:-}"; shift 2
        case "$from" in s3://?*|/?*) ;; *) die "a store is s3://BUCKET/BEGIN or a mounted FOLDER, not '$from'" ;; esac ;;
      --service|--region) said+=("${1#--}" "${2:-}"); shift 2 ;;
      --key|--authority|--passphrase)
        [ -f "${2:-}" ] || die "there is no file ${2:-} for $1"
        [[ "$(basename "$2")" =~ ^[A-Za-z0-9][A-Za-z0-9._-]*$ ]] ||
          die "name $2 with letters, digits, dots and dashes only; it is laid beside the other keys"
        said+=("${1#--}" "$2"); shift 2 ;;
      *) die "usage: $SELF start [--root FOLDER]… [--port N] [--adopt RECOVERY-FOLDER] [--unattended]
       [--name THIS-MACHINE [--certificate FILE --certificate-key FILE]]
       [--allow CAPABILITY,…|none] [--database postgresql://USER@HOST[:PORT]/NAME --database-password FILE]
       [--from s3://BUCKET/BEGIN --service URL --key FILE | --from FOLDER] [--region R] [--authority FILE] [--passphrase FILE]" ;;
    esac
  done
  provide
  if running "$data"; then
    [ -z "$from" ] || write_from "$data" "$from" "${said[@]}"
    say "Kavrin is running already."
    if [ $attended = yes ]; then printf 'Open '; new_link "$data"; fi
    return 0
  fi
  if [ -f "$data/kavrin.properties" ]; then
    [ -n "$roots" ] || roots=$(sed -n 's/^roots=//p' "$data/kavrin.properties")
    [ -n "$port" ] || port=$(sed -n 's/^port=//p' "$data/kavrin.properties")
  fi
  [ -n "$roots" ] || roots=$(asked_roots)
  check_roots "$roots"
  if [ -n "$port" ] && [ "$(free_port "$port")" != "$port" ]; then
    die "port $port is taken by another program. Choose one: $SELF start --port $(free_port $((port + 1)))"
  fi
  deploy "$data"
  if [ -n "$database" ]; then
    [ ! -d "$data/pg" ] || die "this Kavrin has records of its own in $data/pg. Only a new one takes an address of others'"
    db_elsewhere "$data" "$database" "$password"
  fi
  if [ -n "$certificate$key" ] && { [ -z "$name" ] || [ -z "$certificate" ] || [ -z "$key" ]; }; then
    die "--certificate and --certificate-key go together, and with --name"
  fi
  [ -z "$allow" ] || capabilities "$allow" | private_file "$data/allowed"
  records_start "$data" 5620
  port="${port:-$(free_port 8700)}"
  if [ -z "$name" ] && [ -f "$data/outside" ]; then
    # As before; an authority of one's own makes a new certificate in time.
    name=$(as_owner sed -n 's/^name=//p' "$data/outside")
    certificate=$(as_owner sed -n 's/^tls.certificate=//p' "$data/outside"); key=$(as_owner sed -n 's/^tls.key=//p' "$data/outside")
    [ "$certificate" != "$(escaped "$data/tls/server.crt")" ] || certificate=""
  fi
  if [ "$name" = localhost ]; then rm -f "$data/outside"
  elif [ -n "$name" ]; then write_outside "$data" "$name" "$port" "$certificate" "$key"; fi
  write_settings "$data" "$port" "$roots" "$(id -un)" "$adopt"
  [ -z "$from" ] || write_from "$data" "$from" "${said[@]}"
  # A link lets its reader in: it is no line for the machine's log, which others read.
  if [ $attended = yes ]; then service_start "$data"
  else service_start "$data" > /dev/null; say "Kavrin runs. A link to it: $SELF link"; fi
}

# ---- always there ---------------------------------------------------------------------------
packaged() { [ "$ROOT" = yes ] && [ "$HERE" = /usr/share/kavrin ]; }

unit_folder() {
  if packaged; then say /lib/systemd/system; elif [ "$ROOT" = yes ]; then say /etc/systemd/system; else say "${XDG_CONFIG_HOME:-$HOME/.config}/systemd/user"; fi
}

systemd() { if [ "$ROOT" = yes ]; then systemctl "$@"; else systemctl --user "$@"; fi; }

cmd_service() {
  local unit; unit="$(unit_folder)/kavrin.service"
  case "${1:-}" in
    install) service_install "$unit" ;;
    remove)
      [ -f "$unit" ] || { say "No unit is installed."; return 0; }
      systemd disable --quiet --now kavrin.service 2>/dev/null || systemd disable --quiet kavrin.service
      packaged || rm -f "$unit"
      if booted; then systemd daemon-reload; fi
      say "Kavrin no longer starts with the machine. Backups and settings stay as they are." ;;
    status)
      if [ ! -f "$unit" ]; then say "Not installed. Run: $SELF service install"; return 1; fi
      say "unit     $unit"
      say "at boot  $(systemd is-enabled kavrin.service 2>/dev/null || say no)"
      if running "$BASE/data"; then say "running  yes"; else say "running  no"; return 1; fi ;;
    *) die "usage: $SELF service install|remove|status" ;;
  esac
}

booted() { [ -d /run/systemd/system ]; }

# With the machine, once the drives are there; nobody's signing in waits for it.
service_install() { # unit
  command -v systemctl >/dev/null 2>&1 || die "this machine has no systemd. Start Kavrin at boot by: $SELF_PATH start"
  [ -f "$BASE/data/kavrin.properties" ] || die "start Kavrin once first, so that it knows its roots:
  $SELF start --root FOLDER …"
  if ! packaged; then
    mkdir -p "$(dirname "$1")"
    unit_text > "$1"
  fi
  systemd enable --quiet kavrin.service
  if [ "$ROOT" = no ]; then
    loginctl enable-linger "$(id -un)" 2>/dev/null || say "Ask an administrator for: loginctl enable-linger $(id -un)"
  fi
  if booted; then
    systemd daemon-reload
    cmd_stop data >/dev/null
    systemd start kavrin.service
  fi
  say "Kavrin starts with the machine, by $1."
}

# The package's unit, told of another command and another folder; a person's own service manager
# gives no capabilities away and takes none.
unit_text() {
  local changed=(-e "s|/var/lib/kavrin|${BASE//%/%%}|" -e "s|=/usr/bin/kavrin |=\"${SELF_PATH//%/%%}\" |")
  if [ "$ROOT" = no ]; then changed+=(-e '/^CapabilityBoundingSet=/d' -e '/^# What the service may/d' -e 's/multi-user\.target/default.target/'); fi
  sed "${changed[@]}" "$HERE/run/kavrin.service"
}

# What the service may beyond its own user, and what is therefore unknown or left undone.
allowed_lines() { # data
  [ "$ROOT" = yes ] || return 0
  local allowed; allowed=" $(cat "$1/allowed" 2>/dev/null || true)"
  allowed_line "$allowed" dac_read_search "files that only their owner may read are read" "such files are not read: their state is unknown"
  allowed_line "$allowed" fowner "times and modes of other people's files are kept when one is restored" "a restored file of another person keeps no times or mode of its own"
  allowed_line "$allowed" chown "restored files belong to whom they belonged before" "a restored file belongs to $OWNER"
}

allowed_line() { # allowed capability with without
  case "$1" in *" $2 "*) say "ok    $2: $3" ;; *) say "note  without $2: $4" ;; esac
}

cmd_doctor() {
  local faults=0 missing
  check() { if [ "$2" = ok ]; then say "ok    $1"; else say "WRONG $1"; say "      $3"; faults=$((faults + 1)); fi; }
  missing=$(packages_missing browser)
  check "Debian packages" "$([ -z "$missing" ] && echo ok || echo no)" "Run: sudo apt-get install --no-install-recommends $missing"
  if command -v java >/dev/null 2>&1; then
    local encoding; encoding=$(java -XshowSettings:properties -version 2>&1 | sed -n 's/.*sun.jnu.encoding = //p')
    check "the JVM reads file names as UTF-8 (it says: ${encoding:-nothing})" \
      "$([ "$encoding" = UTF-8 ] && echo ok || echo no)" "Set LANG=C.UTF-8 before starting."
  fi
  check "own folder $BASE can be written" \
    "$( { [ -w "$BASE" ] || [ "$ROOT" = yes ] || mkdir -p "$BASE" 2>/dev/null; } && echo ok || echo no)" "Make it yours, or set KAVRIN_HOME."
  for data in "$BASE/data" "$BASE/demo"; do
    [ -f "$data/kavrin.properties" ] || continue
    local port; port=$(sed -n 's/^port=//p' "$data/kavrin.properties")
    if running "$data"; then
      check "service on port $port answers" \
        "$(curl -fsSk -o /dev/null "$(here "$data")/actuator/health" 2>/dev/null && echo ok || echo no)" "Look into $data/service.log"
    else
      check "service of $data runs" no "Run: $SELF $([ "$data" = "$BASE/demo" ] && echo demo || echo start)"
    fi
    [ -f "$data/db.elsewhere" ] || check "records of $data answer" \
      "$(as_owner "$(pg_bin "$data")/pg_ctl" -D "$data/pg" status >/dev/null 2>&1 && echo ok || echo no)" "Look into $data/pg.log, then start again."
    allowed_lines "$data"
    IFS=: read -r -a each <<<"$(sed -n 's/^roots=//p' "$data/kavrin.properties")"
    for root in "${each[@]}"; do
      check "root $root is there and $OWNER may write" \
        "$(as_owner test -w "$root" && echo ok || echo no)" "Mount it, or give $OWNER the right to write there."
    done
  done
  [ $faults -eq 0 ] && say "Nothing is wrong." || { say "$faults to mend."; return 1; }
}
