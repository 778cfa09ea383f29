#!/usr/bin/env bash
# Which components a drag renders, and how often: builds with React's profiling on and names kept, serves that on data of its
# own and drags in the browser. The build after it is an ordinary one again.
set -uo pipefail
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
state="$here/.nimbret/test"
# shellcheck source=scripts/lib.sh
source "$here/scripts/lib.sh"
cd "$here"
make_state
node_ready
node_packages
unset NIMBRET_DATABASE_URL
server=""
trap '[ -n "$server" ] && kill "$server" 2>/dev/null; database_stop; rm -f "$here/.next/BUILD_ID"' EXIT
NIMBRET_DB_PORT=33071 database_start
say "building with profiling"
NEXT_TELEMETRY_DISABLED=1 npx --no-install next build --profile --no-mangling >"$state/build.log" 2>&1 || fail "the build failed; see $state/build.log"
node --import tsx scripts/prepare-data.ts || fail "the data could not be prepared"
port="$(free_port 4170)"
NODE_ENV=production node --import tsx scripts/serve.ts --port "$port" >"$state/serve.log" 2>&1 &
server=$!
for _ in $(seq 60); do port_taken "$port" && break; sleep 0.5; done
npx --no-install tsx scripts/profile.ts "http://127.0.0.1:$port"
