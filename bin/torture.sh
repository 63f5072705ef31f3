#!/usr/bin/env bash
# npm run torture: everything that can go wrong with server and database, over and over; what is found is said with the seed it came by.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
. bin/lib.sh
. bin/pg.sh

rounds=100 inputs=20000 drawings=2000 devices=50 hours=30 seed=$(date +%s)
number() { case ${2:-} in *[!0-9]* | '') die "$1 needs a number." ;; esac; }
while [ $# -gt 0 ]; do
  case $1 in
    --rounds | --inputs | --drawings | --devices | --hours | --seed) number "$1" "${2:-}"; declare "${1#--}=$2"; shift ;;
    --help | -h)
      echo "npm run torture -- [--rounds N] [--inputs N] [--drawings N] [--devices N] [--hours N] [--seed N]"
      echo "  --rounds N     kills of server and database, and as many other faults (default 100)"
      echo "  --inputs N     spoilt requests over every route (default 20000)"
      echo "  --drawings N   spoilt drawings (default 2000)"
      echo "  --devices N    that work while it goes wrong (default 50)"
      echo "  --hours N      simulated, of a long day (default 30)"
      echo "  --seed N       the same again"
      exit 0 ;;
    *) die "\"$1\" is not an option: see npm run torture -- --help." ;;
  esac
  shift
done
need_node
need_package pg_installed postgresql "PostgreSQL"
need_modules
node_modules/.bin/tsc -b core server
export KESTFOG_DATA=$PWD/node_modules/.cache/kestfog-torture-$$
trap 'pg_stop || true; rm -rf "$KESTFOG_DATA" "$KESTFOG_DATA"-*' EXIT
pg_start
say "seed $seed"
FAULT_ROUNDS=$rounds FAULT_SEED=$seed FUZZ=$inputs FUZZ_DRAWINGS=$drawings FUZZ_SEED=$seed APPEND_ROUNDS=$((rounds / 10 + 5)) \
  TORTURE_ROUNDS=$rounds TORTURE_DEVICES=$devices TORTURE_HOURS=$hours TORTURE_SEED=$seed \
  node_modules/.bin/vitest run --project server faults fuzz robust processes torture
