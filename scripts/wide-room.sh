#!/bin/sh
set -e
sh "$(dirname "$0")/setup.sh" parts
# Where the worker threads of a print are found, from whatever folder this is called.
WIDE_ROOM_APP="${WIDE_ROOM_APP:-$(cd "$(dirname "$0")/.." && pwd)}"
export WIDE_ROOM_APP
exec node "$(dirname "$0")/../dist/workers/cli.mjs" "$@"
