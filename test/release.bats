#!/usr/bin/env bats
# What people install, as they install it: the files in target/dist, made by ./kavrin dist.

setup() {
  HERE="$(cd "$BATS_TEST_DIRNAME/.." && pwd)"
  DEB=$(ls "$HERE"/target/dist/kavrin_*_all.deb)
  ZIP=$(ls "$HERE"/target/dist/kavrin-*.zip)
  WORLD="$(mktemp -d "${BATS_TMPDIR:-/tmp}/kavrin-release.XXXXXX")"
  chmod 755 "$WORLD"
  export KAVRIN_HOME="$WORLD/home"
}

teardown() {
  [ -z "${COMMAND:-}" ] || "$COMMAND" stop >/dev/null 2>&1 || true
  if [ -n "${BOOTED:-}" ]; then
    kill "$BOOTED" 2>/dev/null && tail --pid="$BOOTED" -f /dev/null
  elif [ -n "${BARE:-}" ]; then
    chroot "$BARE" kavrin stop >/dev/null 2>&1 || true
    umount "$BARE/dev/shm" "$BARE/dev/pts" "$BARE/proc" 2>/dev/null || true
  fi
  rm -rf --one-file-system "$WORLD"
}

# A folder with one document in it that the service's user may write beside.
work() { # folder
  mkdir -p "$1/loads"
  printf 'step;force\n1;12.5\n2;13.1\n' > "$1/loads/cable.csv"
  if [ "$(id -u)" = 0 ]; then chown -R "${2:-kavrin}": "$1"; fi
}

# The commands of this machine, but for those that build.
bare_path() { # folder
  mkdir "$1"
  local each
  for each in /usr/bin/* /bin/* /usr/sbin/* /sbin/*; do
    case "${each##*/}" in java) ;; mvn*|node|nodejs|npm|npx|javac|jar|git|gcc|make) continue ;; esac
    ln -sf "$each" "$1/"
  done
  ln -sf "$(command -v java)" "$1/java"
}

@test "the package names what it needs and holds command, unit, libraries and licences" {
  [[ "$(dpkg-deb -f "$DEB" Depends)" == *java17-runtime-headless*postgresql* ]]
  dpkg-deb -c "$DEB" > "$WORLD/files"
  local each
  for each in ./usr/bin/kavrin ./usr/share/kavrin/run/common.sh ./usr/share/kavrin/doc/LICENSE \
      ./usr/share/kavrin/doc/THIRD-PARTY.txt ./usr/share/kavrin/doc/sbom-web.json \
      ./lib/systemd/system/kavrin.service ./usr/share/doc/kavrin/copyright; do
    grep -qF " $each" "$WORLD/files"
  done
  # No file of a program's own is anybody's but root's.
  run grep -v ' root/root ' "$WORLD/files"
  [ "$status" -ne 0 ]
}

@test "each library in the release is named with its version in the list of parts" {
  unzip -q "$ZIP" -d "$WORLD"
  local lists jar missing=""
  lists=$(ls "$WORLD"/kavrin-*/doc/sbom-java.json)
  grep -q '"bomFormat" : "CycloneDX"' "$lists"
  for jar in "$WORLD"/kavrin-*/lib/*.jar; do
    jar=${jar##*/}; jar=${jar%.jar}
    case "$jar" in kavrin-*) continue ;; esac
    node -e 'const parts = JSON.parse(require("fs").readFileSync(process.argv[1])).components;
      process.exit(parts.some((p) => process.argv[2].startsWith(`${p.name}-${p.version}`)) ? 0 : 1)' \
      "$lists" "$jar" || missing="$missing $jar"
  done
  [ -z "$missing" ] || { echo "not named:$missing"; false; }
}

@test "unpacked beside no build tool it starts, makes a backup within a minute and stops" {
  installed
  bare_path "$WORLD/path"
  run env -i PATH="$WORLD/path" HOME="$WORLD" KAVRIN_HOME="$KAVRIN_HOME" \
    "$HERE/test/first-backup.sh" "$COMMAND" "$WORLD/work" loads
  echo "$output"
  [ "$status" -eq 0 ]
  run env -i PATH="$WORLD/path" HOME="$WORLD" KAVRIN_HOME="$KAVRIN_HOME" "$COMMAND" doctor
  [[ "$output" == *"service on port"* ]]
  run "$COMMAND" version
  [[ "$output" == version=* ]]
}

