#!/bin/sh
# Installs the Debian packages that are named, where they are missing.
set -e
missing=''
for package in "$@"; do
  dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'install ok installed' || missing="$missing $package"
done
[ -n "$missing" ] || exit 0
run=''
if [ "$(id -u)" != 0 ]; then
  command -v sudo >/dev/null || { echo "These Debian packages are needed and could not be installed without root:$missing" >&2; exit 1; }
  run=sudo
fi
echo "Installing Debian packages:$missing" >&2
$run apt-get update -qq >&2
DEBIAN_FRONTEND=noninteractive $run apt-get install -y -qq --no-install-recommends $missing >&2
