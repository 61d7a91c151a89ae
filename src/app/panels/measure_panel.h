// Sizes of what is selected.
#pragma once

#include <QGridLayout>
#include <map>
#include <optional>
#include <vector>

#include "app/desk.h"
#include "app/panels/meter.h"
#include "app/panels/panel.h"
#include "view/overlay.h"

namespace kervo::app {

class MeasurePanel : public Panel {
  Q_OBJECT
 public:
  explicit MeasurePanel(Desk& desk, QWidget* parent = nullptr);

 signals:
  /// The distance to be shown in the view, or none.
  void marked(const std::optional<kervo::MeasureMark>& mark);

 private:
  void showState();
  void row(const QString& name, const QString& value);
  void measureBodies();
  void sizeRows(const std::vector<Shape>& shapes);
  void askForBoxes(const std::vector<Shape>& shapes);
  void measureFaces();
  void measureEdges();
  /// Between the two parts that are selected; false if they have no distance.
  bool measureBetween();
  void massRows(const Shape& solid, double density);
  void measureGuide(const Guide& guide);
  void measureCuts();

  /// The smallest box around a body takes long for some: the worker finds it.
  struct Extent {
    Shape shape;
    std::optional<Box> box;  ///< nothing while it is being found
    bool failed = false;
  };

  /// The exact faces at which a section cuts a body.
  struct Cut {
    Shape body;
    Plane plane;
    std::optional<std::pair<double, double>> sizes;  ///< area and outline; nothing while they are being found
    bool failed = false;
  };

  Desk& desk_;
  Meter meter_;
  QGridLayout* rows_;
  int shown_ = 0;                               ///< rows
  std::vector<Cut> cuts_;                       ///< of what is selected
  std::map<const ShapeBody*, Extent> extents_;  ///< of what is selected
};

}  // namespace kervo::app
