// Sizes of what is selected.
#pragma once

#include <QGridLayout>
#include <map>
#include <optional>
#include <vector>

#include "app/desk.h"
#include "app/panels/panel.h"

namespace kervo::app {

class MeasurePanel : public Panel {
  Q_OBJECT
 public:
  explicit MeasurePanel(Desk& desk, QWidget* parent = nullptr);

 private:
  void showState();
  void row(const QString& name, const QString& value);
  void measureBodies();
  void sizeRows(const std::vector<Shape>& shapes);
  void askForBoxes(const std::vector<Shape>& shapes);
  void measureFaces();
  void measureEdges();
  void measureGuide(const Guide& guide);

  /// The smallest box around a body takes long for some: the worker finds it.
  struct Extent {
    Shape shape;
    std::optional<Box> box;  ///< nothing while it is being found
    bool failed = false;
  };

  Desk& desk_;
  QGridLayout* rows_;
  std::map<const ShapeBody*, Extent> extents_;  ///< of what is selected
};

}  // namespace kervo::app
