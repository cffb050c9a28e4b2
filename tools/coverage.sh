#!/usr/bin/env bash
# Lines of the kernels that their own tests reach (gcov), and of R/core-*.R that the package's tests reach (covr):
# writes inst/validation/coverage.csv. Needs gcov, which comes with gcc, and the R package covr. Some 40 minutes.
set -euo pipefail
cd "$(dirname "$0")/.."
build=.build/coverage
rm -rf "$build"
mkdir -p "$build/cpp"
includes=$(Rscript --vanilla -e 'for (p in c("testthat", "BH")) { d <- system.file("include", package = p); if (nzchar(d)) cat("-isystem", d, "") }')
g++ -std=c++17 -O0 $includes -c tests/cpp/main.cpp -o "$build/cpp/main.o"
ls tests/cpp/test-*.cpp | xargs -P "$(nproc)" -I{} sh -c \
  'g++ -std=c++17 -O0 -g --coverage -fno-inline -I inst/include '"$includes"' -c {} -o '"$build"'/cpp/$(basename {} .cpp).o'
g++ --coverage "$build"/cpp/*.o -o "$build/cpp/run"
"$build/cpp/run" --reporter compact
for notes in "$build"/cpp/*.gcno; do
  stem=$(basename "$notes" .gcno)
  gcov -r -p -o "$build/cpp" "$notes" >/dev/null 2>&1
  mkdir -p "$build/cpp/$stem"
  mv ./*.gcov "$build/cpp/$stem"/
done
Rscript --vanilla tools/coverage.R "$build/cpp" "$@"
