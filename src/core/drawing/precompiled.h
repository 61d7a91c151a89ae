// Headers that most of the drawing includes, precompiled.
#include <algorithm>
#include <cmath>
#include <functional>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "base/say.h"
#include "drawing/drawing.h"
