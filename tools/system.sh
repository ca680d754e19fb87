#!/bin/sh
# Debian packages that Rovix's libraries open at run time, and that its tests check against.
#   check    installs what is missing when it may, else prints the one line to run
#   install  the same, and fails when it may not
set -u
packages="libgl1 libegl1 libx11-6 libfontconfig1 libpulse0 libxkbcommon-x11-0 libxcb-cursor0 libxcb-icccm4 libxcb-keysyms1 xvfb openbox ffmpeg"

missing=""
for package in $packages; do
  dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'install ok installed' || missing="$missing $package"
done
[ -z "$missing" ] && exit 0

if ! command -v apt-get >/dev/null 2>&1; then
  echo "Rovix needs these libraries, by their Debian names:$missing" >&2
  [ "$1" = check ] && exit 0
  exit 1
fi

as_root=""
if [ "$(id -u)" != 0 ]; then
  if sudo -n true 2>/dev/null; then as_root="sudo"; else
    echo "Some system libraries are missing. Run: sudo apt-get install -y$missing" >&2
    exit 1
  fi
fi
echo "Installing system libraries:$missing" >&2
$as_root apt-get update -qq && $as_root apt-get install -y -qq --no-install-recommends $missing >/dev/null
