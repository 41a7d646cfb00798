#!/bin/sh
# Brings a bare clone to where everything runs: packages and build. Does nothing that is done already.
set -e
cd "$(dirname "$0")/.."
say() { printf '%s\n' "$*" >&2; }

node -e 'const [a,b]=process.versions.node.split(".").map(Number); if (a<20||(a===20&&b<16)) { console.error(`Wide Room needs Node 20.16 or newer; this is ${process.versions.node}.`); process.exit(1); }'
mkdir -p .setup
lock=$(sha256sum package-lock.json | cut -d' ' -f1)
if [ ! -d node_modules ] || [ "$(cat .setup/packages 2>/dev/null)" != "$lock" ]; then
  say 'Installing packages…'
  npm ci --no-audit --no-fund --loglevel=error >&2
  printf '%s' "$lock" > .setup/packages
fi
sources=$( (find src demo scripts public/demo -type f ! -path 'src/audio/generated/*' ! -path src/core/kernels/exports.ts ! -name '*.test.ts' -print0 | sort -z | xargs -0 sha256sum; sha256sum package-lock.json next.config.ts tsconfig.json asconfig.json postcss.config.mjs) | sha256sum | cut -d' ' -f1)
if [ ! -f .next/BUILD_ID ] || [ ! -f build/kernels.wasm ] || [ "$(cat .setup/build 2>/dev/null)" != "$sources" ]; then
  say 'Building…'
  node_modules/.bin/tsx scripts/build-parts.ts >&2
  NEXT_TELEMETRY_DISABLED=1 node_modules/.bin/next build > .setup/build.log 2>&1 || { cat .setup/build.log >&2; say 'The build failed.'; exit 1; }
  printf '%s' "$sources" > .setup/build
fi
