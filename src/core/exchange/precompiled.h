// Headers that most formats include, precompiled.
#include <algorithm>
#include <cmath>
#include <filesystem>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <string>
#include <vector>

#include "base/say.h"
#include "geom/kernel/call.h"
#include "geom/kernel/shape_body.h"
#include "model/document.h"
#include "model/model.h"
