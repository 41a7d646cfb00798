#!/bin/sh
# One JSON line per case, with the ratio to a reference tool timed in the same run (above 1: faster).
set -e
cd "$(dirname "$0")/.."
sh scripts/debian.sh ffmpeg sox
sh scripts/setup.sh
for bench in "measure" "mix 120" "mix 30"; do node --import tsx bench/${bench%% *}.ts $(echo "$bench" | cut -s -d' ' -f2); done
