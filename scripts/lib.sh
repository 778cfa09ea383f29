# Shared by demo.sh and test.sh: tools, packages, a private MariaDB on loopback. Sourced, with $here = the project's folder.

say() { printf '[nimbret] %s\n' "$*"; }
fail() { printf '[nimbret] cannot go on: %s\n' "$*" >&2; exit 1; }

node_ready() {
  command -v node >/dev/null 2>&1 || fail "Node.js is not installed; version 20.9 or newer is needed"
  node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 9) ? 0 : 1)' ||
    fail "Node.js $(node -v) is too old; version 20.9 or newer is needed"
}

# need COMMAND PACKAGE: remembers the Debian package where the command is missing.
missing=()
need() { command -v "$1" >/dev/null 2>&1 || missing+=("$2"); }

install_missing() {
  [ "${#missing[@]}" -eq 0 ] && return 0
  say "installing Debian packages: ${missing[*]}"
  command -v apt-get >/dev/null 2>&1 || fail "these programs are missing and there is no apt-get to install them: ${missing[*]}"
  [ "$(id -u)" -eq 0 ] || fail "root is needed to install ${missing[*]}; install them by hand or run as root"
  apt-get update -qq || fail "apt-get update failed; is the package mirror reachable?"
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null || fail "apt-get could not install ${missing[*]}"
}

node_packages() {
  # npm ci only when the lock file changed since the last time.
  local stamp="$here/node_modules/.nimbret-lock"
  if [ ! -f "$stamp" ] || ! cmp -s "$stamp" "$here/package-lock.json"; then
    say "installing npm packages"
    (cd "$here" && npm ci --no-audit --no-fund --loglevel=error) || fail "npm ci failed; is the npm registry reachable?"
    cp "$here/package-lock.json" "$stamp"
  fi
}

build_application() {
  # Build again only when a source is newer than the last build.
  local stamp="$here/.next/BUILD_ID"
  if [ ! -f "$stamp" ] || [ -n "$(find "$here/src" "$here/public" "$here/package-lock.json" "$here/next.config.ts" -newer "$stamp" -type f 2>/dev/null | head -n 1)" ]; then
    say "building the application"
    (cd "$here" && NEXT_TELEMETRY_DISABLED=1 npx --no-install next build >"$state/build.log" 2>&1) || { tail -n 40 "$state/build.log" >&2; fail "the build failed; the whole log is in $state/build.log"; }
  fi
}

port_taken() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }
free_port() { local p="$1"; while port_taken "$p"; do p=$((p + 1)); done; echo "$p"; }

# database_start: uses NIMBRET_DATABASE_URL if set; else starts (or finds) the private server in $state and exports the URL.
database_pid=""
database_start() {
  if [ -n "${NIMBRET_DATABASE_URL:-}" ]; then
    say "using the database of NIMBRET_DATABASE_URL"
    return 0
  fi
  local data="$state/mariadb" pass_file="$state/db-password" port_file="$state/db-port" socket
  # A socket's path may have 107 characters at most, so it does not live in the project's folder.
  socket="${TMPDIR:-/tmp}/nimbret-$(printf '%s' "$state" | cksum | cut -d' ' -f1).sock"
  [ -f "$pass_file" ] || (umask 077 && head -c 18 /dev/urandom | base64 | tr -dc 'A-Za-z0-9' >"$pass_file")
  if [ -f "$port_file" ] && mariadb-admin --no-defaults --socket="$socket" --user=root ping >/dev/null 2>&1; then
    say "found the database running on port $(cat "$port_file")"
  else
    if [ ! -d "$data/mysql" ]; then
      say "creating the database"
      mkdir -p "$data"
      mariadb-install-db --no-defaults --user="$(id -un)" --datadir="$data" --auth-root-authentication-method=normal --skip-test-db >"$state/mariadb-install.log" 2>&1 ||
        { tail -n 20 "$state/mariadb-install.log" >&2; fail "mariadb-install-db failed"; }
    fi
    local port
    port="$(free_port "${NIMBRET_DB_PORT:-33061}")"
    say "starting the database on 127.0.0.1:$port"
    mariadbd --no-defaults --user="$(id -un)" --datadir="$data" --socket="$socket" --port="$port" --bind-address=127.0.0.1 \
      --pid-file="$state/mariadb.pid" --skip-name-resolve --innodb-buffer-pool-size=64M >"$state/mariadb.log" 2>&1 &
    database_pid=$!
    echo "$port" >"$port_file"
    for _ in $(seq 1 120); do
      mariadb-admin --no-defaults --socket="$socket" --user=root ping >/dev/null 2>&1 && break
      kill -0 "$database_pid" 2>/dev/null || { tail -n 20 "$state/mariadb.log" >&2; fail "the database stopped at its start; its log is in $state/mariadb.log"; }
      sleep 0.25
    done
    mariadb-admin --no-defaults --socket="$socket" --user=root ping >/dev/null 2>&1 || fail "the database did not answer within 30 seconds"
  fi
  mariadb --no-defaults --socket="$socket" --user=root <<SQL || fail "the database user could not be made"
CREATE DATABASE IF NOT EXISTS nimbret CHARACTER SET utf8mb4;
CREATE DATABASE IF NOT EXISTS nimbret_test CHARACTER SET utf8mb4;
CREATE USER IF NOT EXISTS 'nimbret'@'127.0.0.1' IDENTIFIED BY '$(cat "$pass_file")';
GRANT ALL ON nimbret.* TO 'nimbret'@'127.0.0.1';
GRANT ALL ON \`nimbret\_test%\`.* TO 'nimbret'@'127.0.0.1';
SQL
  export NIMBRET_DATABASE_URL="mariadb://nimbret:$(cat "$pass_file")@127.0.0.1:$(cat "$port_file")/nimbret"
}

# Stops the server this script started, and no other.
database_stop() {
  if [ -n "$database_pid" ] && kill -0 "$database_pid" 2>/dev/null; then
    kill "$database_pid" 2>/dev/null || true
    wait "$database_pid" 2>/dev/null || true
  fi
}