@test "a version that is older than the one installed is refused in words" {
  [ "${KAVRIN_FULL:-false}" = true ] || skip "with --full"
  dpkg-deb -e "$DEB" "$WORLD/control"
  run "$WORLD/control/preinst" upgrade 9.0.0 0.1.0
  [ "$status" -eq 1 ]
  [[ "$output" == *"refused"*"Nothing was changed"* ]]
  "$WORLD/control/preinst" upgrade 0.0.9 0.1.0
  "$WORLD/control/preinst" install
}

# The command of the ZIP, beside no build tool.
installed() {
  unzip -q "$ZIP" -d "$WORLD"
  COMMAND=$(ls "$WORLD"/kavrin-*/bin/kavrin)
  work "$WORLD/work"
}

# The openssl and curl of Debian say what a browser would find.
@test "off loopback: TLS only, by a certificate for the name, with the headers and cookies of a page worth guarding" {
  [ "${KAVRIN_FULL:-false}" = true ] || skip "with --full"
  local name=office.tarnwick.test port data link address
  installed
  run "$COMMAND" start --root "$WORLD/work" --name "$name"
  [ "$status" -eq 0 ]
  [[ "$output" == *"sha256 Fingerprint="* ]]
  link=$(sed -n 's/^Open //p' <<<"$output")
  [[ "$link" == https://127.0.0.1:* ]]
  data="$KAVRIN_HOME/data"
  cp "$data/tls/authority.crt" "$WORLD/authority.crt"
  port=$(sed -n 's/^port=//p' "$data/kavrin.properties")

  tls() { openssl s_client -connect "127.0.0.1:$port" -CAfile "$WORLD/authority.crt" "$@" </dev/null 2>&1; }
  tls -tls1_3 -servername "$name" -verify_hostname "$name" | grep -q 'Verify return code: 0 (ok)'
  tls -tls1_2 -servername "$name" -verify_hostname "$name" | grep -q 'Verify return code: 0 (ok)'
  run tls -tls1_1 -cipher 'ALL:@SECLEVEL=0'
  [[ "$output" != *"Cipher    : ECDHE"* ]]
  run tls -verify_hostname other.tarnwick.test
  [[ "$output" == *"hostname mismatch"* ]]

  asked() { curl -sS --cacert "$WORLD/authority.crt" --resolve "$name:$port:127.0.0.1" "$@"; }
  asked -D "$WORLD/headers" -o /dev/null "https://$name:$port/overview"
  grep -qi '^strict-transport-security: max-age=' "$WORLD/headers"
  grep -qi "^content-security-policy: default-src 'self'.*frame-ancestors 'none'" "$WORLD/headers"
  grep -qi '^x-content-type-options: nosniff' "$WORLD/headers"
  grep -qi '^referrer-policy: no-referrer' "$WORLD/headers"
  # RFC 6265bis, section 4.1.3.2: a __Host- cookie is Secure, of one host, with the path /.
  curl -sS -k -D "$WORLD/cookies" -o /dev/null "$link"
  grep -qiE '^set-cookie: __Host-kavrin_session_[0-9]+=[^;]+; Path=/; .*Secure; HttpOnly; SameSite=Strict' "$WORLD/cookies"
  run grep -i '^set-cookie: .*domain=' "$WORLD/cookies"
  [ "$status" -ne 0 ]

  [ "$(asked -o /dev/null -w '%{http_code}' -H 'Host: elsewhere.test' "https://$name:$port/")" = 421 ]
  [ "$(asked -o /dev/null -w '%{http_code}' "https://$name:$port/api/overview")" = 401 ]
  run curl -sS -o /dev/null -w '%{http_code}' "http://127.0.0.1:$port/overview"
  [ "$output" = 400 ]
  # From another address of this machine, as from another machine: no door without a password.
  for address in $(hostname -I); do
    case "$address" in *:*) continue ;; esac
    [ "$(curl -sS -k -o /dev/null -w '%{http_code}' --resolve "$name:$port:$address" "https://$name:$port/api/enter?token=x")" = 403 ]
    [ "$(curl -sS -k -o /dev/null -w '%{http_code}' --resolve "$name:$port:$address" "https://$name:$port/actuator/health")" = 403 ]
  done
  # The next start needs no word of it.
  "$COMMAND" stop
  "$COMMAND" start | grep -q '^Open https://'
}

@test "a certificate without its key, or a file that is not there, starts nothing" {
  installed
  run "$COMMAND" start --root "$WORLD/work" --name office.tarnwick.test --certificate "$WORLD/none.crt"
  [ "$status" -ne 0 ]
  [[ "$output" == *"none.crt"*"TLS only"* ]]
  echo x > "$WORLD/some.crt"
  run "$COMMAND" start --root "$WORLD/work" --name office.tarnwick.test --certificate "$WORLD/some.crt"
  [ "$status" -ne 0 ]
  [[ "$output" == *"go together"* ]]
}

@test "records on a server elsewhere are used by its address, and none of Kavrin's own are made" {
  [ "${KAVRIN_FULL:-false}" = true ] || skip "with --full"
  [ "$(id -u)" = 0 ] || skip "needs root"
  installed
  install -d -o kavrin "$WORLD/office-db"
  # shellcheck source=/dev/null
  ( KAVRIN_HOME="$WORLD/other" source "$HERE/kavrin"; db_start "$WORLD/office-db" 5710 )
  cp "$WORLD/office-db/db.password" "$WORLD/password"
  run "$HERE/test/first-backup.sh" "$COMMAND" "$WORLD/work" loads \
    --database "postgresql://kavrin@127.0.0.1:$(cat "$WORLD/office-db/db.port")/kavrin" --database-password "$WORLD/password"
  echo "$output"
  [ "$status" -eq 0 ]
  [ ! -e "$KAVRIN_HOME/data/pg" ]
  "$COMMAND" stop
  ( KAVRIN_HOME="$WORLD/other" source "$HERE/kavrin"
    [ "$(db_sql "$WORLD/office-db" kavrin 'select count(*) from document')" -ge 1 ]
    db_stop "$WORLD/office-db" )
}

# The package with another version on it.
repacked() { # version
  dpkg-deb -R "$DEB" "$WORLD/repack"
  sed -i "s/^Version: .*/Version: $1/" "$WORLD/repack/DEBIAN/control"
  dpkg-deb -Zgzip -z1 -b "$WORLD/repack" "$WORLD/kavrin_$1_all.deb" >/dev/null
  rm -rf "$WORLD/repack"
  printf '%s' "$WORLD/kavrin_$1_all.deb"
}

# A Debian with nothing on it but what is named.
bare_debian() { # packages,…
  local mirror
  mirror=$(apt-get indextargets --format '$(REPO_URI)' 'Created-By: Packages' | head -n 1)
  BARE="$WORLD/bare"
  debootstrap --variant=minbase ${1:+"--include=$1"} bookworm "$BARE" "$mirror" > "$WORLD/debootstrap.log"
  cp /etc/resolv.conf "$BARE/etc/" 2>/dev/null || true
  cp /etc/apt/apt.conf.d/* "$BARE/etc/apt/apt.conf.d/" 2>/dev/null || true
}

@test "on a bare Debian: installed, a first backup, upgraded, taken away; work and backups stay" {
  [ "${KAVRIN_FULL:-false}" = true ] || skip "with --full"
  [ "$(id -u)" = 0 ] || skip "needs root"
  local older
  bare_debian
  mount -t proc proc "$BARE/proc"
  mkdir -p "$BARE/dev/shm"; mount -t tmpfs tmpfs "$BARE/dev/shm"
  chroot "$BARE" sh -c '! command -v javac && ! command -v mvn && ! command -v node'
  older=$(repacked 0.0.9)
  cp "$older" "$DEB" "$BARE/tmp/"
  cp "$HERE/test/first-backup.sh" "$BARE/tmp/"
  unset KAVRIN_HOME
  export DEBIAN_FRONTEND=noninteractive
  chroot "$BARE" apt-get install -y -qq --no-install-recommends "/tmp/$(basename "$older")" > "$WORLD/apt.log" 2>&1
  work "$BARE/srv/office" root
  chroot "$BARE" chown -R kavrin: /srv/office
  chroot "$BARE" /tmp/first-backup.sh kavrin /srv/office loads
  chroot "$BARE" apt-get install -y -qq "/tmp/$(basename "$DEB")" > "$WORLD/apt.log" 2>&1
  # It ran, so it runs again, over the same records and the same backups.
  chroot "$BARE" kavrin doctor
  (cd "$BARE/srv/office" && find . -type f ! -name '.jar' -exec sha256sum {} + | sort) > "$WORLD/before"
  run chroot "$BARE" apt-get install -y -qq --allow-downgrades "/tmp/$(basename "$older")"
  [ "$status" -ne 0 ]
  [[ "$output" == *"refused"* ]]
  chroot "$BARE" kavrin stop
  (cd "$BARE/srv/office" && find . -type f ! -name '.jar' -exec sha256sum {} + | sort) > "$WORLD/before"
  chroot "$BARE" apt-get purge -y -qq kavrin > "$WORLD/apt.log" 2>&1
  [ ! -e "$BARE/usr/share/kavrin" ]
  [ ! -e "$BARE/var/lib/kavrin/data/pg" ]
  (cd "$BARE/srv/office" && find . -type f ! -name '.jar' -exec sha256sum {} + | sort) > "$WORLD/after"
  diff "$WORLD/before" "$WORLD/after"
}

# Until the command says so, four minutes at most.
until_so() { # command…
  local until=$(($(date +%s) + 240))
  until "$@" >/dev/null 2>&1; do
    [ "$(date +%s)" -lt $until ] || { echo "never so: $*" >&2; return 1; }
    sleep 0.2
  done
}

# Boots $BARE by its own systemd, in namespaces of its own.
boot() {
  systemd-nspawn --quiet -b -D "$BARE" --register=no --keep-unit --console=pipe \
    --kill-signal=SIGRTMIN+3 < /dev/null > "$WORLD/boot.log" 2>&1 3>&- &
  BOOTED=$!
  until_so inside systemctl is-active --quiet multi-user.target
}

inside() {
  nsenter -t "$(pgrep -P "$BOOTED")" -m -u -i -n -p -C \
    env -i PATH=/usr/sbin:/usr/bin:/sbin:/bin HOME=/root LANG=C.UTF-8 DEBIAN_FRONTEND=noninteractive "$@"
}

unit() { inside systemctl show -p "$1" --value kavrin.service; }

unit_is() { [ "$(unit "$1")" = "$2" ]; }

another_main_pid() { unit_is ActiveState active && ! unit_is MainPID "$1"; }

@test "on a booted Debian: it starts with the machine and again after a kill, rests after a stop, and tells the log no secret" {
  [ "${KAVRIN_FULL:-false}" = true ] || skip "with --full"
  [ "$(id -u)" = 0 ] || skip "needs root"
  bare_debian systemd-sysv,dbus
  cp "$DEB" "$HERE/test/first-backup.sh" "$BARE/root/"
  boot || skip "no system can be booted here: $(tail -n 3 "$WORLD/boot.log")"
  inside apt-get install -y -qq --no-install-recommends "/root/$(basename "$DEB")" > "$WORLD/apt.log" 2>&1
  inside systemd-analyze verify /lib/systemd/system/kavrin.service
  work "$BARE/srv/office" root
  inside chown -R kavrin: /srv/office
  inside /root/first-backup.sh kavrin /srv/office loads --allow chown,fowner
  inside kavrin service install
  inside kavrin service status
  local pid; pid=$(unit MainPID)
  # capabilities(7): CAP_CHOWN is bit 0, CAP_FOWNER bit 3; what was not allowed is out of reach.
  inside grep -qx 'CapBnd:[[:space:]]*0000000000000009' "/proc/$pid/status"
  inside grep -qx 'NoNewPrivs:[[:space:]]*1' "/proc/$pid/status"

  inside systemctl kill --signal=KILL --kill-who=main kavrin.service
  until_so another_main_pid "$pid"
  until_so inside kavrin doctor

  inside kavrin stop
  until_so unit_is ActiveState inactive
  unit_is Result success
  inside systemctl start kavrin.service

  inside systemctl poweroff
  tail --pid="$BOOTED" -f /dev/null
  boot
  until_so unit_is ActiveState active
  until_so inside kavrin doctor
  printf 'step;force\n1;12.5\n2;14.9\n' > "$BARE/srv/office/loads/cable.csv"
  until_so grep -rqs '14\.9' "$BARE/srv/office/loads-kept"

  inside journalctl -u kavrin.service --no-pager > "$WORLD/journal"
  grep -q 'kavrin link' "$WORLD/journal"
  run grep -c token "$WORLD/journal"
  [ "$output" = 0 ]
  inside apt-get purge -y -qq kavrin > "$WORLD/apt.log" 2>&1
  ! inside systemctl is-enabled kavrin.service
  grep -rqs '14\.9' "$BARE/srv/office/loads-kept"
}
