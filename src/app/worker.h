// The thread that computes: rebuilds documents, tries steps, reads and writes. The interface thread never does.
//
// It takes the newest wanted document and the newest wanted step; older wishes are stopped. It also meshes and builds
// the search trees for picking, so the interface thread gets finished pictures (view/body_picture.h); a trial is shown
// before its trees are built.
#pragma once

#include <QObject>
#include <QString>
#include <condition_variable>
#include <deque>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <unordered_map>

#include "app/opener.h"
#include "base/deep_thread.h"
#include "base/error.h"
#include "base/progress.h"
#include "geom/measure/thinnest_wall.h"
#include "model/rebuild.h"

namespace kervo::app {

/// A document with its model and the pictures of its bodies, datums and drawings.
struct Made {
  Document document;
  std::shared_ptr<const Model> model;
  std::map<BodyId, Picture> pictures;
  std::map<BodyId, Picture> guides;
  Openings openings;
  double seconds = 0;
};

/// A step that was tried: the bodies before it, its report, and pictures of both.
struct Tried {
  Document document;  ///< with the step in it
  StepId step;
  std::shared_ptr<const Model> before;  ///< up to the step
  std::shared_ptr<const Model> after;   ///< up to and with the step
  std::map<BodyId, Picture> picturesBefore;
  std::map<BodyId, Picture> picturesAfter;
  std::map<BodyId, Picture> guidesBefore, guidesAfter;
  std::vector<Picture> pieces;  ///< of the report's pieces, in their order
  Openings openings;
  std::vector<Picture> wholePictures;                        ///< of all steps' bodies, once `complete`
  std::vector<std::pair<StepId, std::string>> laterTrouble;  ///< steps after it that fail then, and why
  std::optional<Wall> wall;                                  ///< the thinnest beside the cut, once `complete`
  bool complete = false;                                     ///< the steps after it are made as well
  double seconds = 0;

  const StepReport& report() const { return after->steps.back(); }
};

class Worker : public QObject {
  Q_OBJECT
 public:
  explicit Worker(QObject* parent = nullptr);
  /// Stops what is being done, and ends the process if that takes longer than two seconds.
  ~Worker() override;

  /// Rebuilds a document; a newer wish replaces an older one.
  void make(const Document& document);
  /// Tries one step of a document; a newer wish replaces an older one.
  void tryStep(const Document& document, const StepId& step);
  /// Sections that are seen together beside those that are on, for whatever is made or tried from now on.
  void setSectionSets(std::vector<SectionSet> sets);
  /// Forgets a wish to try.
  void dropTrial();

  /// What is to be called in the interface thread afterwards.
  using Then = std::function<void()>;
  /// Does other long work, in the order asked for. `failed` is called in the interface thread with what went wrong, or
  /// with nothing if it was stopped.
  void run(const QString& activity, std::function<Then(Progress&)> work,
           std::function<void(const std::optional<Error>&)> failed);

  /// From inside of run()'s work: makes a document, so that make() finds everything done.
  void warm(const Document& document, Progress& progress) { warmed_ = makeNow(document, progress); }

  /// … and gives its model alone.
  Model rebuilt(const Document& document, Progress& progress) { return rebuild(document, memo_, progress); }

  /// Stops what is being done.
  void stop();
  bool busy() const;

 signals:
  void made(std::shared_ptr<const kervo::app::Made> result);
  /// Comes twice: as soon as the step itself is there, and when the steps after it are made as well.
  void tried(std::shared_ptr<const kervo::app::Tried> result);
  /// The newest wish was stopped by stop(), not by a newer wish.
  void stopped();
  void progressed(double fraction, QString activity);
  void becameIdle();

 private:
  struct Job {
    enum class Kind { Make, Try, Other } kind = Kind::Other;
    Document document;
    StepId step;
    QString activity;
    std::function<Then(Progress&)> work;
    std::function<void(const std::optional<Error>&)> failed;
  };

  /// Calls it in the interface thread. It goes through a list of our own, so that who checks for races sees how the two
  /// threads hand things over; Qt only wakes the interface up.
  void post(std::function<void()> call);
  void deliver();
  void loop();
  std::optional<Job> next();
  void perform(Job& job, Progress& progress);
  std::shared_ptr<Made> makeNow(const Document& document, Progress& progress);
  std::shared_ptr<Tried> tryNow(const Job& job, Progress& progress);
  std::shared_ptr<Tried> completed(const Tried& tried, Progress& progress);
  /// Made side by side, but for those that are there already.
  std::vector<Picture> picturesFor(const std::vector<PictureOrder>& orders, Progress& progress);
  std::map<BodyId, Picture> picturesFor(const std::vector<Body>& bodies, Progress& progress, Picks picks = Picks::Now);
  std::map<BodyId, Picture> guidePictures(const Model& model, const std::map<BodyId, Picture>& bodies);
  std::vector<SectionSet> sectionSets() const;
  void openTried(Tried& tried, Progress& progress);
  void replaceRunning(Job::Kind kind);

  std::mutex postMutex_;
  std::deque<std::function<void()>> posted_;

  mutable std::mutex mutex_;
  std::condition_variable wake_;
  std::deque<Job> others_;
  std::optional<Job> make_, try_;
  std::vector<SectionSet> sectionSets_;
  std::shared_ptr<Progress> running_;
  Job::Kind runningKind_ = Job::Kind::Other;
  bool replaced_ = false;
  bool quit_ = false;
  bool over_ = false;
  std::condition_variable ended_;

  // Only the thread uses these.
  Memo memo_;
  std::unordered_map<const void*, std::weak_ptr<const BodyPicture>> pictures_;
  struct KnownDrawing {
    std::weak_ptr<const DrawingResult> drawing;
    std::weak_ptr<const BodyPicture> picture;
  };
  std::unordered_map<const DrawingResult*, KnownDrawing> drawings_;
  Opener opener_;
  std::shared_ptr<const Made> warmed_;  ///< keeps its pictures until the next document is made

  DeepThread thread_;
};

}  // namespace kervo::app
