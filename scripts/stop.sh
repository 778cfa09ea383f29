#!/usr/bin/env bash
# Ends the application and the database that ./nimbret demo started from this folder, and nothing else.
set -euo pipefail
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
state="${NIMBRET_STATE:-$here/.nimbret}"
# shellcheck source=scripts/lib.sh
source "$here/scripts/lib.sh"
[ $# -eq 0 ] || { say "stop takes no options" >&2; exit 2; }

ended=no
pid="$(cat "$state/app.pid" 2>/dev/null || true)"
# A number that was given to another program since is left alone.
if [[ "$pid" =~ ^[0-9]+$ ]] && tr '\0' ' ' <"/proc/$pid/cmdline" 2>/dev/null | grep -q "scripts/serve.ts"; then
  kill "$pid" 2>/dev/null || true
  for _ in $(seq 1 100); do kill -0 "$pid" 2>/dev/null || break; sleep 0.1; done
  ! kill -0 "$pid" 2>/dev/null || fail "the application ($pid) does not end"
  ended=yes
fi
rm -f "$state/app.pid"
if command -v mariadb-admin >/dev/null 2>&1 && [ -d "$state" ]; then
  db_place
  # The start script stops its own database when the application ends; what is left is stopped here.
  for _ in $(seq 1 50); do db_alive || break; [ "$ended" = no ] && break; sleep 0.1; done
  if db_alive; then
    mariadb-admin --no-defaults --socket="$db_socket" --user="$(id -un)" shutdown >/dev/null 2>&1 || fail "the database does not end; its log is in $state/mariadb.log"
    ended=yes
  fi
fi
[ "$ended" = yes ] && say "stopped" || say "nothing was running"
