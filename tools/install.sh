#!/usr/bin/env bash
# Installs the package and puts the command `vandro` where a person can call it.
set -euo pipefail
cd "$(dirname "$0")/.."
mkdir -p .build
# R's own make rules do not see that a header has changed.
if [ ! -e .build/installed ] ||
  [ -n "$(find inst/include src/glue.h src/Makevars -newer .build/installed)" ]; then
  rm -f src/*.o src/*.so
fi
library=$(Rscript --vanilla -e '
  user <- Sys.getenv("R_LIBS_USER")
  if (file.access(.libPaths()[[1]], 2) != 0 && nzchar(user)) {
    dir.create(user, recursive = TRUE, showWarnings = FALSE)
    .libPaths(c(user, .libPaths()))
  }
  cat(.libPaths()[[1]])')
echo "install: vandro into R's library"
if ! MAKEFLAGS="-j$(nproc 2>/dev/null || echo 1)" R CMD INSTALL --no-multiarch --library="$library" . >.build/install.log 2>&1; then
  tail -n 30 .build/install.log >&2
  exit 1
fi
if [ "$(id -u)" = 0 ]; then bin=/usr/local/bin; else bin="$HOME/.local/bin"; fi
mkdir -p "$bin"
chmod +x "$library/vandro/exec/vandro"
ln -sf "$library/vandro/exec/vandro" "$bin/vandro"
echo "install: command $bin/vandro"
# The man page and completion for bash, from the table of options.
if [ "$(id -u)" = 0 ]; then share=/usr/local/share; else share="$HOME/.local/share"; fi
mkdir -p "$share/man/man1" "$share/bash-completion/completions"
"$bin/vandro" manual --output "$share/man/man1/vandro.1" --force
"$bin/vandro" completion --output "$share/bash-completion/completions/vandro" --force
case ":$PATH:" in
  *":$bin:"*) ;;
  *) echo "install: $bin is not on your PATH; add it to call vandro by name" ;;
esac
touch .build/installed
