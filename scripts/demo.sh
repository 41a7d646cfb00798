#!/bin/sh
# npm run demo [-- --port N] [--fresh] [--data FOLDER]
set -e
cd "$(dirname "$0")/.."
sh scripts/setup.sh
WIDE_ROOM_APP="$PWD" exec node dist/demo/demo.mjs "$@"
