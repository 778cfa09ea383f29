#!/usr/bin/env bash
# Installs what is missing, builds, starts the database on loopback, migrates, loads the demo data, serves the application.
set -euo pipefail
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
state="${NIMBRET_STATE:-$here/.nimbret}"
# shellcheck source=scripts/lib.sh
source "$here/scripts/lib.sh"

# Options first: a wrong one costs nothing.
port="${NIMBRET_PORT:-4180}"
fresh=""
take=""
while [ $# -gt 0 ]; do
  case "$1" in
    --fresh) fresh=fresh; shift ;;
    --port) [ $# -ge 2 ] || { say "--port needs a number" >&2; exit 2; }; port="$2"; shift 2 ;;
    --take-up) [ $# -ge 2 ] || { say "--take-up needs an id; ./nimbret stop --list names them" >&2; exit 2; }; take="$2"; shift 2 ;;
    *) say "unknown option $1; there are --fresh, --port N and --take-up ID" >&2; exit 2 ;;
  esac
done
is_port "$port" || { say "--port needs a number from 1 to 65535, not $port" >&2; exit 2; }
[ -z "${NIMBRET_DB_PORT:-}" ] || is_port "$NIMBRET_DB_PORT" || { say "NIMBRET_DB_PORT needs a number from 1 to 65535, not $NIMBRET_DB_PORT" >&2; exit 2; }
[ -z "$fresh" ] || [ -z "$take" ] || { say "--fresh begins anew, --take-up goes on: only one of them" >&2; exit 2; }
make_state
[ -z "$take" ] || may_take_up "$take"

node_ready
[ -n "${NIMBRET_DATABASE_URL:-}" ] || need_database
install_missing
node_packages
build_application

app_pid=""
stop() {
  trap - EXIT INT TERM
  if [ -n "$app_pid" ]; then
    kill "$app_pid" 2>/dev/null || true
    wait "$app_pid" 2>/dev/null || true
    forget app.pid app.port
  fi
  database_stop
}
trap stop EXIT
trap 'stop; exit 130' INT
trap 'stop; exit 143' TERM

# What serves this folder already, on whichever port, is found; its answer may be slow, or bad while its database is down.
running=""
served="$(kept "$state/app.port")"
if is_port "$served" && app_alive; then
  running="$served"
elif port_taken "$port"; then
  case "$(answers_as "$port")" in
    own) running="$port" ;;
    other) fail "port $port is taken by the Nimbret of another folder; choose one with --port" ;;
    *) fail "port $port is taken by another program; choose one with --port" ;;
  esac
fi
if [ -n "$running" ] && [ -n "$fresh$take" ]; then fail "Nimbret is running on port $running; stop it first (./nimbret stop), then start again"; fi
[ -z "$take" ] || take_up "$take"

database_start "$fresh"
say "preparing the data"
(cd "$here" && node --import tsx scripts/prepare-data.ts ${fresh:+--aside}) || fail "the data could not be prepared. They were left as they are: ./nimbret demo --fresh puts them aside and begins anew"

if [ -n "$running" ]; then
  # The database may have been found dead and started again for the one that runs: it stays.
  database_leave
  say "Nimbret is already running: http://127.0.0.1:$running"
  exit 0
fi
say "serving on http://127.0.0.1:$port  (Ctrl+C or ./nimbret stop ends it)"
cd "$here"
NEXT_TELEMETRY_DISABLED=1 NODE_ENV=production NIMBRET_FOLDER="$state_id" node --import tsx scripts/serve.ts --port "$port" &
app_pid=$!
keep "$state/app.pid" "$app_pid"
keep "$state/app.port" "$port"
wait "$app_pid"
