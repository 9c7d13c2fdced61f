#!/usr/bin/env bash
# The browser tests need Debian's chromium, its driver, and fonts for scripts a Latin face lacks.
set -euo pipefail
packages="chromium chromium-driver fonts-noto-core"
if command -v chromium >/dev/null && command -v chromedriver >/dev/null; then exit 0; fi
if command -v apt-get >/dev/null && [ "$(id -u)" = 0 ]; then
  echo "Installing $packages…"
  apt-get update -qq >/dev/null
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $packages >/dev/null 2>&1 && exit 0
fi
echo "The browser tests need chromium and chromedriver. Install them with:" >&2
echo "  sudo apt-get install $packages" >&2
exit 1
