"""Permutation p of sums of decimals in whole numbers of any size, for tests/testthat/reference/permutation.csv.

Run from the project's root: python3 validation/permutation_reference.py (a minute).

Values are told by a formula, so that the file need not hold them: value i is (i * step + (i * i) % odd) % range, the first
ones plus a shift. Numbers of subsets by size and sum are coefficients of polynomials kept in one large whole number
each, as in rank_null_reference.py.
"""
from math import comb

from mpmath import mp, mpf

mp.dps = 40


def values(n, step, odd, spread, n_first, shift):
    return [(i * step + (i * i) % odd) % spread + (shift if i < n_first else 0) for i in range(n)]


def tail_at_least(numbers, size, at):
    """Subsets of `size` numbers with a sum of at least `at`; size None: any."""
    least = min(numbers)
    numbers = [x - least for x in numbers]
    if size is not None:
        at -= size * least
    total = sum(numbers)
    width = (len(numbers) + 16) // 8 * 8
    if size is None:
        rows = [1]
        for x in numbers:
            rows[0] += rows[0] << (x * width)
        polynomial = rows[0]
    else:
        rows = [1] + [0] * size
        for x in numbers:
            for j in range(size, 0, -1):
                rows[j] += rows[j - 1] << (x * width)
        polynomial = rows[size]
    high = polynomial >> (max(at, 0) * width)
    mask = (1 << width) - 1
    # Fields are added up by halving.
    fields = total + 1
    while fields > 1:
        half = (fields + 1) // 2
        high = (high >> (half * width)) + (high & ((1 << (half * width)) - 1))
        fields = half
    return high & mask


def main():
    cases = []
    for n, n_first, step, odd, spread in [
        (30, 15, 37, 101, 200), (60, 30, 379, 211, 1000), (100, 50, 379, 211, 1000), (90, 20, 173, 97, 400),
        (140, 70, 91, 53, 150), (200, 100, 389, 307, 500),
    ]:
        for shift in [0, spread // 8, spread // 3]:
            z = values(n, step, odd, spread, n_first, shift)
            observed = sum(z[:n_first])
            above = tail_at_least(z, n_first, observed)
            below = tail_at_least([-x for x in z], n_first, -observed)
            ways = comb(n, n_first)
            cases.append(("groups", n, n_first, step, odd, spread, shift, mpf(above) / ways, mpf(below) / ways))
    for n, step, odd, spread in [(40, 37, 101, 200), (100, 379, 211, 1000), (400, 173, 97, 400)]:
        for shift in [0, spread // 16, spread // 4]:
            # Signed changes; flipping back the negative ones counts sums of sizes.
            d = [x - spread // 2 for x in values(n, step, odd, spread, n, shift)]
            sizes = [abs(x) for x in d]
            negative = sum(-x for x in d if x < 0)
            below = 2 ** n - tail_at_least(sizes + [0], None, negative + 1) // 2
            above = tail_at_least(sizes + [0], None, negative) // 2
            cases.append(("signs", n, n, step, odd, spread, shift, mpf(below) / 2 ** n, mpf(above) / 2 ** n))
    with open("tests/testthat/reference/permutation.csv", "w") as file:
        file.write("design,n,n_first,step,odd,spread,shift,high,low\n")
        for case in cases:
            file.write(",".join(str(part) for part in case[:7]))
            file.write("," + ",".join(mp.nstr(part, 20) for part in case[7:]) + "\n")


main()
