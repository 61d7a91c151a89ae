// All that Find leads to: verbs, bodies, datums, drawings, steps and dimensions.
#pragma once

#include <vector>

#include "app/find_box.h"

namespace kervo::app {

class MainWindow;

std::vector<FindEntry> findEntries(MainWindow& window);

}  // namespace kervo::app
