#!/usr/bin/env bash
# The browser tests need Debian's chromium and its driver, and fonts for scripts a Latin face lacks:
# Devanagari, Arabic and others (noto-core), Chinese, Japanese and Korean (droid-fallback).
set -euo pipefail
packages="chromium chromium-driver fonts-noto-core fonts-droid-fallback"
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
if command -v chromium >/dev/null && command -v chromedriver >/dev/null; then exit 0; fi
echo "The browser tests need chromium and chromedriver. Install them with:" >&2
echo "  sudo apt-get install $packages" >&2
exit 1
