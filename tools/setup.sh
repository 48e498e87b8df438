# Sourced by ./start, ./test and ./shots: installs what is missing, and nothing when all is there.
# Exit 3: something only an administrator can install is missing.
# A step is stamped done only after it has been seen to work; whatever was cut short is done again.

root_dir=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
work_dir="$root_dir/.work"
python_bin="$root_dir/.venv/bin/python"
mkdir -p "$work_dir"
export DEBIAN_FRONTEND=noninteractive
export PYTHONDONTWRITEBYTECODE= # compiled files make the second start quick

say() { printf '%s\n' "$*"; }

# Where a company's own certificates are among the system's, the installers must believe those too.
system_certificates=/etc/ssl/certs/ca-certificates.crt
follow_system_certificates() {
  [ -r "$system_certificates" ] || return 0
  export PIP_CERT="${PIP_CERT:-$system_certificates}"
  export NODE_EXTRA_CA_CERTS="${NODE_EXTRA_CA_CERTS:-$system_certificates}"
  export UV_NATIVE_TLS="${UV_NATIVE_TLS:-1}" UV_SYSTEM_CERTS="${UV_SYSTEM_CERTS:-1}"
}
follow_system_certificates

# Two set-ups at once would write over each other's packages: the second waits for the first, and says so.
lock_setup() {
  exec 9>"$work_dir/setup.lock"
  flock -n 9 && return
  say "Another start or test is setting up here; waiting for it."
  flock 9
}
unlock_setup() { exec 9>&-; }

# need_debian PACKAGE...: install Debian packages, as root or with sudo that asks no password.
need_debian() {
  local run=()
  if [ "$(id -u)" -ne 0 ]; then
    if command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then
      run=(sudo -n --preserve-env=DEBIAN_FRONTEND)
    else
      say "Missing Debian packages, and no right to install them. Ask an administrator for: apt-get install -y $*" >&2
      exit 3
    fi
  fi
  say "Installing Debian packages: $*"
  if ! { "${run[@]}" apt-get update -qq && "${run[@]}" apt-get install -y -qq --no-install-recommends "$@"; } \
    >"$work_dir/apt.log" 2>&1; then
    say "Debian packages could not be installed ($*): $(tail -n 1 "$work_dir/apt.log")" >&2
    exit 3
  fi
}

