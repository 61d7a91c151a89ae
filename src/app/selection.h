// What is selected: parts of bodies, datums and drawings picked in the view, or a step of the Cut list.
#pragma once

#include <QObject>
#include <optional>
#include <vector>

#include "app/worker.h"
#include "view/body_picture.h"
#include "view/cut_faces.h"

namespace kervo::app {

class Selection : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;

  const std::vector<Pick>& picks() const { return picks_; }
  const StepId& step() const { return step_; }
  bool empty() const { return picks_.empty() && step_.empty(); }

  void set(std::vector<Pick> picks);
  void add(const Pick& pick);      ///< or removes it if it is selected already
  void setStep(const StepId& id);  ///< instead of picks
  void clear();
  /// Drops what is no longer there or has changed.
  void keepOnly(const Made& before, const Made& now);

  std::vector<BodyId> bodies() const;  ///< whole bodies, and those of picked parts, each once
  std::vector<BodyId> guides() const;  ///< datums and drawings
  std::size_t count(Pick::Kind kind) const;

 signals:
  void changed();

 private:
  std::vector<Pick> picks_;
  StepId step_;
};

/// Planes and axes of the world as they stand in the view while one can be picked: what they are called there, and
/// which one a pick is of.
BodyId worldId(const std::string& name);
std::optional<std::string> worldPlaneOf(const BodyId& id);
/// … and axes: x, y and z.
std::optional<std::string> worldAxisOf(const BodyId& id);

/// The references to picked parts, as steps store them. Nothing for a pick of something else.
std::optional<FaceReference> faceReference(const Pick& pick, const std::map<BodyId, Picture>& pictures);
std::optional<EdgeReference> edgeReference(const Pick& pick, const std::map<BodyId, Picture>& pictures);
std::optional<PointReference> pointReference(const Pick& pick, const std::map<BodyId, Picture>& pictures);
/// The middle of the face of that name in the body, in the coordinates of a plane; nothing if it is not there.
std::optional<PlanePoint> middleOf(const FaceReference& face, const std::map<BodyId, Picture>& pictures,
                                   const Plane& plane);
/// "top of Clamp · plane · 27.1 cm²": the name and key size of what a pick takes.
QString describe(const Pick& pick, const Model& model, const std::map<BodyId, Picture>& pictures,
                 const std::string& unit);

/// How many of what: "18 bodies", "3 faces, 1 edge".
QString countText(const std::vector<Pick>& picks);

/// Sizes for people, in a length unit: "12.5 mm", "3.4 cm²", "196.7 cm³".
/// Coordinates: "12.5, 0, -3".
QString placeText(Point place, const std::string& unit);
/// Of a picked cut face: the report of the section, and its wall; nothing if that is not there any more.
std::optional<std::pair<StepId, CutWall>> cutWallOf(const Pick& pick, const Model& model);

QString lengthText(double millimetres, const std::string& unit);
QString areaText(double squareMillimetres);
/// "48.00 mm", "30.00 deg", "2.00"; areas and volumes in that unit's power.
QString quantityText(const Quantity& quantity, const std::string& unit);
QString volumeText(double cubicMillimetres);
QString massText(double kilograms);

}  // namespace kervo::app
