"""What every verb should answer, in 50 digits or in whole numbers and fractions, for validation/accuracy.R.

    python3 validation/accuracy_reference.py     (some minutes; writes tests/testthat/reference/accuracy*.csv)

Data are told as the doubles that R would read, so that the references are those of the very numbers the package gets.
Nothing is shared with the package: tails are incomplete beta functions of mpmath, integrals its quadrature, counts are
enumerated.
"""
import random
import sys
from fractions import Fraction
from itertools import combinations, product
from math import comb, floor
from multiprocessing import Pool

from mpmath import betainc, erfc, erfinv, exp, findroot, gamma, gammainc, log, mp, mpf, pi, quad, sqrt

sys.path.insert(0, "validation")
import evidence_reference  # noqa: E402
import noncentral_t_reference  # noqa: E402

mp.dps = 50
ALPHA = mpf(1) / 20
LEVEL = mpf("0.95")

# --- data ---------------------------------------------------------------------------------------------------

generator = random.Random(20261128)


def decimals(n, mean, sd, places):
    return [float(f"{generator.gauss(mean, sd):.{places}f}") for _ in range(n)]


def doubles(n, mean, sd):
    return [generator.gauss(mean, sd) for _ in range(n)]


GROUPS = {
    "plain": (decimals(24, 22.3, 2.9, 1), decimals(23, 18.9, 2.5, 1)),
    "small": (decimals(5, 12, 3, 1), decimals(6, 10, 2, 1)),
    "two values": ([1.5, 2.25], [4.0, 3.125]),
    "unequal sizes and spreads": (doubles(10, 5, 1), doubles(60, 4, 7)),
    "offset 1e6": ([1e6 + x for x in decimals(15, 0, 1, 3)], [1e6 + x for x in decimals(12, 1, 2, 3)]),
    "offset 1e12": ([1e12 + x for x in decimals(15, 0, 9, 0)], [1e12 + x for x in decimals(12, 4, 9, 0)]),
    "size 1e160": ([x * 1e160 for x in doubles(12, 2, 1)], [x * 1e160 for x in doubles(14, 1, 1)]),
    "size 1e-160": ([x * 1e-160 for x in doubles(12, 2, 1)], [x * 1e-160 for x in doubles(14, 1, 1)]),
    "tiny spread": ([1000 + x for x in doubles(20, 0, 1e-9)], [1000 + x for x in doubles(20, 5e-10, 1e-9)]),
    "t in the hundreds": (doubles(40, 300, 1), doubles(40, 200, 1)),
    "p near 1e-300": (doubles(300, 6.5, 1), doubles(300, 1, 1)),
    "p below doubles": (doubles(900, 60, 1), doubles(800, 1, 1)),
    "many ties": ([float(round(x)) for x in doubles(40, 2, 1)], [float(round(x)) for x in doubles(42, 2.4, 1)]),
    "one far value": (doubles(19, 0, 1) + [1e6], doubles(20, 0, 1)),
    "no difference": ([1.0, 2.0, 3.0, 4.0], [0.5, 1.5, 3.5, 4.5]),
}


def halves(n, effect, spread, places):
    second = [round(generator.gauss(20, 4), places) for _ in range(n)]
    return [float(f"{y + generator.gauss(effect, spread):.{places}f}") for y in second], second


PAIRS = {
    "plain": halves(22, 2, 3, 1),
    "small": halves(7, 1, 2, 1),
    "tied changes": halves(30, 0.5, 1, 0),
    "offset 1e9": tuple([1e9 + x for x in half] for half in halves(18, 1, 1, 2)),
    "size 1e160": tuple([x * 1e160 for x in half] for half in halves(12, 1, 3, 2)),
    "size 1e-160": tuple([x * 1e-160 for x in half] for half in halves(12, 1, 3, 2)),
    "t in the hundreds": halves(60, 500, 4, 3),
}

# --- distributions ------------------------------------------------------------------------------------------


