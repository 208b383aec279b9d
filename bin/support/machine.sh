# Brings a Debian 12 machine to what Fobrel needs. Sourced by bin/start, bin/test, bin/bench
# and bin/fobrel. Each step looks first and does nothing where nothing is missing.
export BUNDLE_GEMFILE="$FOBREL_ROOT/Gemfile" LANG=C.UTF-8
# Pixels come and go in large pieces: without these the garbage collector runs at every few.
export RUBY_GC_MALLOC_LIMIT=33554432 RUBY_GC_MALLOC_LIMIT_MAX=67108864 RUBY_GC_OLDMALLOC_LIMIT=67108864
# Each thread that allocates would get memory of its own (glibc), which it never gives back.
export MALLOC_ARENA_MAX="${MALLOC_ARENA_MAX:-2}"

say() { printf '%s\n' "$*" >&2; }
fail() { say "fobrel: $*"; exit 1; }

# need_debian PACKAGE…: installs those that are missing.
need_debian() {
  local missing=() package
  for package in "$@"; do
    dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return
  command -v apt-get >/dev/null || fail "these programs are missing and this is no Debian machine: ${missing[*]}. Install them and try again."
  local as_root=()
  if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null || fail "these Debian packages are missing: ${missing[*]}. Have an administrator run: apt-get install ${missing[*]}"
    as_root=(sudo)
  fi
  say "Installing Debian packages: ${missing[*]}"
  mkdir -p "$FOBREL_ROOT/var"
  { "${as_root[@]}" apt-get update -qq \
    && "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}"; } \
    >"$FOBREL_ROOT/var/apt.log" 2>&1 || fail "the Debian packages could not be installed. The log is var/apt.log."
}

need_gems() {
  mkdir -p "$FOBREL_ROOT/var"
  export BUNDLE_PATH="$FOBREL_ROOT/var/bundle"
  # Asking Bundler takes most of a second, so a copy of the lock file says what is installed.
  local stamp="$FOBREL_ROOT/var/bundle.stamp"
  [ -d "$BUNDLE_PATH" ] && cmp -s "$stamp" "$FOBREL_ROOT/Gemfile.lock" && return
  if ! bundle check >/dev/null 2>&1; then
    say "Installing gems (three to four minutes the first time)"
    bundle install --jobs "$(nproc)" --retry 3 >"$FOBREL_ROOT/var/bundle.log" 2>&1 \
      || fail "the gems could not be installed. The log is var/bundle.log."
  fi
  cp "$FOBREL_ROOT/Gemfile.lock" "$stamp"
}

need_core() {
  command -v ruby >/dev/null && command -v bundle >/dev/null && command -v gcc >/dev/null \
    || need_debian ruby ruby-dev bundler build-essential
  need_debian libvips42 libpq-dev libyaml-dev fonts-dejavu-core fonts-droid-fallback fonts-freefont-ttf fonts-symbola
  need_gems
}

need_postgres() {
  [ -n "${DATABASE_URL:-}" ] || need_debian postgresql
}

# The front end is built with Node 20; where Debian's is older, the registry's own copy serves.
need_node() {
  local major
  major=$(node -p 'process.versions.node.split(".")[0]' 2>/dev/null || echo 0)
  if [ "$major" -lt 20 ]; then
    PATH="$FOBREL_ROOT/var/node/node_modules/node-linux-$(node_cpu)/bin:$PATH"
    export PATH
    if ! [ -x "$FOBREL_ROOT/var/node/node_modules/node-linux-$(node_cpu)/bin/node" ]; then
      command -v npm >/dev/null || need_debian nodejs npm
      say "Installing Node 20"
      npm install --silent --prefix "$FOBREL_ROOT/var/node" "node-linux-$(node_cpu)@20" >"$FOBREL_ROOT/var/node.log" 2>&1 \
        || fail "Node 20 could not be installed. The log is var/node.log."
    fi
  fi
  command -v npm >/dev/null || need_debian npm
}

node_cpu() { case "$(uname -m)" in aarch64) echo arm64 ;; *) echo x64 ;; esac; }

need_npm() {
  need_node
  local stamp="$FOBREL_ROOT/var/npm.stamp"
  [ -d "$FOBREL_ROOT/web/node_modules" ] && cmp -s "$stamp" "$FOBREL_ROOT/web/package-lock.json" && return
  say "Installing npm packages"
  (cd "$FOBREL_ROOT/web" && npm ci --no-audit --no-fund >"$FOBREL_ROOT/var/npm.log" 2>&1) \
    || fail "the npm packages could not be installed. The log is var/npm.log."
  cp "$FOBREL_ROOT/web/package-lock.json" "$stamp"
}

# Builds the front end when any of its sources changed since the last time.
need_web() {
  local sum stamp="$FOBREL_ROOT/var/web.stamp"
  sum=$(cd "$FOBREL_ROOT" && find web/src web/public web/index.html web/package-lock.json web/vite.config.ts web/tsconfig.json server/openapi.yaml \
    -type f -not -name schema.d.ts -print0 2>/dev/null | sort -z | xargs -0 sha256sum | sha256sum)
  [ -f "$FOBREL_ROOT/web/dist/index.html" ] && [ -f "$FOBREL_ROOT/web/src/api/schema.d.ts" ] && [ "$(cat "$stamp" 2>/dev/null)" = "$sum" ] && return
  need_npm
  say "Building the front end"
  (cd "$FOBREL_ROOT/web" && npm run --silent types && npm run --silent build) >"$FOBREL_ROOT/var/web.log" 2>&1 \
    || fail "the front end could not be built. The log is var/web.log."
  echo "$sum" >"$stamp"
}
