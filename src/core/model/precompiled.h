// Headers that most of the model includes, precompiled.
#include <algorithm>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "base/say.h"
#include "model/document.h"
#include "model/model.h"
