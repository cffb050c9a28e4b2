#!/usr/bin/env bash
# Installs the package and puts the command `vandro` where you can call it.
# Usage: tools/install.sh [with-vignettes]   from a tarball with its vignettes; without: from this folder, quicker
set -euo pipefail
cd "$(dirname "$0")/.."
mkdir -p .build
root=$PWD
export R_MAKEVARS_USER=$root/tools/Makevars
MAKEFLAGS="-j$(nproc 2>/dev/null || echo 1)"
export MAKEFLAGS
# R's own make rules do not see that a header has changed.
if [ ! -e src/vandro.so ] || [ -n "$(find inst/include src/*.h src/Makevars tools/Makevars -newer src/vandro.so)" ]; then
  rm -f src/*.o src/*.so
fi
library=$(Rscript --vanilla -e '
  user <- Sys.getenv("R_LIBS_USER")
  if (file.access(.libPaths()[[1]], 2) != 0 && nzchar(user)) {
    dir.create(user, recursive = TRUE, showWarnings = FALSE)
    .libPaths(c(user, .libPaths()))
  }
  cat(.libPaths()[[1]])')

# Prints the end of the log if a step fails.
logged() {
  if ! "$@" >.build/install.log 2>&1; then
    tail -n 30 .build/install.log >&2
    exit 1
  fi
}
source=.
if [ "${1:-}" = with-vignettes ]; then
  echo "install: building the package with its vignettes"
  rm -f .build/vandro_*.tar.gz
  (cd .build && R CMD build "$root" >install.log 2>&1) || { tail -n 30 .build/install.log >&2; exit 1; }
  source=$(ls .build/vandro_*.tar.gz)
fi
echo "install: vandro into R's library"
# Built beside and then moved: an installation that was killed leaves no lock and no half package in R's library.
stage=.build/stage
rm -rf "$stage"
mkdir -p "$stage"
logged R CMD INSTALL --no-multiarch --library="$stage" "$source"
rm -rf "$library/vandro"
mv "$stage/vandro" "$library/vandro"

if [ "$(id -u)" = 0 ]; then bin=/usr/local/bin share=/usr/local/share; else bin="$HOME/.local/bin" share="$HOME/.local/share"; fi
mkdir -p "$bin" "$share/man/man1" "$share/bash-completion/completions"
chmod +x "$library/vandro/exec/vandro"
ln -sf "$library/vandro/exec/vandro" "$bin/vandro"
echo "install: command $bin/vandro"
# The man page and completion for bash, from the table of options.
"$bin/vandro" manual --output "$share/man/man1/vandro.1" --force
"$bin/vandro" completion --output "$share/bash-completion/completions/vandro" --force
case ":$PATH:" in
  *":$bin:"*) ;;
  *) echo "install: $bin is not on your PATH; add it to call vandro by name" ;;
esac
touch .build/installed
if [ "${1:-}" = with-vignettes ]; then touch .build/installed-whole; fi
