#!/usr/bin/env bash
# Prints the benchmark table.
set -euo pipefail
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
cd "$here"
exec npm run --silent bench
