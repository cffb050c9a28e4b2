#include <testthat/vendor/catch.h>

#include <algorithm>
#include <cmath>
#include <vandro/rehearsal.hpp>

namespace rehearsal_tests {

using vandro::Method;

const std::vector<Method> of_groups{Method::welch, Method::student, Method::ranks, Method::relative,
                                    Method::permutation};
const std::vector<Method> of_pairs{Method::paired, Method::signed_ranks, Method::permutation};

vandro::MadeUpWorld world_of(double difference, double sd) {
  vandro::MadeUpWorld world;
  world.first = {difference, sd, vandro::Shape::normal};
  return world;
}

vandro::RehearsalPlan plan_of(std::uint64_t seed, std::size_t every = 1) {
  vandro::RehearsalPlan plan;
  plan.seed = seed;
  plan.width_every = every;
  return plan;
}

std::vector<vandro::Rates> rates(const vandro::MadeUpWorld& world, std::size_t n, std::size_t m,
                                 const std::vector<Method>& methods,
                                 const vandro::RehearsalPlan& plan, std::uint64_t studies,
                                 int threads = 1) {
  std::vector<vandro::Rates> out;
  REQUIRE(vandro::Rehearsal(world, n, m, methods, plan).run(0, studies, threads, out));
  return out;
}

bool same(const vandro::Rates& a, const vandro::Rates& b) {
  return a.studies == b.studies && a.rejected == b.rejected && a.undefined == b.undefined &&
         a.widths == b.widths && a.width_sum == b.width_sum && a.width_squares == b.width_squares;
}

TEST_CASE("where nothing is to be found tests reject at most at alpha, exact ones exactly so") {
  const std::uint64_t studies = 2000;
  const double noise = 4.0 * std::sqrt(0.05 * 0.95 / static_cast<double>(studies));
  const auto groups = rates(world_of(0.0, 1.0), 8, 8, of_groups, plan_of(3, studies), studies);
  for (const auto& one : groups) {
    CHECK(one.studies == static_cast<double>(studies));
    CHECK(one.undefined == 0.0);
    CHECK(one.rejected / one.studies <= 0.05 + noise);
    CHECK(one.rejected / one.studies >= 0.03);
  }
  CHECK(std::fabs(groups[1].rejected / groups[1].studies - 0.05) <= noise);
  vandro::MadeUpWorld changes = world_of(0.0, 2.0);
  changes.paired = true;
  for (const auto& one : rates(changes, 9, 9, of_pairs, plan_of(4, studies), studies)) {
    CHECK(one.rejected / one.studies <= 0.05 + noise);
    CHECK(one.rejected / one.studies >= 0.03);
  }
}

TEST_CASE("pieces and threads leave every sum as it is") {
  vandro::MadeUpWorld world = world_of(0.8, 1.7);
  world.doubt = 0.4;
  for (const bool whole : {false, true}) {
    world.whole = whole;
    const auto plan = plan_of(11, 10);
    const auto one = rates(world, 6, 9, of_groups, plan, 50);
    const auto two = rates(world, 6, 9, of_groups, plan, 50, 2);
    std::vector<vandro::Rates> low, high;
    const vandro::Rehearsal rehearsal(world, 6, 9, of_groups, plan);
    rehearsal.run(0, 20, 1, low);
    rehearsal.run(20, 50, 1, high);
    for (std::size_t k = 0; k < of_groups.size(); ++k) {
      CHECK(same(one[k], two[k]));
      CHECK(low[k].rejected + high[k].rejected == one[k].rejected);
      CHECK(low[k].widths + high[k].widths == one[k].widths);
      // A method alone sees the same studies as beside others.
      CHECK(same(one[k], rates(world, 6, 9, {of_groups[k]}, plan, 50)[0]));
    }
  }
}

TEST_CASE("both one-sided tests together are the interval within the bounds") {
  vandro::RehearsalPlan both = plan_of(5, 500);
  both.sides = {true, true, true, -1.5, 1.5, 0.05};
  both.width_tail = 0.05;
  vandro::RehearsalPlan up = both, down = both;
  up.sides.both = down.sides.both = up.sides.down = down.sides.up = false;
  const auto world = world_of(0.2, 1.0);
  const auto found = rates(world, 10, 10, of_groups, both, 500);
  const auto above = rates(world, 10, 10, of_groups, up, 500);
  const auto below = rates(world, 10, 10, of_groups, down, 500);
  for (std::size_t k : {0, 1, 2, 4}) {
    CHECK(found[k].rejected > 0.0);
    CHECK(found[k].rejected <= std::min(above[k].rejected, below[k].rejected));
    CHECK(found[k].rejected >= above[k].rejected + below[k].rejected - 500.0);
  }
}

TEST_CASE("studies in which nothing varies are counted, and do not reject") {
  vandro::MadeUpWorld world = world_of(0.0, 0.01);
  world.second.sd = 0.01;
  world.whole = true;
  for (const auto& one : rates(world, 5, 6, of_groups, plan_of(1), 50)) {
    CHECK(one.undefined == 50.0);
    CHECK(one.rejected == 0.0);
    CHECK(one.widths == 0.0);
  }
  world.paired = true;
  for (const auto& one : rates(world, 5, 5, of_pairs, plan_of(1), 50)) CHECK(one.undefined == 50.0);
}

TEST_CASE("groups too small for an alpha never reject, and a large difference always does") {
  vandro::RehearsalPlan plan = plan_of(2, 100);
  plan.sides.tail = 0.001;
  // The smallest tail of three and three values is 1 / 20.
  const auto none =
      rates(world_of(50.0, 1.0), 3, 3, {Method::ranks, Method::permutation}, plan, 100);
  CHECK(none[0].rejected == 0.0);
  CHECK(none[1].rejected == 0.0);
  for (const auto& one : rates(world_of(50.0, 1.0), 12, 12, of_groups, plan_of(2, 100), 100)) {
    CHECK(one.rejected == 100.0);
  }
}

TEST_CASE("a world's second measurement has its spread and correlation, whole ones stay whole") {
  vandro::MadeUpWorld world = world_of(4.0, 3.0);
  world.second = {10.0, 2.0, vandro::Shape::normal};
  world.paired = world.whole = true;
  world.slope = -0.2;
  world.rest = 1.9;
  vandro::Random random(8, 0);
  std::vector<double> change(5000), second(5000);
  vandro::make_up(world, random, change, second);
  double mean = 0.0, product = 0.0;
  for (std::size_t i = 0; i < 5000; ++i) {
    CHECK(change[i] == std::nearbyint(change[i]));
    CHECK(second[i] == std::nearbyint(second[i]));
    mean += second[i] / 5000.0;
    product += (change[i] - 4.0) * (second[i] - 10.0) / 5000.0;
  }
  CHECK(std::fabs(mean - 10.0) < 0.15);
  CHECK(std::fabs(product - (-0.2 * 9.0)) < 0.5);
}

struct Sample {
  std::vector<double> first, second;
};

Sample sample_of(const vandro::MadeUpWorld& world, std::size_t n, std::size_t m, std::uint64_t seed,
                 std::uint64_t study) {
  Sample out{std::vector<double>(n), std::vector<double>(m)};
  vandro::Random random(seed, study);
  vandro::make_up(world, random, out.first, out.second);
  return out;
}

double upper(double df, double tail) { return vandro::StudentT(df).upper_quantile(tail); }

// Whether a value is larger than another, half for a tie, added up.
double higher(double value, const std::vector<double>& others) {
  double sum = 0.0;
  for (const double other : others) sum += value > other ? 1.0 : value == other ? 0.5 : 0.0;
  return sum;
}

// SD of U given the ties.
double rank_sum_sd(const Sample& s) {
  std::vector<double> all = s.first;
  all.insert(all.end(), s.second.begin(), s.second.end());
  double tied = 0.0;
  for (const double x : all) {
    const double copies = static_cast<double>(std::count(all.begin(), all.end(), x));
    tied += copies * copies - 1.0;  // sums to t^3 - t over a run of t
  }
  const double n = static_cast<double>(s.first.size()), m = static_cast<double>(s.second.size());
  const double k = n + m;
  return std::sqrt(n * m / 12.0 * (k + 1.0 - tied / (k * (k - 1.0))));
}

// z of U with its continuity correction towards the mean.
double corrected_z(const Sample& s, bool up) {
  double u = 0.0;
  for (const double x : s.first) u += higher(x, s.second);
  const double mean = 0.5 * static_cast<double>(s.first.size() * s.second.size());
  return (u - mean + (up ? -0.5 : 0.5)) / rank_sum_sd(s);
}

struct Relative {
  double estimate, se, df;
};

// Brunner and Munzel (2000) from placements, one by one.
Relative relative_of(const std::vector<double>& first, const std::vector<double>& second) {
  const double n = static_cast<double>(first.size()), m = static_cast<double>(second.size());
  std::vector<double> p, q;
  double mean_p = 0.0, mean_q = 0.0, a = 0.0, b = 0.0;
  for (const double x : first) p.push_back(higher(x, second) / m);
  for (const double y : second) q.push_back(higher(y, first) / n);
  for (const double x : p) mean_p += x / n;
  for (const double y : q) mean_q += y / m;
  for (const double x : p) a += (x - mean_p) * (x - mean_p) / ((n - 1.0) * n);
  for (const double y : q) b += (y - mean_q) * (y - mean_q) / ((m - 1.0) * m);
  return {mean_p, std::sqrt(a + b), (a + b) * (a + b) / (a * a / (n - 1.0) + b * b / (m - 1.0))};
}

TEST_CASE("one study after the other decides as the formulas do on its values") {
  vandro::MadeUpWorld world = world_of(4.0, 6.0);
  world.second.sd = 5.0;
  world.whole = true;
  vandro::RehearsalPlan plan = plan_of(12);
  plan.exact_ranks = plan.exact_ties = false;
  plan.width_tail = 0.05;
  const std::size_t n = 10, m = 14;
  const vandro::Rehearsal rehearsal(world, n, m, {Method::ranks, Method::relative, Method::welch},
                                    plan);
  double rejected = 0.0;
  for (std::uint64_t study = 0; study < 150; ++study) {
    std::vector<vandro::Rates> out;
    REQUIRE(rehearsal.run(study, study + 1, 1, out));
    const Sample s = sample_of(world, n, m, plan.seed, study);
    const bool by_ranks =
        corrected_z(s, true) >= 1.959963984540054 || corrected_z(s, false) <= -1.959963984540054;
    CHECK(out[0].rejected == (by_ranks ? 1.0 : 0.0));
    std::vector<double> gaps;
    for (const double x : s.first) {
      for (const double y : s.second) gaps.push_back(x - y);
    }
    std::sort(gaps.begin(), gaps.end());
    const double reach_u = 1.6448536269514722 * rank_sum_sd(s) + 0.5;
    const auto outside = static_cast<std::size_t>(std::floor(0.5 * n * m - reach_u));
    CHECK(out[0].width_sum == 0.5 * (gaps[n * m - 1 - outside] - gaps[outside]));
    const Relative r = relative_of(s.first, s.second);
    if (r.estimate > 0.0 && r.estimate < 1.0) {
      const bool by_relative = std::fabs(r.estimate - 0.5) / r.se >= upper(r.df, 0.025);
      CHECK(out[1].rejected == (by_relative ? 1.0 : 0.0));
      const double logit = std::log(r.estimate / (1.0 - r.estimate));
      const double reach = upper(r.df, 0.05) * r.se / (r.estimate * (1.0 - r.estimate));
      const double low = 1.0 / (1.0 + std::exp(reach - logit));
      const double high = 1.0 / (1.0 + std::exp(-reach - logit));
      CHECK(std::fabs(out[1].width_sum - 0.5 * (high - low)) < 1e-12);
    }
    double mean[2] = {0.0, 0.0}, error[2] = {0.0, 0.0};
    const std::vector<double>* both[2] = {&s.first, &s.second};
    for (int g = 0; g < 2; ++g) {
      const double size = static_cast<double>(both[g]->size());
      for (const double x : *both[g]) mean[g] += x / size;
      for (const double x : *both[g])
        error[g] += (x - mean[g]) * (x - mean[g]) / (size * (size - 1.0));
    }
    const double sum = error[0] + error[1];
    const double df = sum * sum / (error[0] * error[0] / 9.0 + error[1] * error[1] / 13.0);
    CHECK(out[2].rejected ==
          (std::fabs(mean[0] - mean[1]) / std::sqrt(sum) >= upper(df, 0.025) ? 1.0 : 0.0));
    CHECK(std::fabs(out[2].width_sum - upper(df, 0.05) * std::sqrt(sum)) < 1e-12);
    rejected += out[0].rejected;
  }
  // Both decisions were met.
  CHECK(rejected > 20.0);
  CHECK(rejected < 130.0);
}

TEST_CASE(
    "with fewer than ten values in a group the relative effect is held against all assignments") {
  vandro::MadeUpWorld world = world_of(6.0, 6.0);
  world.second.sd = 4.0;
  const std::size_t n = 4, m = 10;
  for (const bool whole : {false, true}) {
    world.whole = whole;
    const vandro::Rehearsal rehearsal(world, n, m, {Method::relative}, plan_of(21, 1000));
    double rejected = 0.0;
    for (std::uint64_t study = 1; study <= 15; ++study) {
      std::vector<vandro::Rates> out;
      REQUIRE(rehearsal.run(study, study + 1, 1, out));
      const Sample s = sample_of(world, n, m, 21, study);
      const Relative r = relative_of(s.first, s.second);
      if (r.estimate == 0.0 || r.estimate == 1.0) continue;
      const double t = (r.estimate - 0.5) / r.se;
      std::vector<double> all = s.first;
      all.insert(all.end(), s.second.begin(), s.second.end());
      double above = 0.0, below = 0.0, total = 0.0;
      for (std::uint32_t mask = 0; mask < (1U << (n + m)); ++mask) {
        std::vector<double> x, y;
        for (std::size_t i = 0; i < n + m; ++i) ((mask >> i) & 1U ? x : y).push_back(all[i]);
        if (x.size() != n) continue;
        const Relative one = relative_of(x, y);
        const double there = one.estimate == 1.0   ? HUGE_VAL
                             : one.estimate == 0.0 ? -HUGE_VAL
                                                   : (one.estimate - 0.5) / one.se;
        above += there >= t - 1e-9 * std::fabs(t) ? 1.0 : 0.0;
        below += there <= t + 1e-9 * std::fabs(t) ? 1.0 : 0.0;
        total += 1.0;
      }
      const bool rejects = above <= 0.025 * total || below <= 0.025 * total;
      CHECK(out[0].rejected == (rejects ? 1.0 : 0.0));
      rejected += out[0].rejected;
    }
    CHECK(rejected > 1.0);
    CHECK(rejected < 14.0);
  }
}

TEST_CASE("too many assignments are drawn, and keep the level") {
  const std::uint64_t studies = 1500;
  const auto found =
      rates(world_of(0.0, 1.0), 9, 9, {Method::relative}, plan_of(5, studies), studies);
  const double noise = 4.0 * std::sqrt(0.05 * 0.95 / static_cast<double>(studies));
  CHECK(found[0].rejected / found[0].studies <= 0.05 + noise);
  CHECK(found[0].rejected / found[0].studies >= 0.03);
}

TEST_CASE("a tail of exactly alpha rejects") {
  // One of twenty assignments is as extreme.
  vandro::RehearsalPlan plan = plan_of(6);
  plan.sides.down = false;
  plan.sides.tail = 0.05;
  const auto found = rates(world_of(1000.0, 1.0), 3, 3, {Method::permutation}, plan, 50);
  CHECK(found[0].rejected == 50.0);
}

TEST_CASE("changes with ties and zeros on the normal distribution, study by study") {
  vandro::MadeUpWorld world = world_of(1.2, 3.0);
  world.paired = world.whole = true;
  world.rest = 2.0;
  vandro::RehearsalPlan plan = plan_of(14, 1000);
  plan.exact_ranks = plan.exact_ties = false;
  const std::size_t n = 16;
  const vandro::Rehearsal rehearsal(world, n, n, {Method::signed_ranks}, plan);
  double rejected = 0.0;
  for (std::uint64_t study = 1; study <= 150; ++study) {
    std::vector<vandro::Rates> out;
    REQUIRE(rehearsal.run(study, study + 1, 1, out));
    std::vector<double> sizes, changes;
    for (const double x : sample_of(world, n, n, plan.seed, study).first) {
      // Zeros take the lowest ranks.
      sizes.push_back(std::fabs(x));
      if (x != 0.0) changes.push_back(x);
    }
    double plus = 0.0, total = 0.0, squares = 0.0;
    for (std::size_t i = 0; i < changes.size(); ++i) {
      const double rank = higher(std::fabs(changes[i]), sizes) + 0.5;
      total += rank;
      squares += rank * rank;
      plus += changes[i] > 0.0 ? rank : 0.0;
    }
    const double reach = 1.959963984540054 * 0.5 * std::sqrt(squares) + 0.5;
    CHECK(out[0].rejected == (std::fabs(plus - 0.5 * total) >= reach ? 1.0 : 0.0));
    rejected += out[0].rejected;
  }
  CHECK(rejected > 20.0);
  CHECK(rejected < 130.0);
}

TEST_CASE("small tied groups on the normal distribution or exactly, as told") {
  vandro::MadeUpWorld world = world_of(3.0, 2.0);
  world.second.sd = 2.0;
  world.whole = true;
  vandro::RehearsalPlan normal = plan_of(15, 1000), exact = plan_of(15, 1000);
  normal.exact_ranks = normal.exact_ties = false;
  normal.sides.tail = exact.sides.tail = 0.0285;  // just below 1 of 35
  const vandro::Rehearsal by_normal(world, 3, 4, {Method::ranks}, normal);
  const vandro::Rehearsal by_count(world, 3, 4, {Method::ranks}, exact);
  double unlike = 0.0;
  for (std::uint64_t study = 1; study <= 200; ++study) {
    std::vector<vandro::Rates> found, counted;
    REQUIRE(by_normal.run(study, study + 1, 1, found));
    REQUIRE(by_count.run(study, study + 1, 1, counted));
    const Sample s = sample_of(world, 3, 4, 15, study);
    const double z = 1.903310818708998;
    CHECK(found[0].rejected ==
          (corrected_z(s, true) >= z || corrected_z(s, false) <= -z ? 1.0 : 0.0));
    unlike += found[0].rejected != counted[0].rejected ? 1.0 : 0.0;
  }
  CHECK(unlike > 0.0);
}

TEST_CASE("half-widths of tied changes come from shifts that are tested one by one") {
  vandro::RehearsalPlan plan = plan_of(14, 1000);
  plan.width_tail = 0.025;
  const vandro::detail::SignedRankRehearsal ranks(14, plan);
  const std::vector<double> changes = {-1, 0, 0, 0, 0, 0, 0, 0, 0, 1, 1, 2, 2, 3};
  CHECK(ranks.find(changes, true).half_width == 0.5);
  const vandro::RehearsalPlan small = plan_of(3, 1000);
  const vandro::detail::SignedRankRehearsal few(3, small);
  CHECK(std::isnan(few.find({1.0, 1.0, 2.0}, true).half_width));
}

}  // namespace rehearsal_tests
