#!/usr/bin/env bash
# Builds the package and checks the tarball as CRAN does; fails on any error, warning or note but those listed.
set -euo pipefail
cd "$(dirname "$0")/.."
mkdir -p .build/check
rm -rf .build/check/*
root=$PWD
cd .build/check
R CMD build "$root" >build.log 2>&1 || { tail -n 30 build.log; exit 1; }
# Without network there is no clock to ask and no index of repositories to read.
export R_MAKEVARS_USER=$root/tools/Makevars _R_CHECK_PKG_SIZES_THRESHOLD_=8
export MAKEFLAGS="-j$(nproc 2>/dev/null || echo 1)"  # both cores compile
export _R_CHECK_SYSTEM_CLOCK_=0 _R_CHECK_CRAN_INCOMING_=false _R_CHECK_FORCE_SUGGESTS_=true
# The check wants qpdf, which would look at PDFs only; there are none, so that anything may stand in for it.
command -v qpdf >/dev/null || export R_QPDF=true
R CMD check --as-cran --no-manual "$@" vandro_*.tar.gz 2>&1 | tee check.log | grep -E '(WARNING|ERROR|NOTE)$' || true
status=$(grep -E '^Status:' check.log || echo 'Status: did not finish')
# Debian's BH holds no headers of its own (they are the system's), which R notes; nothing else may be.
unused_bh="'LinkingTo' for .BH. is unused as it has no 'include' directory"
if [ "$status" = "Status: 1 NOTE" ] && grep -qE "$unused_bh" check.log; then
  status="Status: OK (but for Debian's BH, which has no headers of its own)"
fi
echo "R CMD check: ${status#Status: }"
case "$status" in
  "Status: OK"*) ;;
  *) grep -vE '\.\.\. (OK|SKIPPED)$' check.log; exit 1 ;;
esac
# Every vignette is listed by the package that was installed from the tarball, and opens.
Rscript --vanilla -e 'listed <- utils::vignette(package = "vandro", lib.loc = "vandro.Rcheck")$results[, "Item"]
  page <- function(name) utils::vignette(name, "vandro", "vandro.Rcheck")$PDF
  opens <- vapply(listed, function(name) file.exists(file.path("vandro.Rcheck/vandro/doc", page(name))), NA)
  sources <- sub("[.]Rmd$", "", list.files("../../vignettes", "[.]Rmd$"))
  stopifnot(setequal(listed, sources), opens)'
