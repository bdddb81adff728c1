#!/usr/bin/env bash
# Say clearly what is missing before anything is set up.
set -u
stop() { printf 'Fine Batch cannot be set up: %s\n' "$1" >&2; exit 1; }

[ -w . ] || stop "the folder $(pwd) cannot be written to. Copy it to a folder of your own."
command -v python3 >/dev/null || stop "Python is missing. Install Python 3.11 or newer (on Debian: apt install python3 python3-venv)."
python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' ||
  stop "Python $(python3 -c 'import platform; print(platform.python_version())') is too old. Install 3.11 or newer."
python3 -c 'import venv, ensurepip' 2>/dev/null || stop "Python's venv is missing. On Debian: apt install python3-venv."
command -v npm >/dev/null && command -v node >/dev/null || stop "Node.js is missing. Install version 20.19 or newer, with npm."
node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 22 || (a === 22 && b >= 12) || (a === 20 && b >= 19) ? 0 : 1)' ||
  stop "Node.js $(node --version) does not fit. Install 20.19 or newer in the 20 series, or 22.12 or newer."
