#!/usr/bin/env bash
# npm run serve: one of several processes of Kestfog on a PostgreSQL that is there already (DATABASE_URL). See docs/operations.md.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
. bin/lib.sh

port=${PORT:-3000} host=${HOST:-127.0.0.1} address=${KESTFOG_ADDRESS:-} only_plans=no tell=no
while [ $# -gt 0 ]; do
  case $1 in
    --port) [ $# -gt 1 ] || die "--port needs a number."; port=$2; shift ;;
    --port=*) port=${1#*=} ;;
    --language) [ $# -gt 1 ] || die "--language needs one, such as nl."; KESTFOG_LANGUAGE=$2; shift ;;
    --language=*) KESTFOG_LANGUAGE=${1#*=} ;;
    --host) [ $# -gt 1 ] || die "--host needs an address of this machine."; host=$2; shift ;;
    --host=*) host=${1#*=} ;;
    --address) [ $# -gt 1 ] || die "--address needs what a browser types."; address=$2; shift ;;
    --address=*) address=${1#*=} ;;
    --only-plans) only_plans=yes ;;
    --passphrase) tell=yes ;;
    --help | -h)
      echo "DATABASE_URL=postgres://… npm run serve -- [--port N] [--host ADDRESS] [--address URL] [--only-plans] [--language TAG]"
      echo "  --port N       listen on this port (default 3000)"
      echo "  --host ADDRESS of this machine (default 127.0.0.1: a proxy on the same machine passes requests on)"
      echo "  --address URL  what a browser types, such as https://kitchen.example: only that is answered, and each device is"
      echo "                 asked once for the passphrase"
      echo "  --passphrase   print what a device types to be let in, and end"
      echo "  --only-plans   serve nobody, and plan orders for those that do"
      echo "  --language TAG speak the language of the catalogue words/TAG.json (default: en), see docs/words.md"
      exit 0 ;;
    *) die "\"$1\" is not an option: use --port N, --host ADDRESS, --address URL, --passphrase, --only-plans or --language TAG." ;;
  esac
  shift
done
case $port in *[!0-9]* | '') die "--port must be a number, not \"$port\"." ;; esac
[ -n "${DATABASE_URL:-}" ] || die "DATABASE_URL is not set: it names the PostgreSQL the processes share, such as postgres://kestfog:…@db.example/kestfog."
[ -n "$address" ] || [ "$only_plans" = yes ] || [ "$tell" = yes ] || case $host in
  127.0.0.1 | ::1 | localhost) ;;
  *) die "--host $host can be reached by others: say with --address what a browser types, so that devices are let in by the passphrase." ;;
esac

need_node
need_modules
need_build
if [ "$tell" = yes ]; then exec node server/dist/passphrase-cli.js; fi
exec env NODE_ENV=production PORT="$port" HOST="$host" KESTFOG_ADDRESS="$address" KESTFOG_SHARED=yes KESTFOG_ONLY_PLANS="$only_plans" \
  KESTFOG_DEMO=none KESTFOG_LAN='' node --enable-source-maps server/dist/main.js
