#!/usr/bin/env bash
# Installs what a fresh machine lacks, and says so; does nothing, quickly, when nothing is missing.
# Debian as root: prebuilt packages. Elsewhere: R packages from CRAN into the user's library.
# Arguments: further R packages, for tools that few want.
set -euo pipefail
cd "$(dirname "$0")/.."

on_debian_as_root() { [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; }

apt_update() {
  [ -n "${updated:-}" ] || apt-get update -qq >/dev/null
  updated=yes
}

apt_install() {
  echo "setup: installing from Debian: $*"
  export DEBIAN_FRONTEND=noninteractive
  apt_update
  if ! apt-get install -y -qq --no-install-recommends "$@" >.build/apt.log 2>&1; then
    tail -n 20 .build/apt.log >&2
    exit 1
  fi
}

mkdir -p .build

tools=()
for pair in Rscript:r-base-core g++:g++ make:make pandoc:pandoc git:git; do
  command -v "${pair%%:*}" >/dev/null || tools+=("${pair##*:}")
done
# R's headers and make files, without which nothing compiles.
if command -v Rscript >/dev/null && [ ! -e "$(R RHOME)/etc/Makeconf" ]; then tools+=(r-base-dev); fi
if [ "${#tools[@]}" -gt 0 ]; then
  if on_debian_as_root; then
    apt_install "${tools[@]}"
  else
    echo "setup: please install first: ${tools[*]}" >&2
    exit 1
  fi
fi

# Checks the JSON schemas in the tests, which skip that without it.
if on_debian_as_root && ! /usr/bin/python3 -c 'import jsonschema' 2>/dev/null; then apt_install python3-jsonschema; fi

# A real server for the tests of databases, which skip that without it, and the library that RPostgres is built with.
if on_debian_as_root; then
  wanted=()
  if ! ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 && ! command -v initdb >/dev/null; then wanted+=(postgresql); fi
  if ! command -v pg_config >/dev/null; then wanted+=(libpq-dev); fi
  if [ "${#wanted[@]}" -gt 0 ]; then apt_install "${wanted[@]}"; fi
fi

# A browser that looks at reports in the tests, which skip that without it, and takes pictures of pages.
if on_debian_as_root && ! command -v chromium >/dev/null; then apt_install chromium; fi

mapfile -t missing < <(Rscript --no-save --no-restore tools/missing-packages.R "$@")
if [ "${#missing[@]}" -gt 0 ]; then
  if on_debian_as_root; then
    apt_update
    built=()
    for name in "${missing[@]/#/r-cran-}"; do
      if apt-cache show "$name" >/dev/null 2>&1; then built+=("$name"); fi
    done
    [ "${#built[@]}" = 0 ] || apt_install "${built[@]}"
  fi
  Rscript --no-save --no-restore tools/missing-packages.R install "$@"
fi
