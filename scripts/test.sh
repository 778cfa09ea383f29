#!/usr/bin/env bash
# Everything: types, lint, unit tests, tests in the browser; with --fast types and quick unit tests alone, under a minute. Ends
# with one plain line counted from the runners' reports.
set -uo pipefail
fast=no
for option in "$@"; do
  [ "$option" = --fast ] && fast=yes && continue
  echo "[nimbret] unknown option $option; there is --fast" >&2
  exit 2
done
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
state="$here/.nimbret/test"
# shellcheck source=scripts/lib.sh
source "$here/scripts/lib.sh"
cd "$here"
make_state
rm -rf "$state/reports"

node_ready
if [ "$fast" = no ]; then
  need_database
  need chromium chromium
  need ffmpeg ffmpeg
  need assimp assimp-utils
  need_data assimp-testmodels
  install_missing
fi
node_packages

trap database_stop EXIT
reports="$state/reports"
mkdir -p "$reports"
# check NAME COMMAND...: one check that passes or fails; its outcome is written for the summary.
check() {
  local name="$1"; shift
  say "$name"
  if "$@"; then echo passed >"$reports/check-$name"; else echo failed >"$reports/check-$name"; say "$name failed"; fi
}
if [ "$fast" = yes ]; then
  check types npx --no-install tsc --noEmit -p tsconfig.json &
  types=$!
  npm run --silent test:fast -- --reporter=default --reporter=json --outputFile.json="$reports/vitest.json" || true
  wait "$types"
  exec node scripts/summary.mjs "$reports" --fast
fi
check route-types npx --no-install next typegen
# Each of these keeps one core busy: side by side they take half the time.
check types npm run --silent typecheck &
checks=($!)
check eslint npx --no-install eslint . &
checks+=($!)
wait "${checks[@]}"
check arrows npx --no-install depcruise --config .dependency-cruiser.cjs src cli &
checks=($!)
check unused npx --no-install knip &
checks+=($!)
check format npx --no-install prettier --check --log-level warn . &
checks+=($!)
wait "${checks[@]}"

# Tests never touch the data of the demo, nor a database someone named for it.
unset NIMBRET_DATABASE_URL
NIMBRET_DB_PORT=33071 database_start
say "unit tests"
npx --no-install vitest run --reporter=default --reporter=json --outputFile.json="$reports/vitest.json" || true

build_application
# Projects of earlier runs would come up to their limit.
node --import tsx scripts/prepare-data.ts --empty || fail "the test data could not be prepared"
NIMBRET_PORT="$(free_port 4170)"
export NIMBRET_PORT
say "tests in the browser (port $NIMBRET_PORT)"
PLAYWRIGHT_JSON_OUTPUT_NAME="$reports/playwright.json" npx --no-install playwright test || true

node scripts/summary.mjs "$reports"
