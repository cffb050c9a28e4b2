#!/usr/bin/env bash
# Lines of the kernels that their own tests reach (gcov), and of R/core-*.R that the package's tests reach (covr):
# writes inst/validation/coverage.csv. Needs gcov, which comes with gcc, and the R package covr. Some 40 minutes.
set -euo pipefail
cd "$(dirname "$0")/.."
build=.build/coverage
rm -rf "$build"
make --no-print-directory -j"$(nproc)" -f tests/cpp/Makefile SANITIZE=none BUILD="$build/cpp" EXTRA="--coverage -O0 -fno-inline"
for notes in "$build"/cpp/*.gcno; do
  stem=$(basename "$notes" .gcno)
  gcov -r -p -o "$build/cpp" "$notes" >/dev/null 2>&1
  mkdir -p "$build/cpp/$stem"
  mv ./*.gcov "$build/cpp/$stem"/
done
Rscript --vanilla tools/coverage.R "$build/cpp" "$@"
