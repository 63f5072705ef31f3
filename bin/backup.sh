#!/usr/bin/env bash
# npm run backup -- list | make | restore NAME: backups of the whole database, made by themselves as well (see docs/operations.md).
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
. bin/lib.sh
. bin/pg.sh
. bin/backups.sh
usage="npm run backup -- list | make | restore NAME"
case ${1:-list} in
  list)
    names=$(backup_names)
    [ -n "$names" ] || { echo "There is no backup yet: one is made daily while Kestfog runs, and before anything large is changed."; exit 0; }
    while read -r name; do printf '%s  %s\n' "$name" "$(du -h "$BACKUPS/$name" | cut -f 1)"; done <<<"$names"
    exit 0 ;;
  make) ;;
  restore) [ $# -eq 2 ] || die "say which: $usage." ;;
  --help | -h) echo "$usage"; exit 0 ;;
  *) die "\"$1\" is not known: $usage." ;;
esac

need_package pg_installed postgresql "PostgreSQL"
mkdir -p "$KESTFOG_DATA"
exec 9>"$KESTFOG_DATA/.lock"
# While Kestfog runs its database is up, and stays so.
running=no
flock -n 9 || running=yes
[ "$running" = no ] || [ "$1" = make ] || die "Kestfog is running on $KESTFOG_DATA: stop it first, then restore."
if [ "$running" = no ]; then trap 'pg_stop 9>&- || true' EXIT; fi
pg_start 9>&-
case $1 in
  make) echo "saved as $(backup_make by-hand)" ;;
  restore) backup_restore "$2" ;;
esac
