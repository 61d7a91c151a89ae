// Measures that take long: found by the worker, kept while they are of the same parts.
#pragma once

#include <optional>

#include "app/desk.h"
#include "geom/measure/between.h"
#include "geom/measure/mass_properties.h"
#include "geom/measure/thinnest_wall.h"

namespace kervo::app {

class Meter : public QObject {
  Q_OBJECT
 public:
  explicit Meter(Desk& desk, QObject* parent = nullptr) : QObject(parent), desk_(desk) {}

  /// What is known of a measure: nothing at all while it is being found.
  template <class Value>
  struct Answer {
    std::optional<Value> value = {};
    std::optional<Error> error = {};
    bool pending() const { return !value && !error; }
  };

  /// Between two parts; asks for it if it is not known.
  const Answer<Between>& between(const MeasuredPart& a, const MeasuredPart& b);
  /// Whether it is known, or being found.
  bool knows(const MeasuredPart& a, const MeasuredPart& b) const;
  const Answer<MassProperties>& mass(const Shape& solid);
  /// The thinnest wall of a solid; of nothing if it has none.
  const Answer<std::optional<Wall>>& wall(const Shape& solid);
  bool knowsWall(const Shape& solid) const;

 signals:
  void found();

 private:
  /// The parts are kept, so that no others can have their places in memory.
  struct Pair {
    MeasuredPart a, b;
    Answer<Between> answer = {};
  };
  struct Solid {
    Shape solid;
    Answer<MassProperties> answer = {};
  };
  template <class Value, class Settle>
  void ask(const QString& activity, std::function<Value(Progress&)> measure, const Settle& settle);

  Desk& desk_;
  std::optional<Pair> pair_;
  std::optional<Solid> solid_;
  struct Walled {
    Shape solid;
    Answer<std::optional<Wall>> answer = {};
  };
  std::optional<Walled> walled_;
};

/// The part of a body that a pick takes, of what is shown; nothing for what has no shape.
std::optional<MeasuredPart> measuredPart(const Pick& pick, const Made& made);

}  // namespace kervo::app
