# Shared by start.sh and test.sh: what the machine needs, the packages, the build. Source it from the repository's root.
say() { printf '%s\n' "$*" >&2; }
die() { say "kestfog: $*"; exit 1; }
is_root() { [ "$(id -u)" = 0 ]; }

# need_package COMMAND-TEST PACKAGE WHY: installs a Debian package as root, or names it in one sentence.
need_package() {
  eval "$1" && return 0
  is_root && command -v apt-get >/dev/null || die "$3 is missing: ask someone with root for 'apt-get install $2', then try again."
  say "installing $2 ($3) …"
  { DEBIAN_FRONTEND=noninteractive apt-get update -qq &&
    DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$2"; } >/dev/null 2>&1 || die "$2 could not be installed: run 'apt-get update && apt-get install $2' and look at what it says."
  eval "$1" || die "$2 was installed, but $3 is still not found."
}

need_node() {
  command -v npm >/dev/null || die "Node.js with npm is missing: install Node.js 20.19 or newer."
}

# npm ci when the lock file is not the one node_modules was made from.
need_modules() {
  local stamp=node_modules/.kestfog-lock sum
  sum=$(cksum <package-lock.json)
  [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$sum" ] && return 0
  say "installing packages …"
  npm ci --no-audit --no-fund --loglevel=error >&2 || die "the packages could not be installed: see the lines above."
  printf '%s' "$sum" >"$stamp"
}

need_build() {
  case ${KESTFOG_LANGUAGE:=en} in
    en | en-XA) ;;
    *[!A-Za-z0-9-]*) die "\"$KESTFOG_LANGUAGE\" is no language: give one as a browser does, such as nl or pt-BR." ;;
    *) [ -f "words/$KESTFOG_LANGUAGE.json" ] || die "there is no catalogue words/$KESTFOG_LANGUAGE.json: see docs/words.md." ;;
  esac
  export KESTFOG_LANGUAGE
  node_modules/.bin/tsc -b core core/tsconfig.cli.json server || die "the build failed: see the lines above."
  # The page speaks one language, in which it was built.
  if ! grep -q "<html lang=\"${KESTFOG_LANGUAGE:-en}\"" web/dist/index.html 2>/dev/null ||
    [ -n "$(find web/src web/index.html web/vite.config.ts web/package.json core/src words package-lock.json -newer web/dist/index.html -print -quit)" ]; then
    say "building the page …"
    npm run --silent build -w web >&2 || die "the page could not be built: see the lines above."
  fi
}
