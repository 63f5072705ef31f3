# A private PostgreSQL cluster in Kestfog's own data folder, on loopback. Source it, then pg_start / pg_stop.
# As root the server runs as the unprivileged account "postgres"; as anybody else it runs as that user.
KESTFOG_DATA=${KESTFOG_DATA:-$PWD/data}
case $KESTFOG_DATA in /*) ;; *) KESTFOG_DATA=$PWD/$KESTFOG_DATA ;; esac
PG_HOME=$KESTFOG_DATA/postgres
PG_CLUSTER=$PG_HOME/cluster
PG_SECRET=$KESTFOG_DATA/db-password

pg_installed() { ls /usr/lib/postgresql/*/bin/postgres >/dev/null 2>&1 || command -v postgres >/dev/null; }

pg_find() { # the version that made the cluster, else the newest
  local version='*'
  [ -r "$KESTFOG_DATA/pg-version" ] && version=$(cat "$KESTFOG_DATA/pg-version")
  PG_BIN=$(ls -d /usr/lib/postgresql/$version/bin 2>/dev/null | sort -V | tail -n 1)
  [ -n "$PG_BIN" ] || PG_BIN=$(dirname "$(command -v postgres || echo /none/postgres)")
  [ -x "$PG_BIN/initdb" ] || die "PostgreSQL $version is missing: install Debian's package postgresql."
}

PG_CAPS=()
pg_as() { # a command as the cluster's account, from a folder that account can enter
  if is_root; then
    (cd / && HOME=/nonexistent exec setpriv --reuid=postgres --regid=postgres --clear-groups --no-new-privs ${PG_CAPS[@]+"${PG_CAPS[@]}"} -- "$@")
  else
    (cd / && exec "$@")
  fi
}

free_port() { # first port from $1 on that can be bound on loopback
  node -e '
    const net = require("node:net"); let port = Number(process.argv[1]); const end = port + 200;
    const next = () => { const s = net.createServer();
      s.once("error", () => { if (++port > end) { console.error("no free port"); process.exit(1); } next(); });
      s.listen({ host: "127.0.0.1", port, exclusive: true }, () => s.close(() => process.stdout.write(String(port)))); };
    next();' "$1"
}

pg_pid_line() { pg_as sed -n "$1p" "$PG_CLUSTER/postmaster.pid" 2>/dev/null; }
# A process that is gone may linger as a zombie under a slow init, and a pid may be taken again: only a process that
# works in the cluster's folder counts.
# find ends with an error for every process it may not look into, so only what it prints counts.
pg_alive() { [ -n "$(pg_as find /proc -maxdepth 2 -path '/proc/[0-9]*/cwd' -lname "$PG_CLUSTER" 2>/dev/null || true)" ]; }
pg_answers() { local port; port=$(pg_pid_line 4) && [ -n "$port" ] && "$PG_BIN/pg_isready" -q -h 127.0.0.1 -p "$port" -t 10; }

pg_create() {
  local fresh=$PG_HOME/cluster.new password
  password=$(node -p 'require("node:crypto").randomBytes(24).toString("hex")')
  pg_as rm -rf "$fresh"
  pg_as "$PG_BIN/initdb" -D "$fresh" -U postgres -E UTF8 --locale=C.UTF-8 --data-checksums --auth=reject >/dev/null || die "the database could not be created in $PG_HOME."
  printf '%s\n' "listen_addresses = '127.0.0.1'" "unix_socket_directories = ''" "max_connections = 60" "timezone = 'UTC'" "log_timezone = 'UTC'" | pg_as tee -a "$fresh/postgresql.conf" >/dev/null
  echo 'host all kestfog 127.0.0.1/32 scram-sha-256' | pg_as tee "$fresh/pg_hba.conf" >/dev/null
  printf '%s\n' "CREATE ROLE kestfog LOGIN CREATEDB PASSWORD '$password';" 'CREATE DATABASE kestfog OWNER kestfog;' | pg_as "$PG_BIN/postgres" --single -D "$fresh" postgres >/dev/null 2>&1 || die "the database's account could not be made."
  (umask 077; printf '%s' "$password" >"$PG_SECRET")
  pg_as cat "$fresh/PG_VERSION" >"$KESTFOG_DATA/pg-version"
  pg_as mv "$fresh" "$PG_CLUSTER" # a half-made cluster never gets the real name
}

pg_start() {
  mkdir -p "$KESTFOG_DATA"
  pg_find
  if is_root; then install -d -o postgres -g postgres -m 700 "$PG_HOME"; else install -d -m 700 "$PG_HOME"; fi
  # A checkout below a private folder shuts the account out: let it pass through folders, nothing more.
  pg_as touch "$PG_HOME/.entered" 2>/dev/null ||
    PG_CAPS=(--inh-caps=-all,+dac_read_search --ambient-caps=-all,+dac_read_search --bounding-set=-all,+dac_read_search)
  pg_as touch "$PG_HOME/.entered" 2>/dev/null || die "the database's account cannot enter $PG_HOME: set KESTFOG_DATA to a folder outside private ones, e.g. /var/lib/kestfog."
  pg_as test -d "$PG_CLUSTER/base" 2>/dev/null || pg_as ls "$PG_CLUSTER/base" >/dev/null 2>&1 || pg_create
  if ! { pg_alive && pg_answers; }; then
    local try port=${PG_PORT:-54330}
    for try in $(seq 50); do pg_alive || break; sleep 0.2; done
    pg_alive && die "another program still works in $PG_CLUSTER."
    pg_as rm -f "$PG_CLUSTER/postmaster.pid"
    for try in 1 2 3 4 5; do
      port=$(free_port "$port") || die "no free port for the database."
      [ -z "${PG_ONLY:-}" ] || [ "$port" = "$PG_ONLY" ] ||
        die "port $PG_ONLY, where the database was, is taken by another program: it comes back once that is gone."
      pg_as "$PG_BIN/pg_ctl" -D "$PG_CLUSTER" -l "$PG_HOME/server.log" -o "-p $port" -w -t 60 start >/dev/null && break
      port=$((port + 1))
      [ -z "${PG_ONLY:-}" ] && [ "$try" != 5 ] || die "the database did not start: see $PG_HOME/server.log."
    done
  fi
  PG_PORT=$(pg_pid_line 4)
  DATABASE_URL="postgres://kestfog:$(cat "$PG_SECRET")@127.0.0.1:$PG_PORT/kestfog"
  export DATABASE_URL
}

pg_again() { # starts it again for those who know it by its port: there, or not at all
  (PG_ONLY=$PG_PORT pg_start)
}

pg_watch() { # starts the database again, on its own port, should it ever end by itself
  local told=
  while sleep 1; do
    if pg_alive; then
      told=
    elif [ -z "$told" ]; then
      say "the database has ended: starting it again"
      pg_again || told=yes
    else
      pg_again 2>/dev/null || true
    fi
  done
}

pg_stop() { pg_as "$PG_BIN/pg_ctl" -D "$PG_CLUSTER" -m fast -w -t 60 stop >/dev/null 2>&1; }
