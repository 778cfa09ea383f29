#!/usr/bin/env bash
# Installs what is missing, builds, starts the database on loopback, migrates, loads the demo data, serves the application.
set -euo pipefail
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
state="$here/.nimbret"
mkdir -p "$state"
# shellcheck source=scripts/lib.sh
source "$here/scripts/lib.sh"

port="${NIMBRET_PORT:-4180}"
fresh=()
while [ $# -gt 0 ]; do
  case "$1" in
    --fresh) fresh=(--fresh); shift ;;
    --port) port="${2:?--port needs a number}"; shift 2 ;;
    *) fail "unknown option $1; there are --fresh and --port N" ;;
  esac
done

node_ready
[ -n "${NIMBRET_DATABASE_URL:-}" ] || { need mariadbd mariadb-server; }
install_missing
node_packages
build_application

app_pid=""
stop() {
  trap - EXIT INT TERM
  if [ -n "$app_pid" ]; then kill "$app_pid" 2>/dev/null || true; wait "$app_pid" 2>/dev/null || true; fi
  database_stop
}
trap stop EXIT
trap 'stop; exit 130' INT
trap 'stop; exit 143' TERM

database_start
say "preparing the data"
(cd "$here" && node --import tsx scripts/prepare-data.ts ${fresh[@]+"${fresh[@]}"}) || fail "the data could not be prepared"

if port_taken "$port"; then
  if curl -fs "http://127.0.0.1:$port/api/projects" >/dev/null 2>&1 || node -e "fetch('http://127.0.0.1:$port/api/projects').then((r) => process.exit(r.ok ? 0 : 1), () => process.exit(1))"; then
    say "Nimbret is already running: http://127.0.0.1:$port"
    exit 0
  fi
  fail "port $port is taken by another program; choose one with --port"
fi
say "serving on http://127.0.0.1:$port  (Ctrl+C stops it)"
cd "$here"
NEXT_TELEMETRY_DISABLED=1 NODE_ENV=production node node_modules/next/dist/bin/next start -H 127.0.0.1 -p "$port" &
app_pid=$!
wait "$app_pid"
