#!/bin/sh
# Sets everything up and runs all tests: style and layers, types, unit and reference tests, the real interface.
set -e
cd "$(dirname "$0")/.."
sh scripts/debian.sh chromium-headless-shell ffmpeg sox libsox-fmt-all mediainfo sndfile-programs unzip flac alsa-utils gcc libc6-dev libebur128-dev python3-scipy poppler-utils openssl postgresql
sh scripts/setup.sh
mkdir -p test-results
rm -f test-results/*.json
# Scratch folders lie in memory where there is room: nothing of them is kept.
room() { [ "$(df -Pk /dev/shm 2>/dev/null | awk 'NR==2 {print $4}')" -gt 6000000 ] && [ "$(awk '/MemAvailable/ {print $2}' /proc/meminfo)" -gt 8000000 ]; }
if room; then
  TMPDIR=$(mktemp -d /dev/shm/wide-room-tests-XXXXXX)
  export TMPDIR
  trap 'rm -rf "$TMPDIR"' EXIT
fi
status=0
# The interface comes first in line: its sound runs in real time. What only computes takes the time that is left; its
# words come after.
(
  status=0
  nice -n 15 node_modules/.bin/vitest run --reporter=default --reporter=json --outputFile.json=test-results/unit.json || status=1
  node scripts/notices.mjs --check || status=1
  nice -n 15 node_modules/.bin/tsx scripts/reference.ts --check || status=1
  nice -n 15 npm run --silent types:pages || status=1
  nice -n 15 node_modules/.bin/oxlint --type-aware --type-check || status=1
  nice -n 15 node_modules/.bin/eslint src/kernels --max-warnings 0 || status=1
  nice -n 15 node_modules/.bin/depcruise src demo scripts bench tests --config .dependency-cruiser.cjs || status=1
  exit $status
) > test-results/computed.log 2>&1 &
computed=$!
node_modules/.bin/playwright test || status=1
wait $computed || status=1
cat test-results/computed.log
node scripts/summary.mjs || status=1
exit $status
