#!/usr/bin/env bash
# The browser that the tests drive, Debian's Chromium, and what has it trust a certificate; installed
# only when they are missing.
set -eu
[ -x "$1" ] && command -v certutil >/dev/null && exit 0
command -v apt-get >/dev/null || { echo "The tests need Chromium at $1 and certutil. Install them, or name another browser with CHROMIUM=." >&2; exit 1; }
as_root=""
[ "$(id -u)" = 0 ] || as_root="sudo"
echo "Installing Chromium for the tests…"
export DEBIAN_FRONTEND=noninteractive
$as_root apt-get update -qq
$as_root apt-get install -y -qq --no-install-recommends chromium libnss3-tools >/dev/null
