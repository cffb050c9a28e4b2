#include <testthat/vendor/catch.h>

#include <cmath>
#include <vandro/rehearsal.hpp>

namespace {

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

}  // namespace

TEST_CASE("where nothing is to be found tests reject at most at alpha, exact ones exactly so") {
  const std::uint64_t studies = 4000;
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
    const auto plan = plan_of(11, 3);
    const auto one = rates(world, 6, 9, of_groups, plan, 400);
    const auto two = rates(world, 6, 9, of_groups, plan, 400, 2);
    std::vector<vandro::Rates> low, high;
    const vandro::Rehearsal rehearsal(world, 6, 9, of_groups, plan);
    rehearsal.run(0, 150, 1, low);
    rehearsal.run(150, 400, 1, high);
    for (std::size_t k = 0; k < of_groups.size(); ++k) {
      CHECK(same(one[k], two[k]));
      CHECK(low[k].rejected + high[k].rejected == one[k].rejected);
      CHECK(low[k].widths + high[k].widths == one[k].widths);
      // A method alone sees the same studies as beside others.
      CHECK(same(one[k], rates(world, 6, 9, {of_groups[k]}, plan, 400)[0]));
    }
  }
}

TEST_CASE("both one-sided tests together are the interval within the bounds") {
  vandro::RehearsalPlan both = plan_of(5);
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
