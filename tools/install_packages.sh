#!/usr/bin/env bash
# Debian packages that Python's and npm's do not bring: install_packages.sh pdf|tests
#   pdf    Pango, which WeasyPrint sets text with. Without it all but PDF works.
#   tests  also chromium and its driver, and fonts for scripts a Latin face lacks: Devanagari, Arabic and
#          others (noto-core), Chinese, Japanese and Korean (droid-fallback). And PostgreSQL, where it
#          can be had: its tests are left out where it cannot.
set -euo pipefail
packages="libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0 fonts-noto-core"
[ "${1:-tests}" = pdf ] || packages="chromium chromium-driver fonts-droid-fallback $packages"
if [ "${1:-tests}" = tests ] && ! ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1; then
  if command -v apt-get >/dev/null && [ "$(id -u)" = 0 ]; then
    echo "Installing PostgreSQL…"
    { apt-get update -qq && DEBIAN_FRONTEND=noninteractive \
      apt-get install -y -qq --no-install-recommends postgresql; } >/dev/null 2>&1 ||
      echo "Tests of PostgreSQL are left out: it cannot be installed here."
  fi
fi
if command -v dpkg-query >/dev/null; then
  missing=$(for each in $packages; do
    dpkg-query -W -f='${Status}' "$each" 2>/dev/null | grep -q "install ok installed" || echo "$each"
  done)
  if [ -z "$missing" ]; then exit 0; fi
else
  missing=$packages
fi
if command -v apt-get >/dev/null && [ "$(id -u)" = 0 ]; then
  echo "Installing" $missing…
  apt-get update -qq >/dev/null
  # shellcheck disable=SC2086
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $missing >/dev/null 2>&1 && exit 0
fi
if [ "${1:-tests}" = pdf ]; then
  echo "PDF is left out until these are installed: sudo apt-get install $packages"
  exit 0
fi
if command -v chromium >/dev/null && command -v chromedriver >/dev/null; then exit 0; fi
echo "The tests need chromium, chromedriver and Pango. Install them with:" >&2
echo "  sudo apt-get install $packages" >&2
exit 1
