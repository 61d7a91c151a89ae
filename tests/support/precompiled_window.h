// Headers that all tests of the window include, precompiled.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/trial_driver.h"
