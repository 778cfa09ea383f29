#!/usr/bin/env bash
# Ends the application and the database that ./nimbret demo started from this folder, and nothing else.
set -euo pipefail
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
state="${NIMBRET_STATE:-$here/.nimbret}"
# shellcheck source=scripts/lib.sh
source "$here/scripts/lib.sh"
list=no
if [ "${1:-}" = --list ]; then list=yes; shift; fi
[ $# -eq 0 ] || { say "stop takes no options but --list" >&2; exit 2; }
if [ -d "$state" ]; then make_state; fi
if [ "$list" = yes ]; then
  list_data
  exit 0
fi

ended=no
if app_alive; then
  pid="$(kept "$state/app.pid")"
  kill "$pid" 2>/dev/null || true
  for _ in $(seq 1 100); do kill -0 "$pid" 2>/dev/null || break; sleep 0.1; done
  ! kill -0 "$pid" 2>/dev/null || fail "the application ($pid) does not end"
  ended=yes
fi
forget app.pid app.port
if command -v mariadb-admin >/dev/null 2>&1 && [ -d "$state" ]; then
  db_place
  # The start script stops its own database when the application ends; what is left is stopped here.
  for _ in $(seq 1 50); do db_alive || break; [ "$ended" = no ] && break; sleep 0.1; done
  if db_alive; then
    db_stop
    ended=yes
  fi
fi
[ "$ended" = yes ] && say "stopped" || say "nothing was running"
