#!/bin/sh
# Brings a bare clone to where everything runs: packages and build. Does nothing that is done already.
# `setup.sh parts` stops before the pages are built; `setup.sh pages` does nothing else.
set -e
cd "$(dirname "$0")/.."
say() { printf '%s\n' "$*" >&2; }
# One sum over files: whether what is built from them is current.
sum() { (find "$@" -type f ! -path 'src/audio/generated/*' ! -path src/core/kernels/exports.ts ! -name '*.test.ts' ! -name '*.test.tsx' -print0 | sort -z | xargs -0 sha256sum; sha256sum package-lock.json next.config.ts tsconfig.json asconfig.json postcss.config.mjs) | sha256sum | cut -d' ' -f1; }
current() { [ "$(cat ".setup/$1" 2>/dev/null)" = "$2" ]; }
mkdir -p .setup

if [ "$1" != pages ]; then
  node -e 'const [a,b]=process.versions.node.split(".").map(Number); if (a<20||(a===20&&b<16)) { console.error(`Wide Room needs Node 20.16 or newer; this is ${process.versions.node}.`); process.exit(1); }'
  lock=$(sha256sum package-lock.json | cut -d' ' -f1)
  if [ ! -d node_modules ] || ! current packages "$lock"; then
    say 'Installing packages…'
    npm ci --no-audit --no-fund --loglevel=error >&2
    printf '%s' "$lock" > .setup/packages
  fi
  # What pages are made of alone is no part of these.
  parts=$(sum src/kernels src/core src/audio src/standins src/server demo scripts)
  if [ ! -f build/kernels.wasm ] || [ ! -f dist/demo/demo.mjs ] || ! current parts "$parts"; then
    say 'Building…'
    node_modules/.bin/tsx scripts/build-parts.ts >&2
    printf '%s' "$parts" > .setup/parts
  fi
fi
[ "$1" != parts ] || exit 0
pages=$(sum src public/demo)-$(sha256sum < src/audio/generated/assets.ts | cut -d' ' -f1)
if [ ! -f .next/BUILD_ID ] || ! current pages "$pages"; then
  say 'Building the pages…'
  NEXT_TELEMETRY_DISABLED=1 node_modules/.bin/next build > .setup/build.log 2>&1 || { cat .setup/build.log >&2; say 'The build failed.'; exit 1; }
  printf '%s' "$pages" > .setup/pages
fi
