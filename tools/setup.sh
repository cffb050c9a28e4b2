#!/usr/bin/env bash
# Installs what the named tasks need (tools/needs.txt) and the machine lacks, and says what it installs.
# Debian as root: prebuilt packages, in one step. Elsewhere: R packages from CRAN into the user's library.
# Usage: tools/setup.sh TASK... [--meanwhile SCRIPT]    SCRIPT runs beside the installation, if there is one
set -euo pipefail
cd "$(dirname "$0")/.."
mkdir -p .build
meanwhile=
if [ "${*: -2:1}" = --meanwhile ]; then
  meanwhile=${*: -1}
  set -- "${@:1:$#-2}"
fi

names_of() { awk -v tasks=" $1 " -v kind="$2" 'index(tasks, " " $1 " ") && $2 == kind { for (i = 3; i <= NF; i++) print $i }' tools/needs.txt; }

have_program() {
  case "$1" in
    initdb) ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || command -v initdb >/dev/null ;;
    jsonschema) /usr/bin/python3 -c 'import jsonschema' 2>/dev/null ;;
    *) command -v "$1" >/dev/null ;;
  esac
}

missing_packages() {
  if command -v Rscript >/dev/null; then
    Rscript --vanilla -e 'user <- Sys.getenv("R_LIBS_USER"); .libPaths(c(if (nzchar(user)) user, .libPaths()))
      names <- commandArgs(trailingOnly = TRUE)
      writeLines(names[!nzchar(vapply(names, function(name) system.file(package = name), ""))])' "$@"
  else
    printf '%s\n' "$@"
  fi
}

mapfile -t programs < <(names_of "$*" programs)
mapfile -t packages < <(names_of "$*" packages)
lacking=()
for pair in "${programs[@]}"; do
  have_program "${pair%%:*}" || lacking+=("${pair##*:}")
done
mapfile -t missing < <(missing_packages "${packages[@]}")
[ "${#lacking[@]}" -gt 0 ] || [ -n "${missing[*]:-}" ] || exit 0
if [ -n "$meanwhile" ]; then
  bash "$meanwhile" >.build/meanwhile.log 2>&1 &
  trap wait EXIT
fi

if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
  export DEBIAN_FRONTEND=noninteractive
  apt-get update -qq >/dev/null
  mapfile -t built < <(apt-cache pkgnames r-cran- | grep -Fxf <(printf 'r-cran-%s\n' "${missing[@],,}") || true)
  # What R packages from CRAN are built on top of.
  if [[ " ${missing[*]} " == *" RPostgres "* ]]; then built+=(r-cran-lubridate r-cran-blob r-cran-hms r-cran-withr); fi
  wanted=("${lacking[@]}" "${built[@]}")
  [ "${#wanted[@]}" = 0 ] || echo "setup: installing from Debian: ${wanted[*]}"
  # Nothing of this outlives a power cut by itself; a second call repairs it.
  if [ "${#wanted[@]}" != 0 ] && ! apt-get install -y -qq --no-install-recommends \
    -o Dpkg::Options::=--force-unsafe-io "${wanted[@]}" >.build/apt.log 2>&1; then
    tail -n 20 .build/apt.log >&2
    exit 1
  fi
  mapfile -t missing < <(missing_packages "${packages[@]}")
elif [ "${#lacking[@]}" -gt 0 ]; then
  echo "setup: please install these first: ${lacking[*]}" >&2
  exit 1
fi

if [ -n "${missing[*]:-}" ]; then
  echo "setup: installing from CRAN: ${missing[*]}"
  Rscript --vanilla - "${missing[@]}" <<'R'
names <- commandArgs(trailingOnly = TRUE)
user <- Sys.getenv("R_LIBS_USER")
if (file.access(.libPaths()[[1]], 2) != 0 && nzchar(user)) {
  dir.create(user, recursive = TRUE, showWarnings = FALSE)
  .libPaths(c(user, .libPaths()))
}
repos <- getOption("repos")
if (identical(unname(repos["CRAN"]), "@CRAN@")) chooseCRANmirror(ind = 1, local.only = TRUE)
Sys.setenv(MAKEFLAGS = paste0("-j", max(1, parallel::detectCores())))
# An installation that was killed leaves its lock behind.
unlink(file.path(.libPaths()[[1]], paste0("00LOCK-", names)), recursive = TRUE)
install.packages(names, quiet = TRUE)
lacking <- names[!nzchar(vapply(names, function(name) system.file(package = name), ""))]
if (length(lacking)) stop("could not install: ", toString(lacking))
R
fi