def t_tail(t, df):
    """P(T > t)."""
    if t < 0:
        return 1 - t_tail(-t, df)
    return betainc(df / 2, mpf(1) / 2, 0, df / (df + t * t), regularized=True) / 2


def t_quantile(tail, df):
    """The t above which `tail` lies."""
    z = normal_quantile(1 - tail)
    start = z + (z ** 3 + z) / (4 * df)
    if df < 3:
        start = (1 / (2 * tail)) ** (1 / mpf(df))
    return findroot(lambda x: log(t_tail(x, df)) - log(tail), start)


def normal_quantile(p):
    return sqrt(mpf(2)) * erfinv(2 * p - 1)


def f_tail(f, df1, df2):
    return betainc(df2 / 2, df1 / 2, 0, df2 / (df2 + df1 * f), regularized=True)


def f_quantile(tail, df1, df2):
    """By the t of the logarithm: a bracket on the scale of log F."""
    value = lambda x: f_tail(exp(x), df1, df2) - tail
    return exp(findroot(value, (mpf(-20), mpf(20)), solver="anderson", tol=mpf(10) ** -60, maxsteps=500))


# --- moments and tests of means -------------------------------------------------------------------------------


def moments(x):
    x = [mpf(v) for v in x]
    n = mpf(len(x))
    mean = sum(x) / n
    m2, m3, m4 = (sum((v - mean) ** k for v in x) for k in (2, 3, 4))
    out = {"n": n, "mean": mean, "sd": sqrt(m2 / (n - 1)) if n > 1 else None}
    if n > 2 and m2 > 0:
        out["skewness"] = n * sqrt(n - 1) / (n - 2) * m3 / m2 ** mpf("1.5")
    if n > 3 and m2 > 0:
        g2 = n * m4 / m2 ** 2 - 3
        out["kurtosis"] = (n - 1) / ((n - 2) * (n - 3)) * ((n + 1) * g2 + 6)
    return out


def quartile(x, p):
    x = sorted(mpf(v) for v in x)
    place = (len(x) - 1) * mpf(p)
    k = int(floor(place))
    return x[k] + (place - k) * (x[min(k + 1, len(x) - 1)] - x[k])


def inference(gap, se, df, level=LEVEL):
    t = gap / se
    tail = t_tail(abs(t), df)
    reach = t_quantile((1 - level) / 2, df) * se
    return {"estimate": gap, "se": se, "statistic": t, "df": df, "p": 2 * tail, "log_p": log(2 * tail),
            "lower": gap - reach, "upper": gap + reach}


def errors(a, b):
    va, vb = a["sd"] ** 2 / a["n"], b["sd"] ** 2 / b["n"]
    welch = sqrt(va + vb), (va + vb) ** 2 / (va ** 2 / (a["n"] - 1) + vb ** 2 / (b["n"] - 1))
    df = a["n"] + b["n"] - 2
    pooled = ((a["n"] - 1) * a["sd"] ** 2 + (b["n"] - 1) * b["sd"] ** 2) / df
    return {"welch": welch, "student": (sqrt(pooled * (1 / a["n"] + 1 / b["n"])), df)}, sqrt(pooled)


# --- ranks ----------------------------------------------------------------------------------------------------


def midranks_doubled(values):
    order = sorted(values)
    first, last = {}, {}
    for i, v in enumerate(order):
        first.setdefault(v, i + 1)
        last[v] = i + 1
    return [first[v] + last[v] for v in values]


def subset_counts(scores, k):
    """{sum: number of subsets of k scores}, one table per number taken."""
    tables = [{} for _ in range(k + 1)]
    tables[0][0] = 1
    for i, s in enumerate(scores):
        for j in range(min(i, k - 1), -1, -1):
            into = tables[j + 1]
            for total, count in tables[j].items():
                into[total + s] = into.get(total + s, 0) + count
    return tables[k]


