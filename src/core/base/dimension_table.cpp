#include "base/dimension_table.h"

#include <algorithm>
#include <map>

#include "base/say.h"

namespace kervo {

namespace {

std::string place(std::size_t row, const std::string& name) {
  return say("dimension row %1 (%2)", row + 1, name);
}

/// One value of the table.
struct Entry {
  std::string place;                       ///< for people
  const Expression* expression = nullptr;  ///< null: it is measured
  const Unit* heightIn = nullptr;          ///< of a level: the unit of bare numbers
};

Error noSuchName(const std::string& name, const std::string& help) {
  const std::string height = heightOfLevel("");
  if (!name.ends_with(height)) return Error(say("there is no dimension named \"%1\"", name), "", help);
  return Error(say("there is no level named \"%1\"", name.substr(0, name.size() - height.size())), "",
               say("Add it to the levels, or correct the name"));
}

/// Visits rows in the order of their use of each other, without recursion: chains may be as long as the table.
class Evaluation {
 public:
  Evaluation(const std::vector<Entry>& entries, const std::vector<std::string>& names,
             const std::unordered_map<std::string, std::size_t>& indexByName,
             std::vector<std::optional<Quantity>>& values, std::vector<std::optional<Error>>& errors)
      : entries_(entries),
        names_(names),
        indexByName_(indexByName),
        values_(values),
        errors_(errors),
        onPath_(values.size()) {}

  void visit(std::size_t first) {
    enter(first);
    while (!path_.empty()) {
      auto& [row, next] = path_.back();
      const std::vector<std::string>& names = entries_[row].expression->names();
      if (next < names.size()) {
        const auto used = indexByName_.find(names[next++]);
        if (used == indexByName_.end()) continue;
        if (onPath_[used->second])
          circles_.emplace(std::pair(row, used->second), circle(used->second));
        else
          enter(used->second);
        continue;
      }
      evaluate(row);
      onPath_[row] = false;
      path_.pop_back();
    }
  }

 private:
  struct Place {
    std::size_t row;
    std::size_t next = 0;  ///< of the names that it uses
  };

  void enter(std::size_t row) {
    if (values_[row] || errors_[row] || !entries_[row].expression) return;
    path_.push_back({row});
    onPath_[row] = true;
  }

  /// All that the row uses was visited.
  void evaluate(std::size_t row) {
    try {
      const auto lookup = [&](const std::string& name) { return use(row, name); };
      const Entry& entry = entries_[row];
      if (entry.heightIn)
        values_[row] =
            Quantity{entry.expression->evaluateAs(lengthDimension, *entry.heightIn, lookup), lengthDimension};
      else
        values_[row] = entry.expression->evaluate(lookup);
    } catch (const Error& error) {
      errors_[row] = error.within(entries_[row].place);
    }
  }

  Quantity use(std::size_t by, const std::string& name) const {
    const auto found = indexByName_.find(name);
    if (found == indexByName_.end()) throw noSuchName(name, say("Add it, or correct the name"));
    const std::size_t row = found->second;
    if (const auto circle = circles_.find({by, row}); circle != circles_.end()) throw circle->second;
    if (const auto& value = values_[row]; value && !errors_[row]) return *value;
    if (const auto& error = errors_[row]; error && !entries_[row].expression) throw Error(*error);
    throw Error(say("it uses \"%1\", which has no value", name), "", say("Mend %1 first", entries_[row].place));
  }

  Error circle(std::size_t start) const {
    std::string chain;
    auto it = std::find_if(path_.begin(), path_.end(), [&](const Place& each) { return each.row == start; });
    for (; it != path_.end(); ++it) chain += names_[it->row] + " → ";
    return Error(say("these dimensions depend on each other in a circle: %1%2", chain, names_[start]), "",
                 say("Give one of them a value of its own"));
  }

  const std::vector<Entry>& entries_;
  const std::vector<std::string>& names_;
  const std::unordered_map<std::string, std::size_t>& indexByName_;
  std::vector<std::optional<Quantity>>& values_;
  std::vector<std::optional<Error>>& errors_;
  std::vector<Place> path_;
  std::vector<char> onPath_;
  std::map<std::pair<std::size_t, std::size_t>, Error> circles_;  ///< user and used
};

}  // namespace

DimensionTable::DimensionTable(const std::vector<DimensionRow>& rows, const std::vector<MeasuredDimension>& measured,
                               const LevelRows& levels)
    : rows_(rows.size()), levels_(rows.size() + measured.size()), values_(rows.size()), errors_(rows.size()) {
  std::vector<Entry> entries;
  const auto isMeasured = [&](const std::string& name) {
    return std::any_of(measured.begin(), measured.end(), [&](const auto& each) { return each.name == name; });
  };
  for (std::size_t row = 0; row < rows.size(); ++row) {
    const std::string& name = rows[row].name;
    names_.push_back(name);
    entries.push_back({place(row, name), &rows[row].expression});
    const std::string reason = whyNotAName(name);
    if (!reason.empty()) {
      errors_[row] = Error(reason, place(row, name), say("Choose another name"));
    } else if (isMeasured(name)) {
      errors_[row] =
          Error(say("a step measures a dimension of that name"), place(row, name), say("Rename one of the two"));
    } else if (const auto [first, isNew] = indexByName_.emplace(name, row); !isNew) {
      errors_[row] =
          Error(say("row %1 has the same name", first->second + 1), place(row, name), say("Rename one of the two"));
    }
  }
  for (const MeasuredDimension& each : measured) {
    indexByName_.emplace(each.name, names_.size());
    names_.push_back(each.name);
    entries.push_back({each.name});
    values_.push_back(each.value);
    errors_.push_back(each.why);
  }
  for (const DimensionRow& level : levels.rows) {
    const std::string where = say("level %1", level.name);
    names_.push_back(heightOfLevel(level.name));
    entries.push_back({where, &level.expression, &levels.unit});
    values_.emplace_back();
    if (const std::string reason = whyNotALevel(level.name); !reason.empty())
      errors_.emplace_back(Error(reason, where, say("Choose another name")));
    else if (!indexByName_.emplace(names_.back(), names_.size() - 1).second)
      errors_.emplace_back(Error(say("another level has the same name"), where, say("Rename one of the two")));
    else
      errors_.emplace_back();
  }
  Evaluation evaluation(entries, names_, indexByName_, values_, errors_);
  for (std::size_t row = 0; row < entries.size(); ++row)
    if (entries[row].expression) evaluation.visit(row);
}

std::optional<double> DimensionTable::height(std::size_t level) const {
  const auto& value = values_[levels_ + level];
  if (!value || errors_[levels_ + level]) return std::nullopt;
  return value->value;
}

Quantity DimensionTable::lookup(const std::string& name) const {
  const auto found = indexByName_.find(name);
  if (found == indexByName_.end()) throw noSuchName(name, say("Add it to the dimensions, or correct the name"));
  if (const auto& value = values_[found->second]; value && !errors_[found->second]) return *value;
  if (const auto& error = errors_[found->second]; error && found->second >= rows_ && found->second < levels_)
    throw Error(*error);
  if (found->second >= levels_)
    throw Error(say("it uses \"%1\", and that level has no height", name), "", say("Correct the level first"));
  throw Error(say("it uses the dimension \"%1\", which has no value", name), "", say("Correct that dimension first"));
}

}  // namespace kervo
