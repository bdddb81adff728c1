#!/usr/bin/env bash
# The browser that the tests drive: Debian's Chromium, installed only when it is missing.
set -eu
[ -x "$1" ] && exit 0
command -v apt-get >/dev/null || { echo "The tests need Chromium at $1. Install it, or name another with CHROMIUM=." >&2; exit 1; }
as_root=""
[ "$(id -u)" = 0 ] || as_root="sudo"
echo "Installing Chromium for the tests…"
export DEBIAN_FRONTEND=noninteractive
$as_root apt-get update -qq
$as_root apt-get install -y -qq --no-install-recommends chromium >/dev/null
