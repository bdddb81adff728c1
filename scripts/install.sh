#!/usr/bin/env bash
# Install what a lock file pins, then this project itself.
set -eu
pip="$(dirname "$0")/../.venv/bin/pip"
"$pip" install --quiet --disable-pip-version-check --require-hashes -r "$1" 2> >(grep -v '^WARNING' >&2)
"$pip" install --quiet --disable-pip-version-check --no-deps --no-build-isolation --no-index -e . 2> >(grep -v '^WARNING' >&2)
