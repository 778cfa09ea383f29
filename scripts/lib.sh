# Shared by the scripts: words, tools, packages, the build, ports. Sourced, with $here = the project's folder and $state = the
# folder for what this machine keeps.

# Started by cron, the shell looks in two folders only.
PATH="$PATH:/usr/local/bin:/usr/sbin:/sbin"

# shellcheck source=scripts/state.sh
source "$here/scripts/state.sh"
# shellcheck source=scripts/database.sh
source "$here/scripts/database.sh"

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

# need_database: all of the programs of a MariaDB; of a half-installed one some are missing.
need_database() {
  need mariadbd mariadb-server
  need mariadb-install-db mariadb-server
  need mariadb mariadb-client
  need mariadb-admin mariadb-client
}

# app_alive: whether the application this folder started last still runs; its number may be another program's by now.
app_alive() {
  local pid port
  pid="$(kept "$state/app.pid")"
  port="$(kept "$state/app.port")"
  [[ "$pid" =~ ^[0-9]+$ ]] && tr '\0' ' ' <"/proc/$pid/cmdline" 2>/dev/null | grep -q "scripts/serve.ts --port ${port:-[0-9]}"
}

# need_data PACKAGE: remembers a Debian package that holds data rather than a command.
need_data() { dpkg -s "$1" >/dev/null 2>&1 || missing+=("$1"); }

install_missing() {
  [ "${#missing[@]}" -eq 0 ] && return 0
  say "installing Debian packages: ${missing[*]}"
  command -v apt-get >/dev/null 2>&1 || fail "these programs are missing and there is no apt-get to install them: ${missing[*]}"
  [ "$(id -u)" -eq 0 ] || fail "root is needed to install ${missing[*]}; install them by hand or run as root"
  apt-get update -qq || fail "apt-get update failed; is the package mirror reachable?"
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null || fail "apt-get could not install ${missing[*]}"
}

# Whether every package the project names is there: an installation that was broken off leaves some out.
packages_whole() {
  node -e 'const { existsSync, readFileSync } = require("node:fs"); const { dependencies, devDependencies } = JSON.parse(readFileSync(`${process.argv[1]}/package.json`, "utf8")); process.exit(Object.keys({ ...dependencies, ...devDependencies }).every((n) => existsSync(`${process.argv[1]}/node_modules/${n}/package.json`)) ? 0 : 1)' "$here"
}

node_packages() {
  # npm ci only when the lock file changed since the last time, or something is missing.
  local stamp="$here/node_modules/.nimbret-lock"
  if [ ! -f "$stamp" ] || ! cmp -s "$stamp" "$here/package-lock.json" || ! packages_whole; then
    [ -w "$here" ] || fail "npm packages are missing, and $here cannot be written; make it writable once, or install them there with npm ci"
    rm -f "$stamp"
    say "installing npm packages"
    (cd "$here" && npm ci --no-audit --no-fund --loglevel=error) || fail "npm ci failed; is the npm registry reachable?"
    cp "$here/package-lock.json" "$stamp"
  fi
}

build_application() {
  # Build again only when a source is newer than the last build that came to its end.
  local stamp="$here/.next/nimbret-built"
  if [ ! -f "$stamp" ] || [ ! -f "$here/.next/BUILD_ID" ] || [ -n "$(find "$here/src" "$here/public" "$here/package-lock.json" "$here/next.config.ts" -newer "$stamp" -type f 2>/dev/null | head -n 1)" ]; then
    [ -w "$here" ] || fail "the application is not built, and $here cannot be written; make it writable once, or build it there with npx next build"
    say "building the application"
    empty_log build.log
    rm -f "$stamp"
    (cd "$here" && NEXT_TELEMETRY_DISABLED=1 npx --no-install next build >"$state/build.log" 2>&1) || { tail -n 40 "$state/build.log" >&2; fail "the build failed; the whole log is in $state/build.log"; }
    : >"$stamp"
  fi
}

port_taken() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }
free_port() {
  local p="$1"
  while port_taken "$p"; do p=$((p < 65535 ? p + 1 : 1024)); done
  echo "$p"
}
is_port() { [[ "$1" =~ ^[0-9]{1,5}$ ]] && [ "$1" -ge 1 ] && [ "$1" -le 65535 ]; }

# answers_as PORT: "own" where this folder's application answers there, "other" where that of another folder does; nothing where
# somebody else does, or nobody within three seconds.
answers_as() {
  node -e 'fetch(`http://127.0.0.1:${process.argv[1]}/api/projects`, { signal: AbortSignal.timeout(3000) }).then(async (r) => { if (r.headers.get("x-application") === "nimbret") console.log(r.headers.get("x-folder") === process.argv[2] ? "own" : "other"); }, () => undefined)' "$1" "$state_id"
}
