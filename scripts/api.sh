#!/usr/bin/env bash
# The published schemas and the interface's types, generated; --check says when they are stale.
set -eu
cd "$(dirname "$0")/.."
new=$(mktemp -d)
trap 'rm -rf "$new"' EXIT
.venv/bin/finebatch openapi > "$new/openapi.json"
.venv/bin/finebatch schema > "$new/session.schema.json"
(cd ui && npx openapi-typescript "$new/openapi.json" -o "$new/schema.d.ts" > /dev/null)
.venv/bin/python scripts/limits.py "$new/openapi.json" > "$new/limits.ts"
for made in docs/openapi.json docs/session.schema.json ui/src/api/schema.d.ts ui/src/api/limits.ts; do
  fresh="$new/$(basename "$made")"
  if [ "${1:-}" != --check ]; then
    cp "$fresh" "$made"
  elif ! cmp -s "$fresh" "$made"; then
    echo "$made is stale: run make api and commit it." >&2
    exit 1
  fi
done
