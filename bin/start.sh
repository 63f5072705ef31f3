#!/usr/bin/env bash
# npm start: everything a fresh machine needs, then the database and Kestfog until Ctrl-C.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
. bin/lib.sh

port=${PORT:-} demo=${KESTFOG_DEMO:-once} lan= plain=no
while [ $# -gt 0 ]; do
  case $1 in
    --port) [ $# -gt 1 ] || die "--port needs a number."; port=$2; shift ;;
    --port=*) port=${1#*=} ;;
    --language) [ $# -gt 1 ] || die "--language needs one, such as nl."; KESTFOG_LANGUAGE=$2; shift ;;
    --language=*) KESTFOG_LANGUAGE=${1#*=} ;;
    --lan)
      lan=auto
      case ${2:-} in '' | -*) ;; *) lan=$2; shift ;; esac ;;
    --lan=*) lan=${1#*=} ;;
    --plain) plain=yes ;;
    --empty) demo=none ;;
    --reset-demo) demo=reset ;;
    --help | -h)
      echo "npm start -- [--port N] [--lan [ADDRESS]] [--plain] [--empty] [--reset-demo] [--language TAG]"
      echo "  --port N       serve on this port of 127.0.0.1 (default: the first free one from 3000)"
      echo "  --lan [ADDRESS] serve in the kitchen's network, on this address of the machine (default: its first; 0.0.0.0: all),"
      echo "                 with certificates of its own, always on the same port, by the name kestfog.local where the network"
      echo "                 passes names on; each device is asked once for the passphrase shown at the start"
      echo "  --plain        with --lan: without the certificate; tablets may then sleep and cannot reload offline"
      echo "  --empty        begin without the demo data"
      echo "  --reset-demo   put the demo data in the place of everything; what is there is saved first, see npm run backup"
      echo "  --language TAG speak the language of the catalogue words/TAG.json (default: en), see docs/words.md"
      exit 0 ;;
    *) die "\"$1\" is not an option: use --port N, --lan, --plain, --empty, --reset-demo or --language TAG." ;;
  esac
  shift
done
case $lan in '' | auto | *[0-9a-fA-F.:]) ;; *) die "--lan takes an address of this machine, such as 192.168.1.20, not \"$lan\"." ;; esac
[ "$plain" = no ] || [ -n "$lan" ] || die "--plain goes with --lan: without it Kestfog stays on this machine anyway."
if [ -n "$port" ]; then
  case $port in *[!0-9]*) die "--port must be a number, not \"$port\"." ;; esac
  [ "$port" -ge 1 ] && [ "$port" -le 65535 ] || die "--port must be from 1 to 65535, not $port."
fi

. bin/pg.sh
. bin/backups.sh
need_node
need_package pg_installed postgresql "PostgreSQL"
need_modules
need_build

mkdir -p "$KESTFOG_DATA"
exec 9>"$KESTFOG_DATA/.lock"
flock -n 9 || die "it is already running on $KESTFOG_DATA: stop it there first, or set KESTFOG_DATA to another folder."
# Tablets know the kitchen by its address and port: what waits on them is kept under both, so the port stays the same.
kept_port=$KESTFOG_DATA/lan/port
is_free() { [ "$(free_port "$1" 2>/dev/null)" = "$1" ]; }
if [ -n "$port" ]; then
  is_free "$port" || die "port $port is taken: choose another with --port."
elif [ -n "$lan" ] && grep -qxE '[0-9]{1,5}' "$kept_port" 2>/dev/null; then
  port=$(cat "$kept_port")
  is_free "$port" || die "port $port, under which the tablets know the kitchen, is taken: stop what uses it, or choose another with --port."
else
  port=$(free_port 3000)
fi
if [ -n "$lan" ]; then
  # The next one is for the page that tells devices what to trust.
  [ "$plain" = yes ] || is_free $((port + 1)) || die "port $((port + 1)), for the page that lets devices in, is taken: choose another with --port."
  mkdir -p -m 700 "$KESTFOG_DATA/lan"
  printf '%s\n' "$port" >"$kept_port"
fi

server= watcher= daily=
stop() {
  trap '' INT TERM HUP
  if [ -n "$watcher" ]; then kill -KILL -- "-$watcher" 2>/dev/null || true; fi
  if [ -n "$daily" ]; then kill -KILL -- "-$daily" 2>/dev/null || true; fi
  if [ -n "$server" ]; then
    kill -TERM -- "-$server" 2>/dev/null || true
    # One that is stuck cannot hear that; everything it has said yes to is in the database.
    for _ in $(seq 50); do kill -0 "$server" 2>/dev/null || break; sleep 0.1; done
    kill -KILL -- "-$server" 2>/dev/null || true
    wait "$server" 2>/dev/null || true
  fi
  pg_stop 9>&- || true
}
trap 'exit 130' INT
trap 'exit 143' TERM HUP
trap stop EXIT
pg_start 9>&- # or the database would hold the lock
if [ "$demo" = reset ]; then backup_before_reset; fi
backup_before_migration
set -m        # the server in its own process group, so that Ctrl-C reaches this script alone
serve() {
  NODE_ENV=production PORT=$port HOST=127.0.0.1 KESTFOG_LAN=$lan KESTFOG_LAN_PLAIN=$plain KESTFOG_DEMO=$demo KESTFOG_DATA=$KESTFOG_DATA node --enable-source-maps server/dist/main.js 9>&- </dev/null &
  server=$!
}
serve
pg_watch 9>&- </dev/null &
watcher=$!
disown # what ends with this script is no news
backup_daily 9>&- </dev/null &
daily=$!
disown
# A server that ends is started again, unless it could not even begin, or ends again and again.
ends=0 began=$SECONDS
while :; do
  status=0
  wait "$server" || status=$?
  lived=$((SECONDS - began))
  [ "$status" -ne 0 ] && [ "$lived" -ge 3 ] || exit "$status"
  if [ "$lived" -ge 60 ]; then ends=0; fi
  ends=$((ends + 1))
  [ "$ends" -le 5 ] || die "the server ended $ends times within minutes: look at the lines above."
  say "the server ended with $status: starting it again …"
  demo=once began=$SECONDS
  serve
done
