#!/usr/bin/env bash
# The OpenAPI document and the interface's types, generated; --check says when they are stale.
set -eu
cd "$(dirname "$0")/.."
new=$(mktemp -d)
trap 'rm -rf "$new"' EXIT
.venv/bin/finebatch openapi > "$new/openapi.json"
(cd ui && npx openapi-typescript "$new/openapi.json" -o "$new/schema.d.ts" > /dev/null)
if [ "${1:-}" = --check ]; then
  cmp -s "$new/openapi.json" docs/openapi.json && cmp -s "$new/schema.d.ts" ui/src/api/schema.d.ts ||
    { echo "docs/openapi.json or ui/src/api/schema.d.ts is stale: run make api and commit them." >&2; exit 1; }
else
  cp "$new/openapi.json" docs/openapi.json
  cp "$new/schema.d.ts" ui/src/api/schema.d.ts
fi
