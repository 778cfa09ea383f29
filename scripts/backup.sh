#!/usr/bin/env bash
# export and import: whole projects as files. Starts the database where it is not running, and stops it again then.
set -euo pipefail
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
state="${NIMBRET_STATE:-$here/.nimbret}"
# shellcheck source=scripts/lib.sh
source "$here/scripts/lib.sh"
[ -d "$here/node_modules/tsx" ] || { echo "nimbret: run ./nimbret demo once first, which installs what is needed" >&2; exit 2; }
make_state
trap database_stop EXIT
[ -n "${NIMBRET_DATABASE_URL:-}" ] || { need mariadbd mariadb-server; install_missing; }
database_start >&2
# Relative paths mean the caller's folder. Not exec: the database is stopped behind it.
node --import "file://$here/node_modules/tsx/dist/loader.mjs" "$here/scripts/backup.ts" "$@"
