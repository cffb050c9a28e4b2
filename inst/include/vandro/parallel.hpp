// Work cut into numbered pieces, done by several threads.
#ifndef VANDRO_PARALLEL_HPP
#define VANDRO_PARALLEL_HPP

#include <atomic>
#include <chrono>
#include <cstddef>
#include <functional>
#include <thread>
#include <vector>

namespace vandro {

// Calls work(i) for i = 0 .. pieces - 1. `keep_going` is asked in the calling thread only; returns
// false when it said no. `work` must write to places of its own for each i.
template <class Work>
bool in_pieces(std::size_t pieces, int threads, const Work& work,
               const std::function<bool()>& keep_going = {}) {
  std::atomic<std::size_t> next{0};
  std::atomic<bool> stopped{false};
  const auto helper = [&] {
    for (std::size_t i = next++; i < pieces && !stopped; i = next++) work(i);
  };
  std::vector<std::thread> others;
  for (int i = 1; i < threads; ++i) others.emplace_back(helper);
  auto asked = std::chrono::steady_clock::now();
  for (std::size_t i = next++; i < pieces && !stopped; i = next++) {
    work(i);
    const auto now = std::chrono::steady_clock::now();
    if (keep_going && now - asked > std::chrono::milliseconds(50)) {
      asked = now;
      if (!keep_going()) stopped = true;
    }
  }
  for (std::thread& other : others) other.join();
  return !stopped;
}

}  // namespace vandro

#endif
