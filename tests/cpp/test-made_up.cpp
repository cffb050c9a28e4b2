#include <testthat/vendor/catch.h>

#include <vandro/made_up.hpp>

namespace made_up_tests {

struct Known {
  vandro::Shape shape;
  double third;  // mean of the cubes, with the room that 200000 values of it need
  double room;
};

TEST_CASE("every shape has mean 0, SD 1 and its skewness") {
  const std::size_t n = 200000;
  for (const Known& known :
       {Known{vandro::Shape::normal, 0.0, 0.05}, Known{vandro::Shape::uniform, 0.0, 0.03},
        Known{vandro::Shape::skewed, 2.0, 0.2}, Known{vandro::Shape::strongly_skewed, 6.18, 3.0},
        Known{vandro::Shape::heavy_tailed, 0.0, 0.6}}) {
    vandro::Random random(7, 1);
    double sum = 0.0, squares = 0.0, cubes = 0.0;
    for (std::size_t i = 0; i < n; ++i) {
      const double x = vandro::standard_value(known.shape, random);
      sum += x;
      squares += x * x;
      cubes += x * x * x;
    }
    CHECK(std::fabs(sum / n) < 0.01);
    CHECK(std::fabs(squares / n - 1.0) < 0.05);
    CHECK(std::fabs(cubes / n - known.third) < known.room);
  }
}

TEST_CASE("groups get their mean and spread, pairs their slope, in every place") {
  vandro::MadeUpWorld world;
  world.first = {10.0, 2.0, vandro::Shape::uniform};
  world.second = {-5.0, 0.5, vandro::Shape::uniform};
  std::vector<double> first(50), second(50);
  vandro::Random random(3, 1);
  vandro::make_up(world, random, first, second);
  for (std::size_t i = 0; i < 50; ++i) {
    CHECK(std::fabs(first[i] - 10.0) < 2.0 * std::sqrt(3.0));
    CHECK(std::fabs(second[i] + 5.0) < 0.5 * std::sqrt(3.0));
  }
  world.paired = true;
  world.slope = 0.25;
  vandro::make_up(world, random, first, second);
  for (std::size_t i = 0; i < 50; ++i) CHECK(second[i] == -5.0 + 0.25 * (first[i] - 10.0));
  // A doubt shifts the differences of one study, all alike.
  world.doubt = 3.0;
  vandro::make_up(world, random, first, second);
  const double shift = first[0] - 10.0 - (second[0] + 5.0) / 0.25;
  CHECK(std::fabs(shift) > 1e-6);
  for (std::size_t i = 0; i < 50; ++i) {
    CHECK(std::fabs(first[i] - 10.0 - (second[i] + 5.0) / 0.25 - shift) < 1e-9);
  }
}

TEST_CASE("whole numbers are whole in every place, both measurements of a pair too") {
  vandro::MadeUpWorld world;
  world.whole = true;
  world.first.sd = world.second.sd = 20.0;
  std::vector<double> first(40), second(40);
  vandro::Random random(5, 1);
  for (const bool paired : {false, true}) {
    world.paired = paired;
    world.rest = 20.0;
    vandro::make_up(world, random, first, second);
    for (std::size_t i = 0; i < 40; ++i) {
      CHECK(first[i] == std::floor(first[i]));
      CHECK(second[i] == std::floor(second[i]));
    }
  }
}

}  // namespace made_up_tests
