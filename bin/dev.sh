#!/usr/bin/env bash
# A shell with the database up: bin/dev.sh COMMAND …, with DATABASE_URL set. Stops the database when COMMAND ends.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
. bin/lib.sh
. bin/pg.sh
trap 'pg_stop || true' EXIT
pg_start
"$@"
