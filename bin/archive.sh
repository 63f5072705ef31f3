#!/usr/bin/env bash
# npm run archive -- out FILE | in FILE [--keep | --replace]: everything a kitchen has, as one file of an open format (docs/formats.md).
set -euo pipefail
from=$PWD
cd "$(dirname "${BASH_SOURCE[0]}")/.."
. bin/lib.sh
. bin/pg.sh
. bin/backups.sh
usage="npm run archive -- out FILE | in FILE [--keep | --replace]"
way=refuse
case ${1:-} in
  out) [ $# -eq 2 ] || die "say where to: $usage." ;;
  in)
    [ $# -ge 2 ] || die "say which: $usage."
    case ${3:-} in '') ;; --keep) way=keep ;; --replace) way=replace ;; *) die "\"$3\" is not an option: $usage." ;; esac ;;
  --help | -h) echo "$usage"; exit 0 ;;
  *) die "$usage" ;;
esac
# npm goes to the project's folder; a file is meant from where it was called.
case $2 in /*) file=$2 ;; *) file=${INIT_CWD:-$from}/$2 ;; esac
[ "$1" = out ] || [ -f "$file" ] || die "there is no $2."

need_node
need_package pg_installed postgresql "PostgreSQL"
need_modules
node_modules/.bin/tsc -b core server || die "the build failed: see the lines above."
mkdir -p "$KESTFOG_DATA"
exec 9>"$KESTFOG_DATA/.lock"
# While Kestfog runs its database is up, and stays so.
if flock -n 9; then trap 'pg_stop 9>&- || true' EXIT; fi
pg_start 9>&-
# The command brings the tables up to date, as a start does.
backup_before_migration
if [ "$1" = in ] && backup_worth; then
  name=$(backup_make before-archive) || die "what is here could not be saved, so nothing was taken in: is the disk full?"
  say "what is here is saved as $name"
fi
node --enable-source-maps server/dist/archive-cli.js "$1" "$file" "$way" 9>&-
