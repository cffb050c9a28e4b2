"""Tails of rank statistics in whole numbers of any size, for tests/testthat/reference/rank_null.csv.

Run from the project's root: python3 validation/rank_null_reference.py (some minutes).

Numbers of subsets by sum are the coefficients of a polynomial, kept in one large whole number with a field of
fixed width for each coefficient: multiplication by q^x is a shift, so that a step of the count is one addition.
"""
import random
from math import comb

from mpmath import mp, mpf

mp.dps = 40


def midranks(runs, below=0):
    out = []
    for run in runs:
        out += [2 * below + run + 1] * run
        below += run
    return out


def coefficients(polynomial, width):
    bits = (polynomial.bit_length() + 7) // 8
    raw = polynomial.to_bytes(bits + width // 8, "little")
    step = width // 8
    return [int.from_bytes(raw[i:i + step], "little") for i in range(0, len(raw) - step + 1, step)]


def field(total):
    return (total.bit_length() // 8 + 1) * 8


def rank_sums(runs, n):
    """{doubled U: count} of the first of two samples."""
    scores = midranks(runs)
    least = scores[0]
    width = field(comb(len(scores), n))
    rows = [1] + [0] * n
    for k, score in enumerate(scores):
        for j in range(min(k + 1, n), 0, -1):
            rows[j] += rows[j - 1] << ((score - least) * width)
    start = n * least - n * (n + 1)
    return {start + s: c for s, c in enumerate(coefficients(rows[n], width)) if c}


def untied_rank_sums(n, m):
    """The same without ties, up to the middle: prod (1 - q^(m + i)) / (1 - q^i)."""
    top = n * m // 2 + 1
    width = field(comb(n + m, n)) + 8
    mask = (1 << (top * width)) - 1
    p = 1
    for i in range(1, n + 1):
        power = i
        while power < top:  # 1 / (1 - q^i) = (1 + q^i)(1 + q^(2i))(1 + q^(4i)) ...
            p = (p + (p << (power * width))) & mask
            power *= 2
        if m + i < top:
            p = (p - (p << ((m + i) * width))) & mask
    return {2 * u: c for u, c in enumerate(coefficients(p, width)[:top]) if c}


def signed_sums(runs, below):
    scores = midranks(runs, below)
    width = field(1 << len(scores))
    p = 1
    for score in scores:
        p += p << (score * width)
    return {s: c for s, c in enumerate(coefficients(p, width)) if c}


def random_runs(total, most, seed):
    generator = random.Random(seed)
    runs = []
    while total:
        run = min(total, generator.randint(1, most))
        runs.append(run)
        total -= run
    return runs


def text(runs):
    """1 1 1 2 2 as 1x3 2x2."""
    out = []
    for run in runs:
        if out and out[-1][0] == run:
            out[-1][1] += 1
        else:
            out.append([run, 1])
    return " ".join(f"{run}x{times}" for run, times in out)


def lines(kind, runs, n, below, counts, total, half=False):
    values = sorted(counts)
    cumulative, low = 0, {}
    for value in values:
        cumulative += counts[value]
        low[value] = cumulative
    wanted = {0, len(values) // 2, len(values) - 1}
    for tail in (1e-250, 1e-100, 1e-30, 1e-9, 1e-3, 0.025, 0.2):
        bound = int(tail * 1e280) * total // 10**280
        at = next((i for i, value in enumerate(values) if low[value] > bound), None)
        if at is not None:
            wanted.add(at)
    for i in sorted(wanted):
        value = values[i]
        p_low = mpf(low[value]) / total
        p_high = "" if half else mp.nstr(mpf(total - low[value] + counts[value]) / total, 25)
        yield f"{kind},{text(runs)},{n},{below},{value},{mp.nstr(p_low, 25)},{p_high}"


def main():
    out = ["kind,runs,n_first,below,w,p_low,p_high"]
    for n, m in [(1, 1), (3, 3), (5, 7), (20, 20), (12, 60)]:
        runs = [1] * (n + m)
        out += lines("sum", runs, n, 0, rank_sums(runs, n), comb(n + m, n))
    for n, m in [(50, 50), (200, 200), (80, 900), (500, 500)]:
        runs = [1] * (n + m)
        out += lines("sum", runs, n, 0, untied_rank_sums(n, m), comb(n + m, n), half=True)
    for n, m, most, seed in [
        (4, 5, 3, 1), (10, 10, 4, 2), (30, 20, 3, 3), (50, 50, 3, 4), (100, 100, 3, 5), (7, 400, 5, 6),
        (300, 12, 2, 7), (40, 42, 30, 8), (150, 100, 60, 9), (150, 150, 2, 10),
    ]:
        runs = random_runs(n + m, most, seed)
        out += lines("sum", runs, n, 0, rank_sums(runs, n), comb(n + m, n))
    for n, most, below, seed in [
        (1, 1, 0, 1), (6, 2, 0, 2), (20, 1, 0, 3), (60, 4, 5, 4), (200, 3, 0, 5), (500, 3, 20, 6),
        (1000, 2, 0, 7),
    ]:
        runs = random_runs(n, most, seed)
        out += lines("signed", runs, n, below, signed_sums(runs, below), 1 << n)
    with open("tests/testthat/reference/rank_null.csv", "w") as file:
        file.write("\n".join(out) + "\n")


main()
