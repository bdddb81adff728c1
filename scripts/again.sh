#!/usr/bin/env bash
# Run a command that may stand still for ever (a bundler's threads, a registry that does not answer):
# again.sh SECONDS COMMAND… ends it after that long and tries twice more. What fails by itself fails at once.
set -u
seconds=$1
shift
command -v timeout >/dev/null || exec "$@"
for try in 1 2 3; do
  timeout --kill-after=10 "$seconds" "$@" &
  trap 'kill $!; exit 130' INT TERM
  wait $!
  status=$?
  [ "$status" = 124 ] || [ "$status" = 137 ] || exit "$status"
  echo "Stood still for $seconds s (try $try of 3): $*" >&2
done
exit "$status"
