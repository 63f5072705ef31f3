# Backups of the whole database, in the data folder. Source it after lib.sh and pg.sh, with the database up.
# Each is one file of pg_dump's own format, named by when (UTC) and why; the last ten are kept.
BACKUPS=$KESTFOG_DATA/backups
BACKUPS_KEPT=10
DAY_S=86400

# A program of PostgreSQL's on the database; the password goes by the environment, since anybody sees a command's words.
pg_on() { PGHOST=127.0.0.1 PGPORT=$PG_PORT PGUSER=kestfog PGDATABASE=kestfog PGPASSWORD=$(cat "$PG_SECRET") PGCONNECT_TIMEOUT=10 "$PG_BIN/$1" "${@:2}"; }

# Whether there is anything worth keeping: a database nobody has used yet has no tables, or no rows in them.
backup_worth() {
  local any
  any=$(pg_on psql -X -A -t -q -v ON_ERROR_STOP=1 -c "SELECT EXISTS (SELECT 1 FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
    WHERE n.nspname = 'public' AND c.relkind = 'r' AND c.relname <> 'migrations' AND pg_relation_size(c.oid) > 0)") || die "the database could not be asked what is in it."
  [ "$any" = t ]
}

# backup_make WHY: prints the name of the backup it made. Half a backup never gets a real name.
backup_make() {
  local name part
  name=$(date -u +%Y%m%dT%H%M%SZ)-$1.dump
  mkdir -p "$BACKUPS" && chmod 700 "$BACKUPS"
  part=$BACKUPS/.$name.part
  rm -f "$BACKUPS"/.*.part
  (umask 077; pg_on pg_dump --format=custom --no-owner --file="$part") || { rm -f "$part"; return 1; }
  mv "$part" "$BACKUPS/$name"
  backup_names | head -n -"$BACKUPS_KEPT" | while read -r old; do rm -f "$BACKUPS/$old"; done
  printf '%s' "$name"
}
# The oldest first.
backup_names() { (cd "$BACKUPS" 2>/dev/null && ls -1 | grep -E '^[0-9]{8}T[0-9]{6}Z-[a-z-]+\.dump$' | sort) || true; }

# The migrations this release has, as one number.
backup_schema() { (cd server/dist/migrations && ls -1 ./*.js) | cksum | cut -d ' ' -f 1; }

# Before a release with other migrations changes the tables, they are put by as they were.
backup_before_migration() {
  local now name
  now=$(backup_schema)
  if [ "$(cat "$KESTFOG_DATA/schema" 2>/dev/null)" != "$now" ] && backup_worth; then
    name=$(backup_make before-migration) || die "what is there could not be saved, so it was not changed for this release: is the disk full?"
    say "before the database is changed for this release, it is saved as $name"
  fi
  printf '%s\n' "$now" >"$KESTFOG_DATA/schema"
}

backup_before_reset() {
  backup_worth || return 0
  local name
  name=$(backup_make before-reset) || die "what is there could not be saved, so it was not replaced by the demo: is the disk full?"
  say "what was there is saved as $name; npm run backup -- restore $name brings it back"
  backup_schema >"$KESTFOG_DATA/schema" # the same again need not be saved before its tables are changed
}

# Once a day while Kestfog runs, counted from the last daily one, also across restarts.
backup_daily() {
  while :; do
    local last age=$DAY_S
    last=$(backup_names | grep -- '-daily\.dump$' | tail -n 1 || true)
    [ -z "$last" ] || age=$(($(date +%s) - $(stat -c %Y "$BACKUPS/$last")))
    if [ "$age" -ge "$DAY_S" ]; then
      # In a shell of its own: a database that is just being started again must not end the daily backups for good.
      if (backup_worth); then backup_make daily >/dev/null || say "the daily backup failed: is the disk full?"; fi
      age=0
    fi
    sleep "$((DAY_S - age < 3600 ? (DAY_S - age > 60 ? DAY_S - age : 60) : 3600))"
  done
}

# Puts a backup in the place of what is there, all of it or nothing; what was there is saved first.
backup_restore() {
  local file=$BACKUPS/$1 before list
  case $1 in */* | .*) die "\"$1\" is no backup's name: npm run backup -- list shows them." ;; esac
  [ -f "$file" ] || die "there is no backup \"$1\": npm run backup -- list shows them."
  "$PG_BIN/pg_restore" --list "$file" >/dev/null 2>&1 || die "$1 is damaged and cannot be read: choose another."
  # Aside, so that the backup that is wanted is not the one that gives way to the newest.
  list=$KESTFOG_DATA/.restoring.dump
  cp "$file" "$list"
  if backup_worth; then
    before=$(backup_make before-restore) || { rm -f "$list"; die "what is there could not be saved, so nothing was changed: is the disk full?"; }
  fi
  { echo 'DROP OWNED BY CURRENT_USER;'; "$PG_BIN/pg_restore" --no-owner --file=- "$list"; } |
    pg_on psql -X -q -v ON_ERROR_STOP=1 --single-transaction -f - >/dev/null || { rm -f "$list"; die "$1 could not be put back; everything is as it was."; }
  rm -f "$list" "$KESTFOG_DATA/schema" # an older one is migrated, and saved first, at the next start
  say "$1 is put back${before:+; what was there is saved as $before}"
}
