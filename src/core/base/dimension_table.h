// Dimensions: named expressions that may be functions of each other, evaluated together.
#pragma once

#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/error.h"
#include "base/expression.h"

namespace kervo {

/// One row: a name and what it is.
struct DimensionRow {
  std::string name;
  Expression expression;
  bool operator==(const DimensionRow&) const = default;
};

/// A dimension that a step measures instead of a person typing it.
struct MeasuredDimension {
  std::string name;
  std::optional<Quantity> value = {};
  std::optional<Error> why = {};  ///< it has no value
};

/// The levels of a building as rows: names, and heights that are lengths.
struct LevelRows {
  std::vector<DimensionRow> rows;
  Unit unit = unitNamed("mm");  ///< of bare numbers
};

/// The values of a list of rows. Immutable.
class DimensionTable {
 public:
  DimensionTable() = default;
  /// Evaluates every row. A row that cannot be evaluated (cycle, unknown name, division by zero, wrong units, a name
  /// that is a unit or used twice) gets an Error that names the row; the other rows keep their values.
  /// Rows may use measured dimensions as well, and cannot be called like one.
  /// Heights of levels are values too, by names such as "Lamp room.height".
  explicit DimensionTable(const std::vector<DimensionRow>& rows, const std::vector<MeasuredDimension>& measured = {},
                          const LevelRows& levels = {});

  /// The value of row `index`, or nothing if it has an error. Those that are measured follow the rows.
  const std::optional<Quantity>& value(std::size_t index) const { return values_[index]; }
  const std::optional<Error>& error(std::size_t index) const { return errors_[index]; }

  /// The height of a level, in mm, or nothing if it has an error.
  std::optional<double> height(std::size_t level) const;
  const std::optional<Error>& heightError(std::size_t level) const { return errors_[levels_ + level]; }

  /// The value of a name. Throws an Error if there is no such row, or the row has an error.
  Quantity lookup(const std::string& name) const;

 private:
  std::size_t rows_ = 0, levels_ = 0;  ///< how many rows; where levels begin
  std::vector<std::string> names_;
  std::vector<std::optional<Quantity>> values_;
  std::vector<std::optional<Error>> errors_;
  std::unordered_map<std::string, std::size_t> indexByName_;
};

}  // namespace kervo
