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
# The interface comes first in line where it sounds, which takes real time. What only computes, and the interface where it is
# still, take the time that is left; their words come after.
(
  status=0
  # Before what can fill both processors at the end. Its own folder for the demo's data: the others lay that out anew.
  still=$(mktemp -d)
  TMPDIR=$still E2E_RESULTS=e2e-still nice -n 15 node_modules/.bin/playwright test --project still || status=1
  rm -rf "$still"
  nice -n 15 node_modules/.bin/vitest run --reporter=default --reporter=json --outputFile.json=test-results/unit.json || status=1
  node scripts/notices.mjs --check || status=1
  nice -n 15 node_modules/.bin/tsx scripts/reference.ts --check || status=1
  nice -n 15 node_modules/.bin/next typegen > /dev/null || status=1
  nice -n 15 node_modules/.bin/oxlint --type-aware --type-check || status=1
  nice -n 15 node_modules/.bin/eslint src/kernels --max-warnings 0 || status=1
  nice -n 15 node_modules/.bin/depcruise src demo scripts bench tests --config .dependency-cruiser.cjs || status=1
  exit $status
) > test-results/computed.log 2>&1 &
computed=$!
node_modules/.bin/playwright test --project sounding || status=1
wait $computed || status=1
cat test-results/computed.log
node scripts/summary.mjs || status=1
exit $status
