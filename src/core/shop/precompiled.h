// Headers that most of the shop includes, precompiled.
#include <algorithm>
#include <cmath>
#include <map>
#include <string>
#include <vector>

#include "base/say.h"
#include "model/model.h"
