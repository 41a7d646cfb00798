#!/bin/sh
# One JSON line per case, with the ratio to a reference tool timed in the same run (above 1: faster), then all as a
# table. With --write the table goes to docs/benchmarks.md.
set -e
cd "$(dirname "$0")/.."
sh scripts/debian.sh chromium ffmpeg sox gcc libc6-dev libebur128-dev
sh scripts/setup.sh
lines=build/bench.jsonl
: > "$lines"
for bench in "measure" "files" "mix 120" "mix 30" "mix 30 sends" "timeline" "log 10000" "lineup" "room" "tracks 600"; do
  node --import tsx bench/${bench%% *}.ts $(echo "$bench" | cut -s -d' ' -f2-) | tee -a "$lines"
done
node --import tsx bench/table.ts "$lines" "$@"
