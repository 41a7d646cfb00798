#!/bin/sh
# npm run demo [-- --port N] [--fresh] [--data FOLDER]
set -e
cd "$(dirname "$0")/.."
sh scripts/setup.sh
exec node --import tsx scripts/demo.ts "$@"
