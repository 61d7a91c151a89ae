#include "base/dimension_table.h"

#include <algorithm>

namespace kervo {

namespace {

std::string place(std::size_t row, const std::string& name) {
  return "dimension row " + std::to_string(row + 1) + " (" + name + ")";
}

/// Visits rows in the order of their use of each other; `path` holds the rows being evaluated.
class Evaluation {
 public:
  Evaluation(const std::vector<DimensionRow>& rows, const std::unordered_map<std::string, std::size_t>& indexByName,
             std::vector<std::optional<Quantity>>& values, std::vector<std::optional<Error>>& errors)
      : rows_(rows), indexByName_(indexByName), values_(values), errors_(errors) {}

  void visit(std::size_t row) {
    if (values_[row] || errors_[row]) return;
    const DimensionRow& dimension = rows_[row];
    path_.push_back(row);
    try {
      values_[row] = dimension.expression.evaluate([&](const std::string& name) { return use(name); });
    } catch (const Error& error) {
      errors_[row] = error.within(place(row, dimension.name));
    }
    path_.pop_back();
  }

 private:
  Quantity use(const std::string& name) {
    const auto found = indexByName_.find(name);
    if (found == indexByName_.end())
      throw Error("there is no dimension named \"" + name + "\"", "", "Add it, or correct the name");
    const std::size_t row = found->second;
    const auto start = std::find(path_.begin(), path_.end(), row);
    if (start != path_.end()) throw cycle(start);
    if (path_.size() > 2000) throw Error("more than 2000 dimensions depend on each other in a row");
    visit(row);
    if (errors_[row])
      throw Error("it uses \"" + name + "\", which has no value", "", "Mend " + place(row, name) + " first");
    return *values_[row];
  }

  Error cycle(std::vector<std::size_t>::const_iterator start) const {
    std::string chain;
    for (auto it = start; it != path_.end(); ++it) chain += rows_[*it].name + " → ";
    return Error("these dimensions depend on each other in a circle: " + chain + rows_[*start].name, "",
                 "Give one of them a value of its own");
  }

  const std::vector<DimensionRow>& rows_;
  const std::unordered_map<std::string, std::size_t>& indexByName_;
  std::vector<std::optional<Quantity>>& values_;
  std::vector<std::optional<Error>>& errors_;
  std::vector<std::size_t> path_;
};

}  // namespace

DimensionTable::DimensionTable(const std::vector<DimensionRow>& rows) : values_(rows.size()), errors_(rows.size()) {
  for (std::size_t row = 0; row < rows.size(); ++row) {
    const std::string& name = rows[row].name;
    names_.push_back(name);
    const std::string reason = whyNotAName(name);
    if (!reason.empty()) {
      errors_[row] = Error(reason, place(row, name), "Choose another name");
    } else if (const auto [first, isNew] = indexByName_.emplace(name, row); !isNew) {
      errors_[row] = Error("row " + std::to_string(first->second + 1) + " has the same name", place(row, name),
                           "Rename one of the two");
    }
  }
  Evaluation evaluation(rows, indexByName_, values_, errors_);
  for (std::size_t row = 0; row < rows.size(); ++row) evaluation.visit(row);
}

Quantity DimensionTable::lookup(const std::string& name) const {
  const auto found = indexByName_.find(name);
  if (found == indexByName_.end())
    throw Error("there is no dimension named \"" + name + "\"", "", "Add it to the dimensions, or correct the name");
  if (errors_[found->second])
    throw Error("it uses the dimension \"" + name + "\", which has no value", "", "Mend that dimension first");
  return *values_[found->second];
}

}  // namespace kervo
