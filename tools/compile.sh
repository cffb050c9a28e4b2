#!/usr/bin/env bash
# Compiles the kernels into src/, from where the installation takes them. If it fails, the installation says why.
cd "$(dirname "$0")/../src" || exit 1
export R_MAKEVARS_USER=$PWD/../tools/Makevars
CLINK_CPPFLAGS=$(Rscript --vanilla -e 'cat(sprintf("-I\"%s\"", system.file("include", package = "Rcpp"))); cat(sprintf(" -I\"%s/include\"", system.file(package = "BH")))')
export CLINK_CPPFLAGS
MAKEFLAGS="-j$(nproc 2>/dev/null || echo 1)" R CMD SHLIB -o vandro.so ./*.cpp
