// Headers that most tests of geometry include, precompiled.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "geom/topology.h"
