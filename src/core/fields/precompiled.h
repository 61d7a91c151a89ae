// Headers that most types of field include, precompiled.
#include <algorithm>
#include <functional>
#include <nlohmann/json.hpp>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/reference.h"
