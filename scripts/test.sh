#!/bin/sh
# Sets everything up and runs all tests: style and layers, types, unit and reference tests, the real interface.
set -e
cd "$(dirname "$0")/.."
sh scripts/debian.sh chromium ffmpeg sox libsox-fmt-all mediainfo sndfile-programs unzip flac alsa-utils gcc libc6-dev libebur128-dev python3-scipy
sh scripts/setup.sh
mkdir -p test-results
status=0
# Style, layers and types beside the unit tests; their words come after them.
(
  node_modules/.bin/eslint . --max-warnings 0 &&
    node_modules/.bin/depcruise src --config .dependency-cruiser.cjs &&
    node_modules/.bin/next typegen > /dev/null &&
    node_modules/.bin/tsc --noEmit
) > test-results/style.log 2>&1 &
style=$!
node_modules/.bin/vitest run --reporter=default --reporter=json --outputFile.json=test-results/unit.json || status=1
wait $style || status=1
cat test-results/style.log
node_modules/.bin/playwright test || status=1
node scripts/summary.mjs || status=1
exit $status
