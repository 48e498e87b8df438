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

# How often a step that takes long says how far it is.
progress_s="${YONDERSTAT_PROGRESS_S:-5}"

# with_progress LABEL HOW_FAR STEP...: say a step as it begins, and how far it is while it goes on.
with_progress() {
  local label="$1" how_far="$2" began=$SECONDS code=0 teller
  shift 2
  say "$label"
  # It ends with the step, and also with a set-up that was killed; and it holds no lock. It waits by itself (for what
  # never comes): a sleep of its own would outlive it and hold the output open.
  {
    exec 8<> <(:)
    while kill -0 $$ 2>/dev/null; do
      read -r -t "$progress_s" -u 8 || true
      say "$label: $("$how_far" || true) ($((SECONDS - began)) s)"
    done
  } 9>&- &
  teller=$!
  "$@" || code=$?
  { kill "$teller" && wait "$teller"; } 2>/dev/null || true
  return "$code"
}

# need_debian PACKAGE...: install Debian packages, as root or with sudo that asks no password.
debian_packages() { "${as_root[@]}" apt-get update -qq && "${as_root[@]}" apt-get install -y -qq --no-install-recommends "$@"; }
debian_far() { local line; line=$(tail -n 1 "$work_dir/apt.log" 2>/dev/null | cut -c1-60); say "${line:-fetching the lists}"; }
need_debian() {
  as_root=()
  if [ "$(id -u)" -ne 0 ]; then
    if command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then
      as_root=(sudo -n --preserve-env=DEBIAN_FRONTEND)
    else
      say "Debian packages are missing, and this user may not install them. Ask an administrator for: apt-get install -y $*" >&2
      return 3
    fi
  fi
  : >"$work_dir/apt.log"
  debian_quietly() { debian_packages "$@" >>"$work_dir/apt.log" 2>&1; }
  if ! with_progress "Installing Debian packages: $*" debian_far debian_quietly "$@"; then
    say "Debian packages could not be installed ($*): $(tail -n 1 "$work_dir/apt.log")" >&2
    return 3
  fi
}

check_python() {
  if ! command -v python3 >/dev/null 2>&1; then
    need_debian python3 python3-venv || exit 3
  fi
  if ! python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))'; then
    say "Python 3.11 or newer is needed; found $(python3 --version), at $(command -v python3)." >&2
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