def order_limits(counts, pairs, values, alpha=Fraction(1, 40)):
    """Limits among ordered pairwise values: D(k), k the largest with P(U <= k - 1) <= alpha, doubled U in `counts`."""
    total = sum(counts.values())
    at_most = lambda u: Fraction(sum(c for s, c in counts.items() if s <= 2 * u), total)
    k = 0
    while at_most(k) <= alpha:
        k += 1
    if k == 0:
        return None, None
    return values[k - 1], values[len(values) - k]


def rank_sum(x, y):
    scores = midranks_doubled(x + y)
    n, m = len(x), len(y)
    counts = {s - n * (n + 1): c for s, c in subset_counts(scores, n).items()}
    u2 = sum(scores[:n]) - n * (n + 1)
    total = comb(n + m, n)
    high = Fraction(sum(c for s, c in counts.items() if s >= u2), total)
    low = Fraction(sum(c for s, c in counts.items() if s <= u2), total)
    # Sizes as the decimals that were written, so that 0.3 - 0.2 and 0.2 - 0.1 are the same.
    exact = lambda v: Fraction(repr(v))
    gaps = sorted(exact(a) - exact(b) for a in x for b in y)
    middle = (gaps[(len(gaps) - 1) // 2] + gaps[len(gaps) // 2]) / 2
    lower, upper = order_limits(counts, n * m, gaps)
    out = {"statistic": Fraction(u2, 2), "p": min(Fraction(1), 2 * min(low, high)), "estimate": middle,
           "superiority": Fraction(u2, 2 * n * m)}
    if lower is not None:
        out.update(lower=lower, upper=upper)
    return out


def signed_tails(d):
    """Doubled W, and the shares of signs with at most and at least as much; zeros take the lowest ranks (Pratt)."""
    scores = midranks_doubled([abs(v) for v in d])
    w2 = sum(s for s, v in zip(scores, d) if v > 0)
    counts = {0: 1}
    for s, v in zip(scores, d):
        if not v:
            continue
        into = dict(counts)
        for total, c in counts.items():
            into[total + s] = into.get(total + s, 0) + c
        counts = into
    total = sum(counts.values())
    high = Fraction(sum(c for s, c in counts.items() if s >= w2), total)
    low = Fraction(sum(c for s, c in counts.items() if s <= w2), total)
    return w2, low, high


def signed_rank(x, y, alpha=Fraction(1, 40)):
    exact = lambda v: Fraction(repr(v))
    d = [exact(a) - exact(b) for a, b in zip(x, y)]
    w2, low, high = signed_tails(d)
    walsh = sorted((a + b) / 2 for i, a in enumerate(d) for b in d[i:])
    middle = (walsh[(len(walsh) - 1) // 2] + walsh[len(walsh) // 2]) / 2
    out = {"statistic": Fraction(w2, 2), "p": min(Fraction(1), 2 * min(low, high)), "estimate": middle}
    # Every shift between two neighbouring means is tested against its own ties.
    ends = sorted(set(walsh))
    shifts = [ends[0] - 1] + [(a + b) / 2 for a, b in zip(ends, ends[1:])] + [ends[-1] + 1]
    keep = lambda shift: min(signed_tails([v - shift for v in d])[1:]) > alpha
    kept = [keep(shift) for shift in shifts]
    if not kept[0] and not kept[-1]:
        out.update(lower=ends[kept.index(True) - 1], upper=ends[len(kept) - 1 - kept[::-1].index(True)])
    return out


def relative(x, y):
    n, m = mpf(len(x)), mpf(len(y))
    above = lambda a, others: sum(mpf(1) if a > b else mpf(1) / 2 if a == b else mpf(0) for b in others)
    px = [above(a, y) for a in x]
    py = [above(b, x) for b in y]
    estimate = sum(px) / (n * m)
    spread = lambda p: sum((v - sum(p) / len(p)) ** 2 for v in p) / (len(p) - 1)
    parts = spread(px) / (n * m ** 2), spread(py) / (m * n ** 2)
    se = sqrt(sum(parts))
    if se == 0:
        return None
    df = sum(parts) ** 2 / (parts[0] ** 2 / (n - 1) + parts[1] ** 2 / (m - 1))
    t = (estimate - mpf(1) / 2) / se
    tail = t_tail(abs(t), df)
    reach = t_quantile((1 - LEVEL) / 2, df) * se / (estimate * (1 - estimate))
    middle = log(estimate / (1 - estimate))
    ends = [1 / (1 + exp(-(middle + k * reach))) for k in (-1, 1)]
    return {"estimate": estimate, "statistic": t, "df": df, "log_p": log(2 * tail), "lower": ends[0], "upper": ends[1]}


# --- permutations, in fractions -------------------------------------------------------------------------------


def permuted(x, y, studentized):
    exact = [Fraction(repr(v)) for v in x + y]
    n, m = len(x), len(y)
    everything = set(range(n + m))

    def shape(chosen):
        """Difference of the means, and the squared standard error."""
        a = [exact[i] for i in chosen]
        b = [exact[i] for i in everything - set(chosen)]
        ma, mb = sum(a) / n, sum(b) / m
        if not studentized:
            return ma - mb, Fraction(1)
        return ma - mb, sum((v - ma) ** 2 for v in a) / (n * (n - 1)) + sum((v - mb) ** 2 for v in b) / (m * (m - 1))

    def at_least(one, other):
        """one's t >= other's, by signed squares."""
        sign = lambda gap: (gap > 0) - (gap < 0)
        key = lambda s: (sign(s[0]), sign(s[0]) * s[0] ** 2 / s[1] if s[0] else Fraction(0))
        return key(one) >= key(other)

    seen = shape(range(n))
    all_of = [shape(c) for c in combinations(range(n + m), n)]
    high = Fraction(sum(at_least(s, seen) for s in all_of), len(all_of))
    low = Fraction(sum(at_least(seen, s) for s in all_of), len(all_of))
    out = {"p": min(Fraction(1), 2 * min(low, high)), "estimate": seen[0]}
    if not studentized:
        shifts = []
        for chosen in combinations(range(n + m), n):
            kept = sum(i < n for i in chosen)
            if kept < n:
                gap = shape(chosen)[0]
                shifts.append((seen[0] - gap) / (Fraction(n - kept) * (Fraction(1, n) + Fraction(1, m))))
        shifts.sort()
        place = floor(Fraction(len(all_of), 40))
        if place >= 1:
            out.update(lower=shifts[place - 1], upper=shifts[-place])
    return out


def flipped(x, y):
    d = [Fraction(repr(a)) - Fraction(repr(b)) for a, b in zip(x, y)]
    seen = sum(d)
    sums = [sum(s * v for s, v in zip(signs, d)) for signs in product((1, -1), repeat=len(d))]
    high = Fraction(sum(s >= seen for s in sums), len(sums))
    low = Fraction(sum(s <= seen for s in sums), len(sums))
    # Flipping a set of changes meets the observed sum where the shift is their mean.
    means = sorted(sum(v for v, k in zip(d, kept) if k) / sum(kept) for kept in product((0, 1), repeat=len(d)) if any(kept))
    place = floor(Fraction(len(sums), 40))
    out = {"p": min(Fraction(1), 2 * min(low, high)), "estimate": seen / len(d)}
    if place >= 1:
        out.update(lower=means[place - 1], upper=means[-place])
    return out


# --- effect sizes ---------------------------------------------------------------------------------------------


def hedges(df):
    return gamma(df / 2) / (sqrt(df / 2) * gamma((df - 1) / 2))


def ncp_limits(t, df):
    """For |t| up to 45 by the bracketing solver of noncentral_t_reference.py."""
    tail = (1 - LEVEL) / 2
    sign = 1 if t >= 0 else -1
    mp.dps = 30
    low, high = (noncentral_t_reference.solve(abs(t), df, tail, upper) for upper in (True, False))
    mp.dps = 50
    return (low, high) if sign > 0 else (-high, -low)


def standardized(d, t_scale, df, factor=1):
    low, high = ncp_limits(d * t_scale, df)
    return {"estimate": d * factor, "lower": low / t_scale * factor, "upper": high / t_scale * factor}


def group_effects(a, b, positive):
    n, m = a["n"], b["n"]
    gap, pooled = a["mean"] - b["mean"], errors(a, b)[1]
    size = sqrt(n * m / (n + m))
    d = gap / pooled
    out = {}
    if abs(d * size) < 45:
        out["d_pooled"] = standardized(d, size, n + m - 2)
        out["g"] = standardized(d, size, n + m - 2, hedges(n + m - 2))
    z = normal_quantile((1 + LEVEL) / 2)
    average = sqrt((a["sd"] ** 2 + b["sd"] ** 2) / 2)
    for name, s in (("d_average", average), ("d_by_first", a["sd"]), ("d_by_second", b["sd"])):
        d = gap / s
        of_gap = (a["sd"] / s) ** 2 / (n - 1) + (b["sd"] / s) ** 2 / (m - 1)
        if name == "d_average":
            of_s = d ** 2 / 8 * ((a["sd"] / s) ** 4 / (n - 1) + (b["sd"] / s) ** 4 / (m - 1))
        else:
            of_s = d ** 2 / (2 * ((n if name == "d_by_first" else m) - 1))
        se = sqrt(of_gap + of_s)
        out[name] = {"estimate": d, "lower": d - z * se, "upper": d + z * se}
    if positive:
        va, vb = (a["sd"] / a["mean"]) ** 2 / n, (b["sd"] / b["mean"]) ** 2 / m
        df = (va + vb) ** 2 / (va ** 2 / (n - 1) + vb ** 2 / (m - 1))
        reach = t_quantile((1 - LEVEL) / 2, df) * sqrt(va + vb)
        ratio = a["mean"] / b["mean"]
        out["mean_ratio"] = {"estimate": ratio, "lower": ratio * exp(-reach), "upper": ratio * exp(reach)}
    return out


def pair_effects(a, b, change, r):
    n = a["n"]
    d = change["mean"] / change["sd"]
    out = {}
    if abs(d * sqrt(n)) < 45:
        out["d_change"] = standardized(d, sqrt(n), n - 1)
        out["g_change"] = standardized(d, sqrt(n), n - 1, hedges(n - 1))
        repeated = sqrt(2 * (1 - r))
        out["d_repeated"] = standardized(d * repeated, sqrt(n) / repeated, n - 1)
    s = sqrt((a["sd"] ** 2 + b["sd"] ** 2) / 2)
    z = normal_quantile((1 + LEVEL) / 2)
    average = change["mean"] / s
    variance = (change["sd"] / s) ** 2 / (n - 1) + average ** 2 * (
        (a["sd"] / s) ** 4 + (b["sd"] / s) ** 4 + 2 * r ** 2 * (a["sd"] / s) ** 2 * (b["sd"] / s) ** 2) / (8 * (n - 1))
    out["d_average"] = {"estimate": average, "lower": average - z * sqrt(variance), "upper": average + z * sqrt(variance)}
    return out


# --- checks ---------------------------------------------------------------------------------------------------


def polynomial(coefficients, x):
    return sum(mpf(c) * x ** k for k, c in enumerate(coefficients))


def shapiro_wilk(x):
    """W and p by Royston (1995)."""
    x = sorted(mpf(v) for v in x)
    n = len(x)
    m = [normal_quantile((mpf(i) - mpf("0.375")) / (n + mpf("0.25"))) for i in range(1, n + 1)]
    size = sum(v * v for v in m)
    u = 1 / sqrt(mpf(n))
    last = m[-1] / sqrt(size) + polynomial(("0", "0.221157", "-0.147981", "-2.071190", "4.434685", "-2.706056"), u)
    if n > 5:
        second = m[-2] / sqrt(size) + polynomial(("0", "0.042981", "-0.293762", "-1.752461", "5.682633", "-3.582633"), u)
        phi = (size - 2 * m[-1] ** 2 - 2 * m[-2] ** 2) / (1 - 2 * last ** 2 - 2 * second ** 2)
        a = [-last, -second] + [v / sqrt(phi) for v in m[2:-2]] + [second, last]
    else:
        phi = (size - 2 * m[-1] ** 2) / (1 - 2 * last ** 2)
        a = [-last] + [v / sqrt(phi) for v in m[1:-1]] + [last]
    mean = sum(x) / n
    w = sum(p * q for p, q in zip(a, x)) ** 2 / (sum(v * v for v in a) * sum((v - mean) ** 2 for v in x))
    if n <= 11:
        y = -log(polynomial(("-2.273", "0.459"), n) - log(1 - w))
        centre = polynomial(("0.5440", "-0.39978", "0.025054", "-6.714e-4"), mpf(n))
        spread = exp(polynomial(("1.3822", "-0.77857", "0.062767", "-0.0020322"), mpf(n)))
    else:
        y = log(1 - w)
        ln = log(mpf(n))
        centre = polynomial(("-1.5861", "-0.31082", "-0.083751", "0.0038915"), ln)
        spread = exp(polynomial(("-0.4803", "-0.082676", "0.0030302"), ln))
    return {"statistic": w, "p": erfc((y - centre) / spread / sqrt(mpf(2))) / 2}


def deviations(x, y, centre):
    away = [[abs(mpf(v) - centre(group)) for v in group] for group in (x, y)]
    a, b = map(moments, away)
    se, df = errors(a, b)[0]["student"]
    f = ((a["mean"] - b["mean"]) / se) ** 2
    return {"statistic": f, "p": f_tail(f, mpf(1), df)}


def error_rate(a, b, method):
    """Rejections of a true null hypothesis by Student's or Welch's test at 5 %, for normal populations with these SDs."""
    n, m, s1, s2 = a["n"], b["n"], a["sd"], b["sd"]
    total = n + m - 2
    spread = sqrt(s1 ** 2 / n + s2 ** 2 / m)
    p, q = (n - 1) / 2, (m - 1) / 2
    constant = 1 / mp.beta(p, q)

    def given(z):
        share = 1 / (1 + exp(-z))
        rest = 1 / (1 + exp(z))
        first, second = s1 ** 2 * share, s2 ** 2 * rest
        if method == "student":
            h, df = (first + second) / total * (1 / n + 1 / m), total
        else:
            first, second = first / (n * (n - 1)), second / (m * (m - 1))
            h, df = first + second, (first + second) ** 2 / (first ** 2 / (n - 1) + second ** 2 / (m - 1))
        return constant * share ** p * rest ** q * 2 * t_tail(given.t(df) * sqrt(h * total) / spread, total)

    mp.dps = 20
    given.t = lambda df: t_quantile(mpf(1) / 40, df)
    middle = log(p / q)
    width = sqrt(1 / p + 1 / q)
    ends = [middle - max(14 * width, 60 / p), middle + max(14 * width, 60 / q)]
    rate = quad(given, ends[:1] + [middle + k * width for k in (-8, -4, -2, -1, 0, 1, 2, 4, 8)] + ends[1:], maxdegree=6)
    mp.dps = 50
    return rate


# --- all cases ------------------------------------------------------------------------------------------------

rows = []


def add(case, verb, key, found, names=None):
    for name in names or found:
        value = found.get(name)
        if value is None:
            continue
        if isinstance(value, Fraction):
            value = mpf(value.numerator) / value.denominator
        rows.append((case, verb, key, name, mp.nstr(mpf(value), 22)))


def evidence(t, df, size):
    mp.dps = 40
    log_all, _, median, lower, upper = evidence_reference.direct(t, df, size, 0, sqrt(mpf(1) / 2), 1)
    mp.dps = 50
    return {"log_bf": log_all, "estimate": median, "lower": lower, "upper": upper}


def group_case(name, x, y):
    case = f"groups: {name}"
    a, b = moments(x), moments(y)
    for which, values, m in ((1, x, a), (2, y, b)):
        found = dict(m, se=m["sd"] / sqrt(m["n"]), q1=quartile(values, "0.25"), median=quartile(values, "0.5"),
                     q3=quartile(values, "0.75"))
        reach = t_quantile((1 - LEVEL) / 2, m["n"] - 1) * found["se"]
        found.update(lower=m["mean"] - reach, upper=m["mean"] + reach)
        add(case, "describe", which, {k: v for k, v in found.items() if k != "n"})
        if 3 < m["n"] < 100:
            add(case, "assumptions", f"Shapiro-Wilk {which}", shapiro_wilk(values))
    gap = a["mean"] - b["mean"]
    by_method, pooled = errors(a, b)
    for method, (se, df) in by_method.items():
        found = inference(gap, se, df)
        add(case, "difference", method, found)
        upper_tail = t_tail(found["statistic"], df)
        add(case, "higher", method, {"p": upper_tail, "log_p": log(upper_tail),
                                     "at_least": gap - t_quantile(ALPHA, df) * se})
        bound = 2 * pooled
        bound = mpf(float(mp.nstr(bound, 3)))
        reach = t_quantile(ALPHA, df) * se
        low, high = t_tail((gap + bound) / se, df), t_tail((bound - gap) / se, df)
        add(case, f"equivalence {mp.nstr(bound, 3)}", method, {
            "p_low": low, "p_high": high, "lower": gap - reach, "upper": gap + reach,
            "tightest": max(abs(gap - reach), abs(gap + reach))})
    for estimand, found in group_effects(a, b, min(x + y) > 0).items():
        add(case, "effect", estimand, found)
    ratio = a["sd"] / b["sd"]
    df1, df2 = a["n"] - 1, b["n"] - 1
    f = ratio ** 2
    add(case, "assumptions", "f_ratio", {"statistic": f, "p": 2 * min(f_tail(f, df1, df2), 1 - f_tail(f, df1, df2))})
    add(case, "assumptions", "sd_ratio", {
        "estimate": ratio, "lower": ratio / sqrt(f_quantile(mpf(1) / 40, df1, df2)),
        "upper": ratio * sqrt(f_quantile(mpf(1) / 40, df2, df1))})
    if len(x) > 2:
        add(case, "assumptions", "deviations", deviations(x, y, lambda v: quartile(v, "0.5")))
        add(case, "assumptions_mean", "deviations", deviations(x, y, lambda v: moments(v)["mean"]))
    if len(x) < 100:
        for method in ("student", "welch"):
            add(case, "assumptions", f"error_{method}", {"estimate": error_rate(a, b, method)})
    if len(x) * len(y) <= 2000 and "size" not in name and "spread" not in name and "far" not in name:
        add(case, "difference", "ranks", rank_sum(x, y))
    if min(len(x), len(y)) >= 10 and len(x) < 100:
        found = relative(x, y)
        if found:
            add(case, "difference", "relative", found)
    if len(x) + len(y) <= 12:
        add(case, "difference", "permutation", permuted(x, y, True), ["p", "estimate"])
        add(case, "difference", "permutation difference", permuted(x, y, False))
    se, df = by_method["student"]
    if abs(gap / se) < 15:
        size = a["n"] * b["n"] / (a["n"] + b["n"])
        add(case, "evidence", "student", evidence(gap / se, df, size))


def pair_case(name, x, y):
    case = f"pairs: {name}"
    a, b = moments(x), moments(y)
    change = moments([mpf(p) - mpf(q) for p, q in zip(x, y)])
    n = a["n"]
    r = sum((mpf(p) - a["mean"]) * (mpf(q) - b["mean"]) for p, q in zip(x, y)) / ((n - 1) * a["sd"] * b["sd"])
    se, df = change["sd"] / sqrt(n), n - 1
    found = inference(change["mean"], se, df)
    add(case, "difference", "paired", found)
    add(case, "describe", 3, {k: change.get(k) for k in ("mean", "sd", "skewness", "kurtosis")})
    for estimand, effect in pair_effects(a, b, change, r).items():
        add(case, "effect", estimand, effect)
    ratio = a["sd"] / b["sd"]
    t = (ratio - 1 / ratio) * sqrt(n - 2) / (2 * sqrt(1 - r ** 2))
    add(case, "assumptions", "sd_ratio", {"estimate": ratio, "statistic": t, "p": 2 * t_tail(abs(t), n - 2)})
    add(case, "assumptions", "pairing", {"estimate": r})
    if "size" not in name:
        add(case, "difference", "signed_ranks", signed_rank(x, y))
    if n <= 12 and "size" not in name:
        add(case, "difference", "permutation", flipped(x, y))
    if abs(found["statistic"]) < 15:
        add(case, "evidence", "paired", evidence(found["statistic"], df, n))


def subgroup_case():
    """Welch's (1951) test of three differences, from the groups of three cases of other names."""
    estimates = []
    for name in ("plain", "small", "unequal sizes and spreads"):
        a, b = map(moments, GROUPS[name])
        se, df = errors(a, b)[0]["welch"]
        estimates.append((a["mean"] - b["mean"], se, df))
    weights = [1 / se ** 2 for _, se, _ in estimates]
    total = sum(weights)
    centre = sum(w * e[0] for w, e in zip(weights, estimates)) / total
    k = mpf(len(estimates))
    spread = sum(w * (e[0] - centre) ** 2 for w, e in zip(weights, estimates)) / (k - 1)
    away = sum((1 - w / total) ** 2 / e[2] for w, e in zip(weights, estimates))
    f = spread / (1 + 2 * (k - 2) / (k ** 2 - 1) * away)
    df2 = (k ** 2 - 1) / (3 * away)
    add("subgroups", "subgroups", "welch", {"statistic": f, "df_second": df2, "p": f_tail(f, k - 1, df2)})


def power_cases():
    """Power of Student's test and of the paired one: two tails of the noncentral t."""
    mp.dps = 30
    for n, m, delta, sd in ((10, 10, 1, 2), (24, 24, "2.5", 3), (5, 50, 1, 1), (200, 300, "0.3", 1)):
        df = mpf(n + m - 2)
        t = t_quantile(mpf(1) / 40, df)
        ncp = mpf(delta) / (mpf(sd) * sqrt(mpf(1) / n + mpf(1) / m))
        tail = lambda x, up: noncentral_t_reference.cdf(x, df, ncp if up else -ncp, True)
        add(f"power {n} {m} {delta} {sd}", "rehearse", "student", {"power": tail(t, True) + tail(t, False)})
    mp.dps = 50


def main():
    with open("tests/testthat/reference/accuracy_data.csv", "w") as file:
        file.write("case,first,second\n")
        for kind, cases in (("groups", GROUPS), ("pairs", PAIRS)):
            for name, (x, y) in cases.items():
                spell = lambda values: " ".join(float(v).hex() for v in values)
                file.write(f"{kind}: {name},{spell(x)},{spell(y)}\n")
    tasks = [(group_case, name, *GROUPS[name]) for name in GROUPS] + [(pair_case, name, *PAIRS[name]) for name in PAIRS]
    tasks += [(subgroup_case,), (power_cases,)]
    with Pool() as pool, open("tests/testthat/reference/accuracy.csv", "w") as file:
        file.write("case,verb,key,column,value\n")
        for found in pool.imap(carry_out, tasks, chunksize=1):
            for row in found:
                file.write(",".join(map(str, row)) + "\n")


def carry_out(task):
    rows.clear()
    task[0](*task[1:])
    print(*task[1:2], file=sys.stderr)
    return list(rows)


if __name__ == "__main__":
    main()
