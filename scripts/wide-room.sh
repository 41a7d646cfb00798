#!/bin/sh
set -e
sh "$(dirname "$0")/setup.sh"
exec node "$(dirname "$0")/../dist/workers/cli.mjs" "$@"
