// Headers that most commands include, precompiled.
#include <CLI/CLI.hpp>
#include <algorithm>
#include <iostream>
#include <memory>
#include <nlohmann/json.hpp>
#include <string>
#include <vector>

#include "exchange/kervo_file.h"
#include "model/rebuild.h"
#include "steps/registry.h"
