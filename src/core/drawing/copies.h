// Curves made from others of a drawing, which follow them: beside them, mirrored, in rows and in rings.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/quantity.h"
#include "drawing/drawing.h"
#include "drawing/plane_curve.h"

namespace kervo {

class CopyKind {
 public:
  struct Number {
    const char* key;   ///< in files
    const char* name;  ///< for people, to be shown through say()
    Dimensionality dimension;
    const char* first;  ///< the expression to begin with
  };
  /// What copies are made about.
  enum class About { Nothing, Point, Line };
  struct Way {
    const char* key;
    const char* name;  ///< for people, to be shown through say()
  };
  struct Table {
    const char* name;
    const char* label;  ///< for people, to be shown through say()
    const char* help;
    std::vector<Number> numbers = {};
    About about = About::Nothing;
    std::vector<Way> ways = {};
  };
  explicit CopyKind(Table table) : table_(std::move(table)) {}
  CopyKind(const CopyKind&) = delete;
  CopyKind& operator=(const CopyKind&) = delete;
  virtual ~CopyKind() = default;

  const char* name() const { return table_.name; }  ///< in files
  const char* label() const { return table_.label; }
  const char* help() const { return table_.help; }
  const std::vector<Number>& numbers() const { return table_.numbers; }
  About about() const { return table_.about; }
  /// The first is the one to begin with.
  const std::vector<Way>& ways() const { return table_.ways; }

  /// What the copies are made about: a point, or two points of a line.
  struct Place {
    PlanePoint from, to;
  };
  /// The copies, without those curves themselves. Throws Error for numbers that make none.
  virtual std::vector<PlanarCurve> made(const DrawnCopies& copies, const std::vector<PlanarCurve>& of,
                                        const Place& about, const std::vector<double>& numbers) const = 0;

 private:
  Table table_;
};

/// offset (distance; ways out, in, both, each also with sharp corners), row (count, distance, angle), ring (count,
/// whole angle; about a point), mirror (about a line). Copies in a row and a ring are called ID:2:CURVE and so on, the
/// curve itself is the first; mirrored ones ID:CURVE.
const std::vector<const CopyKind*>& copyKinds();
/// The kind of that name, or null.
const CopyKind* findCopyKind(const std::string& name);

/// More copies than this are refused.
inline constexpr int mostCopies = 5000;

}  // namespace kervo
