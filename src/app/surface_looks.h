// What is shown on surfaces: stripes, how they bend and lean, how thick bodies are, gaps and nets. A look only: nothing
// in the document changes.
#pragma once

#include <QObject>
#include <QString>
#include <map>
#include <memory>
#include <optional>
#include <set>

#include "app/worker.h"
#include "geom/display/surface_values.h"
#include "view/overlay.h"

namespace kervo::app {

enum class SurfaceShow { Nothing, Stripes, Curvature, Draft, Thickness, Gaps, Net };

class SurfaceLooks : public QObject {
  Q_OBJECT
 public:
  explicit SurfaceLooks(Worker& worker);

  void show(SurfaceShow what);
  SurfaceShow shown() const { return shown_; }
  /// Along which axis of the world the draft is measured: 0, 1 or 2.
  void setDraftAxis(int axis);
  int draftAxis() const { return axis_; }

  /// Puts it into a scene, as far as it is known. What is not is found in the worker, and changed() told then.
  void addTo(Scene& scene);
  /// How wide gaps are, where they are.
  const std::vector<MeasureMark>& marks() const { return found_.marks; }

  /// What there is to be told in words, with a place where it is.
  struct Row {
    QString name, value;
    std::optional<Point> place = {};
  };
  const std::vector<Row>& rows() const { return found_.rows; }
  /// Whether something is still being found.
  bool finding() const { return finding_; }

 signals:
  void changed();
  void failed(const kervo::Error& error);

 private:
  /// Of one body.
  struct Known {
    std::weak_ptr<const BodyPicture> picture;
    std::vector<float> values;
    double low = 0, high = 0;
    Point lowAt, highAt;
    bool any = false;
    std::shared_ptr<const std::vector<float>> bands;
    std::vector<Polyline> lines;
    std::vector<MeasureMark> marks;
    int open = 0;
    double widest = -1;
    Point widestAt;
  };
  using Bodies = std::map<const BodyPicture*, std::shared_ptr<const Known>>;
  struct Found {
    Bodies bodies;
    SurfacePaint paint;
    std::vector<MeasureMark> marks;
    std::vector<Row> rows;
  };

  static std::shared_ptr<Known> of(const std::shared_ptr<const BodyPicture>& picture, SurfaceShow what, int axis);
  static Found all(const std::vector<std::shared_ptr<const BodyPicture>>& pictures, const Bodies& known,
                   SurfaceShow what, int axis, Progress& progress);
  static void tell(Found& found, SurfaceShow what);
  void forget();
  void find();

  Worker& worker_;
  SurfaceShow shown_ = SurfaceShow::Nothing;
  int axis_ = 2;
  std::vector<std::shared_ptr<const BodyPicture>> wanted_;  ///< in the scenes since the last search
  bool asked_ = false;
  bool finding_ = false;
  int turn_ = 0;  ///< counts changes of what is shown: what was found for an older one is dropped
  std::set<const BodyPicture*> refused_;
  Found found_;
};

}  // namespace kervo::app