# The Debian packages that are missing, and with "browser" those of the browser's tests. Says what was looked for.
install_debian() {
  local found package looked packages=()
  found=$(python3 -m tools.missing "$@")
  while IFS=$'\t' read -r package looked; do
    [ -n "$package" ] || continue
    packages+=("$package")
    say "$package is missing: looked for $looked."
  done <<<"$found"
  [ ${#packages[@]} -eq 0 ] || need_debian "${packages[@]}" || exit 3
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
    "$python_bin" -m pip install -q --disable-pip-version-check --require-hashes -r tools/uv.lock &&
    "$python_bin" -m uv pip install -q --compile-bytecode --python "$python_bin" --require-hashes -r requirements.lock &&
    "$python_bin" -m uv pip install -q --python "$python_bin" --no-deps --no-build-isolation -e . &&
    # What a killed install left looks installed: every file is held against its package's own record.
    "$python_bin" -m tools.installed requirements.lock &&
    venv_works
}

new_venv() { python3 -m venv --clear "$root_dir/.venv" >"$work_dir/pip.log" 2>&1; }
quiet_python_packages() { (python_packages) >"$work_dir/pip.log" 2>&1; }
python_far() {
  local there total
  there=$(find "$root_dir/.venv" -maxdepth 5 -name '*.dist-info' 2>/dev/null | wc -l)
  total=$(grep -c '==' "$root_dir/requirements.lock" || true)
  if [ "$there" -lt 4 ]; then
    say "downloading $total packages"
  elif [ "$there" -lt "$total" ]; then
    say "$there of $total in place"
  else
    say "all in place, compiling them"
  fi
}

install_python() {
  local stamp unfinished="$work_dir/installing.python"
  stamp="$(python3 --version) $root_dir $(stamp_of "$root_dir/requirements.lock" "$root_dir/pyproject.toml" "$root_dir/tools/uv.lock")"
  if fresh python "$stamp" && venv_works; then return; fi
  undone python
  # One that was cut short is made anew: what it left can not be trusted.
  if { [ -e "$unfinished" ] || ! venv_has_pip; } && ! new_venv; then
    say "Python's virtual environment could not be made: $(tail -n 1 "$work_dir/pip.log")" >&2
    return 1
  fi
  : >"$unfinished"
  if ! with_progress "Installing Python packages" python_far quiet_python_packages; then
    say "Python packages could not be installed: $(tail -n 3 "$work_dir/pip.log")" >&2
    return 1
  fi
  rm -f "$unfinished"
  done_for python "$stamp"
}

# The kernels of the computation, as soon as Python has its packages. The compiler keeps its work beside the sources.
compile_kernels() {
  local stamp
  stamp="$(stamp_of "$root_dir/requirements.lock" $(cd "$root_dir" && grep -rl njit src/yonderstat/core --include='*.py' | sort))"
  if fresh kernels "$stamp"; then return; fi
  say "Compiling the computation's kernels (a minute, the first time)"
  if ! "$python_bin" -m tools.compile 2>"$work_dir/compile.log"; then
    say "The kernels could not be compiled: $(tail -n 1 "$work_dir/compile.log")" >&2
    return 1
  fi
  done_for kernels "$stamp"
}

npm_works() { [ -x "$root_dir/ui/node_modules/.bin/vite" ] && [ -x "$root_dir/ui/node_modules/.bin/tsc" ]; }
npm_packages() { cd "$root_dir/ui" && npm ci --no-audit --no-fund && npm_works; }
quiet_npm_packages() { (npm_packages) >"$work_dir/npm.log" 2>&1; }
npm_far() {
  local there
  there=$(find "$root_dir/ui/node_modules" -maxdepth 3 -name package.json 2>/dev/null | wc -l)
  say "$there of about $(grep -c '"node_modules/' "$root_dir/ui/package-lock.json" || true) packages in place"
}

install_ui() {
  local stamp
  check_node
  stamp="$(node --version) $(stamp_of "$root_dir/ui/package-lock.json")"
  if fresh npm "$stamp" && npm_works; then return; fi
  undone npm
  if ! with_progress "Installing npm packages" npm_far quiet_npm_packages; then
    say "npm packages could not be installed: $(tail -n 3 "$work_dir/npm.log")" >&2
    return 1
  fi
  done_for npm "$stamp"
}

ui_build() { cd "$root_dir/ui" && npm run -s build && [ -f dist/index.html ]; }

quiet_ui_build() { (ui_build) >"$work_dir/build.log" 2>&1; }
build_far() { local line; line=$(tail -n 1 "$work_dir/build.log" 2>/dev/null | cut -c1-60); say "${line:-checking types, then bundling}"; }

build_ui() {
  local stamp
  stamp=$(cd "$root_dir/ui" && find src public index.html vite.config.ts package-lock.json ../docs/guide ../docs/glossary.md ../docs/screenshots -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum)
  if [ -f "$root_dir/ui/dist/index.html" ] && fresh ui "$stamp"; then return; fi
  undone ui
  if ! with_progress "Building the interface" build_far quiet_ui_build; then
    say "The interface could not be built: $(tail -n 20 "$work_dir/build.log")" >&2
    return 1
  fi
  done_for ui "$stamp"
}

# set_up [browser] [no-ui]: all of it. The interface and the Python side do not need each other, and go side by side.
set_up() {
  local ui=0 code=0
  lock_setup
  check_python
  case " $* " in *" no-ui "*) ;; *) check_node ;; esac
  case " $* " in *" browser "*) install_debian browser ;; *) install_debian ;; esac
  case " $* " in
    *" no-ui "*) ;;
    *)
      { install_ui && build_ui; } &
      ui=$!
      ;;
  esac
  { install_python && compile_kernels; } || code=$?
  # A failure of one is said at once, and the other is not left behind half done.
  if [ "$ui" -ne 0 ]; then wait "$ui" || code=$?; fi
  [ "$code" -eq 0 ] || exit "$code"
  unlock_setup
}
