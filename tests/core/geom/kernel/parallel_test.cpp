#include "geom/kernel/parallel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <Standard_ConstructionError.hxx>
#include <functional>
#include <string>
#include <vector>

namespace kervo {
namespace {

std::string errorOf(const std::function<void(std::size_t)>& work) {
  Progress progress;
  try {
    forEachInParallel(100, "counting", progress, work);
  } catch (const Error& error) {
    return error.happened();
  }
  return "no error";
}

TEST(Parallel, EveryPieceIsDoneOnce) {
  std::vector<int> done(1000);
  Progress progress;
  forEachInParallel(done.size(), "counting", progress, [&](std::size_t i) { ++done[i]; });
  EXPECT_EQ(done, std::vector<int>(1000, 1));
}

TEST(Parallel, TheCauseOfAFailureIsTold) {
  EXPECT_THAT(errorOf([](std::size_t i) {
                if (i == 7) throw Standard_ConstructionError("two points are one");
              }),
              testing::AllOf(testing::HasSubstr("counting failed in the geometry kernel"),
                             testing::HasSubstr("two points are one")));
  EXPECT_EQ(errorOf([](std::size_t) { throw Error("the edge is gone"); }), "the edge is gone");
}

TEST(Parallel, StoppingIsNoFailure) {
  Progress progress;
  EXPECT_THROW(forEachInParallel(100, "counting", progress,
                                 [&](std::size_t) {
                                   progress.requestStop();
                                   progress.throwIfStopped();
                                 }),
               Stopped);
}

}  // namespace
}  // namespace kervo
