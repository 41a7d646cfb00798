#!/bin/sh
# npm run demo [-- --port N] [--fresh] [--data FOLDER]
set -e
cd "$(dirname "$0")/.."
sh scripts/setup.sh parts
[ "$1" != -- ] || shift
export WIDE_ROOM_APP="$PWD"
# At a first start the demo's sounds are made while the pages are built.
node dist/demo/demo.mjs --lay-out "$@" &
laying=$!
sh scripts/setup.sh pages
wait $laying || true
exec node dist/demo/demo.mjs "$@"
