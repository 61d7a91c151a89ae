// Sizes of what is selected.
#pragma once

#include <QGridLayout>
#include <QToolButton>
#include <functional>
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
  /// A number is to stay in the view, and may be named: what it is, as the step that measures has it.
  void keepWanted(const std::string& what);

 private:
  void showState();
  /// `what`: how the step that measures calls it; empty if it cannot be kept.
  void row(const QString& name, const QString& value, const char* what = "");
  void link(const QString& text, const std::function<void()>& act);
  /// All rows as lines of text.
  void copy();
  /// Along which axes the sizes are taken.
  void frameRow();
  void wallRow(const Shape& solid);
  void measureBodies();
  /// `meshes`: a box around those that are measured too.
  void sizeRows(const std::vector<Shape>& shapes, const Box& meshes);
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
    CutWall wall;
    std::optional<Point> place;  ///< where it was clicked
    struct Sizes {
      double area = 0, outline = 0;
      std::optional<Wall> thickness = {};  ///< at that place
    };
    std::optional<Sizes> sizes = {};  ///< nothing while they are being found
    bool failed = false;

    bool sameAs(const Cut& other) const {
      return &body.body() == &other.body.body() && wall.plane == other.wall.plane && place == other.place;
    }
  };
  static Cut::Sizes measured(const Cut& cut, Progress& progress);
  void showCuts(double area, double outline, bool all, bool failed);

  Desk& desk_;
  Meter meter_;
  QGridLayout* rows_;
  int shown_ = 0;  ///< rows
  QToolButton* copy_;
  std::vector<std::pair<QString, QString>> texts_;  ///< of the rows
  std::optional<std::pair<BodyId, Plane>> frame_;   ///< a plane's axes; nothing: those of the world
  std::vector<Cut> cuts_;                           ///< of what is selected
  std::map<const ShapeBody*, Extent> extents_;      ///< of what is selected
};

}  // namespace kervo::app