check_node() {
  local version major minor
  version=$(node --version 2>/dev/null || true)
  major=${version#v}; minor=${major#*.}; major=${major%%.*}; minor=${minor%%.*}
  if [ -z "$version" ] || [ "$major" -lt 20 ] || { [ "$major" -eq 20 ] && [ "$minor" -lt 19 ]; }; then
    say "Node.js 20.19 or newer with npm is needed to build the interface; found ${version:-none}." >&2
    exit 3
  fi
}

# The packages that are missing of: PostgreSQL, Python's venv, what sets papers, and with "browser" Chromium, its driver and an MQTT broker.
install_debian() {
  local missing=()
  compgen -G '/usr/lib/postgresql/*/bin/postgres' >/dev/null || missing+=(postgresql)
  command -v python3 >/dev/null 2>&1 || missing+=(python3)
  python3 -c 'import ensurepip, venv' 2>/dev/null || missing+=(python3-venv)
  # What papers are set with.
  ldconfig -p | grep -q libpango-1.0.so.0 || missing+=(libpango-1.0-0)
  ldconfig -p | grep -q libpangoft2-1.0.so.0 || missing+=(libpangoft2-1.0-0)
  ldconfig -p | grep -q libharfbuzz-subset.so.0 || missing+=(libharfbuzz-subset0)
  command -v fc-list >/dev/null 2>&1 || missing+=(fontconfig)
  compgen -G '/usr/share/fonts/truetype/dejavu/DejaVuSans*.ttf' >/dev/null || missing+=(fonts-dejavu-core)
  if [ "${1:-}" = browser ]; then
    [ -x /usr/bin/chromium ] || missing+=(chromium)
    [ -x /usr/bin/chromedriver ] || missing+=(chromium-driver)
    # Only the tests start one, on a port of their own: the broker a stand-in publishes on.
    [ -x /usr/sbin/mosquitto ] || missing+=(mosquitto)
  fi
  [ ${#missing[@]} -eq 0 ] || need_debian "${missing[@]}"
}

stamp_of() { cat "$@" | sha256sum | cut -d' ' -f1; }

# fresh NAME STAMP: whether the step NAME was last done for this STAMP.
fresh() { [ "$(cat "$work_dir/stamp.$1" 2>/dev/null)" = "$2" ]; }
done_for() { printf '%s' "$2" >"$work_dir/stamp.$1.new" && mv "$work_dir/stamp.$1.new" "$work_dir/stamp.$1"; }
undone() { rm -f "$work_dir/stamp.$1"; }

# Whether the environment has pip, and what the app cannot start without.
venv_has_pip() { [ -x "$python_bin" ] && "$python_bin" -m pip --version >/dev/null 2>&1; }
venv_works() {
  [ -x "$python_bin" ] && "$python_bin" - <<'PY' >/dev/null 2>&1
import importlib.util as known, sys
sys.exit(any(known.find_spec(name) is None for name in ("pip", "yonderstat", "flask", "gunicorn", "waitress", "psycopg", "numba", "weasyprint")))
PY
}

# Every step after && : inside ( … ) || the shell would go on after a failure.
python_packages() {
  cd "$root_dir" &&
    "$python_bin" -m pip install -q --disable-pip-version-check uv==0.13.9 &&
    "$python_bin" -m uv pip install -q --compile-bytecode --python "$python_bin" --require-hashes -r requirements.lock &&
    "$python_bin" -m uv pip install -q --python "$python_bin" --no-deps -e . &&
    venv_works
}

install_python() {
  local stamp
  if ! python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))'; then
    say "Python 3.11 or newer is needed; found $(python3 --version)." >&2
    exit 3
  fi
  stamp="$(python3 --version) $root_dir $(stamp_of "$root_dir/requirements.lock" "$root_dir/pyproject.toml")"
  if fresh python "$stamp" && venv_works; then return; fi
  say "Installing Python packages"
  undone python
  if ! venv_has_pip && ! python3 -m venv --clear "$root_dir/.venv" >"$work_dir/pip.log" 2>&1; then
    say "Python's virtual environment could not be made: $(tail -n 1 "$work_dir/pip.log")" >&2
    exit 1
  fi
  if ! (python_packages) >"$work_dir/pip.log" 2>&1; then
    say "Python packages could not be installed: $(tail -n 3 "$work_dir/pip.log")" >&2
    exit 1
  fi
  done_for python "$stamp"
}

npm_works() { [ -x "$root_dir/ui/node_modules/.bin/vite" ] && [ -x "$root_dir/ui/node_modules/.bin/tsc" ]; }
npm_packages() { cd "$root_dir/ui" && npm ci --no-audit --no-fund && npm_works; }

install_ui() {
  local stamp
  check_node
  stamp="$(node --version) $(stamp_of "$root_dir/ui/package-lock.json")"
  if fresh npm "$stamp" && npm_works; then return; fi
  say "Installing npm packages"
  undone npm
  if ! (npm_packages) >"$work_dir/npm.log" 2>&1; then
    say "npm packages could not be installed: $(tail -n 3 "$work_dir/npm.log")" >&2
    exit 1
  fi
  done_for npm "$stamp"
}

ui_build() { cd "$root_dir/ui" && npm run -s build && [ -f dist/index.html ]; }

build_ui() {
  local stamp
  stamp=$(cd "$root_dir/ui" && find src public index.html vite.config.ts package-lock.json ../docs/guide ../docs/glossary.md ../docs/screenshots -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum)
  if [ -f "$root_dir/ui/dist/index.html" ] && fresh ui "$stamp"; then return; fi
  say "Building the interface"
  undone ui
  if ! (ui_build) >"$work_dir/build.log" 2>&1; then
    say "The interface could not be built: $(tail -n 20 "$work_dir/build.log")" >&2
    exit 1
  fi
  done_for ui "$stamp"
}
