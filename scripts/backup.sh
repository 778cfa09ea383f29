#!/usr/bin/env bash
# export and import: whole projects as files. Starts the database where it is not running, and stops it again then.
set -euo pipefail
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
state="${NIMBRET_STATE:-$here/.nimbret}"
# shellcheck source=scripts/lib.sh
source "$here/scripts/lib.sh"
[ -d "$here/node_modules/tsx" ] || { echo "nimbret: run ./nimbret demo once first, which installs what is needed" >&2; exit 2; }
make_state >&2
trap database_stop EXIT
[ -n "${NIMBRET_DATABASE_URL:-}" ] || { need_database; install_missing >&2; }
database_start >&2
# Relative paths mean the caller's folder, so the project's own settings are named. Not exec: the database is stopped behind it.
TSX_TSCONFIG_PATH="$here/tsconfig.json" node --import "file://$here/node_modules/tsx/dist/loader.mjs" "$here/scripts/backup.ts" "$@"
