# Shared by ./start and ./test. Sourced, not run.

say()  { printf '\033[1m%s\033[0m\n' "• $*" >&2; }
fail() { printf '%s\n' "$*" >&2; exit 1; }

# at_least HAVE WANT: whether version HAVE is WANT or newer.
at_least() { [ "$(printf '%s\n%s\n' "$2" "$1" | sort -V | head -n 1)" = "$2" ]; }

check_versions() {
  command -v go >/dev/null || fail "Go is missing. Melodromos needs Go 1.26 or newer: install it and put it on the PATH."
  local have
  have=$(go env GOVERSION | sed 's/^go//; s/[^0-9.].*//')
  at_least "$have" 1.26 || fail "Go $have is too old. Melodromos needs Go 1.26 or newer."
  command -v node >/dev/null || fail "Node.js is missing. Melodromos needs Node.js 20.19 or newer: install it and put it on the PATH."
  command -v npm >/dev/null || fail "npm is missing. It usually comes with Node.js; on Debian: apt-get install npm"
  have=$(node --version | sed 's/^v//')
  at_least "$have" 20.19.0 || fail "Node.js $have is too old. Melodromos needs Node.js 20.19 or newer."
}

# need_package COMMAND PACKAGE…: installs Debian packages unless COMMAND says that they are there.
need_package() {
  local there=$1; shift
  eval "$there" >/dev/null 2>&1 && return
  local line="apt-get update && apt-get install -y $*"
  command -v apt-get >/dev/null || fail "$* is missing, and there is no apt-get to install it with. Install it, then start again."
  local as=()
  if [ "$(id -u)" != 0 ]; then
    if command -v sudo >/dev/null && { [ -t 0 ] || sudo -n true 2>/dev/null; }; then
      as=(sudo)
    else
      fail "$* is missing. Type this as root, then start again:  $line"
    fi
  fi
  say "Installing $* from Debian's packages"
  local log; log=$(mktemp)
  if ! { "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get update &&
         "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends "$@"; } >"$log" 2>&1; then
    tail -n 20 "$log" >&2
    rm -f "$log"
    fail "Installing $* failed (see above). Type this as root, then start again:  $line"
  fi
  rm -f "$log"
  eval "$there" >/dev/null 2>&1 || fail "$* was installed but is not found."
}

# install_ui: installs the interface's parts when their list has changed.
install_ui() {
  local stamp=ui/node_modules/.melodromos want
  want=$(cat ui/package.json ui/package-lock.json | sha256sum)
  if [ "$(cat "$stamp" 2>/dev/null)" != "$want" ]; then
    say "Installing the interface's parts (a minute the first time)"
    (cd ui && npm ci --no-fund --no-audit --loglevel=error) || fail "npm ci failed in ui (see above)."
    printf '%s\n' "$want" >"$stamp"
  fi
}

# build_ui: builds the interface when it has changed.
build_ui() {
  install_ui
  local want
  want=$(find ui/src ui/public ui/index.html ui/*.ts ui/package-lock.json -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum)
  if [ "$(cat .data/ui-built 2>/dev/null)" != "$want" ] || [ ! -f ui/dist/index.html ]; then
    say "Building the interface"
    rm -rf ui/dist/assets ui/dist/calls ui/dist/index.html
    (cd ui && npm run --silent build -- --logLevel warn) || fail "The interface could not be built (see above)."
    mkdir -p .data && printf '%s\n' "$want" >.data/ui-built
  fi
}

build_server() {
  say "Building the server"
  mkdir -p bin && go build -o bin/melodromos ./cmd/melodromos || fail "The server could not be built (see above)."
}
