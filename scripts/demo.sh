#!/usr/bin/env bash
# Installs what is missing, builds, starts the database on loopback, migrates, loads the demo data, serves the application.
set -euo pipefail
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
state="${NIMBRET_STATE:-$here/.nimbret}"
# shellcheck source=scripts/lib.sh
source "$here/scripts/lib.sh"

# Options first: a wrong one costs nothing.
port="${NIMBRET_PORT:-4180}"
fresh=()
while [ $# -gt 0 ]; do
  case "$1" in
    --fresh) fresh=(--fresh); shift ;;
    --port) [ $# -ge 2 ] || { say "--port needs a number" >&2; exit 2; }; port="$2"; shift 2 ;;
    *) say "unknown option $1; there are --fresh and --port N" >&2; exit 2 ;;
  esac
done
is_port "$port" || { say "--port needs a number from 1 to 65535, not $port" >&2; exit 2; }
[ -z "${NIMBRET_DB_PORT:-}" ] || is_port "$NIMBRET_DB_PORT" || { say "NIMBRET_DB_PORT needs a number from 1 to 65535, not $NIMBRET_DB_PORT" >&2; exit 2; }
make_state

node_ready
[ -n "${NIMBRET_DATABASE_URL:-}" ] || { need mariadbd mariadb-server; }
install_missing
node_packages
build_application

app_pid=""
stop() {
  trap - EXIT INT TERM
  if [ -n "$app_pid" ]; then
    kill "$app_pid" 2>/dev/null || true
    wait "$app_pid" 2>/dev/null || true
    rm -f "$state/app.pid"
  fi
  database_stop
}
trap stop EXIT
trap 'stop; exit 130' INT
trap 'stop; exit 143' TERM

running=no
if port_taken "$port"; then
  # Our own may answer slowly, or not well while its database is down: its header tells.
  is_nimbret "$port" || fail "port $port is taken by another program; choose one with --port"
  running=yes
  [ ${#fresh[@]} -eq 0 ] || fail "Nimbret is running on port $port; stop it first (./nimbret stop), then start with --fresh"
fi

database_start
say "preparing the data"
(cd "$here" && node --import tsx scripts/prepare-data.ts ${fresh[@]+"${fresh[@]}"}) || fail "the data could not be prepared"

if [ "$running" = yes ]; then
  # The database may have been found dead and started again for the one that runs: it stays.
  database_leave
  say "Nimbret is already running: http://127.0.0.1:$port"
  exit 0
fi
say "serving on http://127.0.0.1:$port  (Ctrl+C or ./nimbret stop ends it)"
cd "$here"
NEXT_TELEMETRY_DISABLED=1 NODE_ENV=production node --import tsx scripts/serve.ts --port "$port" &
app_pid=$!
echo "$app_pid" >"$state/app.pid"
wait "$app_pid"
