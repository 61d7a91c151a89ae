#include "app/worker.h"

#include <unistd.h>

#include <chrono>
#include <cstdio>

#include <QMetaObject>
#include <chrono>

#include "app/texts.h"
#include "base/parallel.h"
#include "model/section_cut.h"
#include "view/guide_picture.h"

namespace kervo::app {

namespace {

double secondsSince(std::chrono::steady_clock::time_point start) {
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

/// The steps up to one, with or without it.
Document upTo(const Document& document, const StepId& step, bool with) {
  Document result = document;
  // A section sees all bodies and changes none: it is tried as if it were the last step.
  if (const auto section = document.find(step); section && section->kind().makes() == Makes::Section) {
    std::erase_if(result.seen.sections, [&](const SectionStep& each) { return each.step->id() == step; });
    if (with) result.made.steps.push_back(section);
    return result;
  }
  for (std::size_t i = 0; i < result.made.steps.size(); ++i)
    if (result.made.steps[i]->id() == step) {
      result.made.steps.resize(with ? i + 1 : i);
      break;
    }
  return result;
}

constexpr std::chrono::seconds longestEnd{2};

}  // namespace

Worker::Worker(QObject* parent)
    : QObject(parent), thread_([this] {
        loop();
        const std::lock_guard lock(mutex_);
        over_ = true;
        ended_.notify_all();
      }) {}

Worker::~Worker() {
  {
    const std::lock_guard lock(mutex_);
    quit_ = true;
    if (running_) running_->requestStop();
  }
  wake_.notify_all();
  std::unique_lock lock(mutex_);
  if (ended_.wait_for(lock, longestEnd, [this] { return over_; })) {
    lock.unlock();
    thread_.join();
    return;
  }
  // The geometry kernel cannot be stopped everywhere. What it is at is wanted by nobody: the process ends without it.
  std::fflush(nullptr);
  ::_exit(0);
}

void Worker::make(const Document& document) {
  const std::lock_guard lock(mutex_);
  make_ = Job{Job::Kind::Make, document, {}, tr("Rebuilding"), {}, {}};
  replaceRunning(Job::Kind::Make);
  replaceRunning(Job::Kind::Try);
  wake_.notify_all();
}

void Worker::tryStep(const Document& document, const StepId& step) {
  const std::lock_guard lock(mutex_);
  try_ = Job{Job::Kind::Try, document, step, tr("Trying"), {}, {}};
  replaceRunning(Job::Kind::Try);
  wake_.notify_all();
}

void Worker::setSectionSets(std::vector<SectionSet> sets) {
  const std::lock_guard lock(mutex_);
  sectionSets_ = std::move(sets);
}

std::vector<SectionSet> Worker::sectionSets() const {
  const std::lock_guard lock(mutex_);
  return sectionSets_;
}

void Worker::dropTrial() {
  const std::lock_guard lock(mutex_);
  try_.reset();
  replaceRunning(Job::Kind::Try);
}

void Worker::replaceRunning(Job::Kind kind) {
  if (!running_ || runningKind_ != kind) return;
  replaced_ = true;
  running_->requestStop();
}

void Worker::run(const QString& activity, std::function<Then(Progress&)> work,
                 std::function<void(const std::optional<Error>&)> failed) {
  const std::lock_guard lock(mutex_);
  others_.push_back({Job::Kind::Other, {}, {}, activity, std::move(work), std::move(failed)});
  wake_.notify_all();
}

void Worker::stop() {
  const std::lock_guard lock(mutex_);
  if (running_) running_->requestStop();
}

bool Worker::busy() const {
  const std::lock_guard lock(mutex_);
  return running_ || make_ || try_ || !others_.empty();
}

std::optional<Worker::Job> Worker::next() {
  const auto take = [](std::optional<Job>& from) { return std::exchange(from, std::nullopt); };
  if (!others_.empty()) {
    Job job = std::move(others_.front());
    others_.pop_front();
    return job;
  }
  return make_ ? take(make_) : take(try_);
}

void Worker::post(std::function<void()> call) {
  {
    const std::lock_guard lock(postMutex_);
    posted_.push_back(std::move(call));
  }
  // NOLINTNEXTLINE(clang-analyzer-cplusplus.NewDeleteLeaks): Qt frees what it queues.
  QMetaObject::invokeMethod(this, &Worker::deliver, Qt::QueuedConnection);
}

/// One for each post(): the interface has a turn in between.
void Worker::deliver() {
  std::function<void()> call;
  {
    const std::lock_guard lock(postMutex_);
    if (posted_.empty()) return;
    call = std::move(posted_.front());
    posted_.pop_front();
  }
  call();
}

void Worker::loop() {
  while (true) {
    Job job;
    std::shared_ptr<Progress> progress;
    {
      std::unique_lock lock(mutex_);
      wake_.wait(lock, [&] { return quit_ || make_ || try_ || !others_.empty(); });
      if (quit_) return;
      std::optional<Job> wanted = next();
      if (!wanted) continue;
      job = std::move(*wanted);
      const QString activity = job.activity;
      progress = std::make_shared<Progress>([this, activity](double fraction, const std::string& what) {
        const QString text = what.empty() ? activity : activity + ": " + QString::fromStdString(what);
        post([this, fraction, text] { emit progressed(fraction, text); });
      });
      running_ = progress;
      runningKind_ = job.kind;
      replaced_ = false;
    }
    perform(job, *progress);
    bool idle = false;
    {
      const std::lock_guard lock(mutex_);
      running_.reset();
      idle = !make_ && !try_ && others_.empty();
    }
    if (idle) post([this] { emit becameIdle(); });
  }
}

void Worker::perform(Job& job, Progress& progress) {
  const auto later = [this](std::function<void()> call) { post(std::move(call)); };
  const auto failed = [&](std::optional<Error> error) {
    if (job.failed) return later([report = job.failed, error = std::move(error)] { report(error); });
    bool replaced = false;
    {
      const std::lock_guard lock(mutex_);
      replaced = replaced_;
    }
    if (!replaced) later([this] { emit stopped(); });
  };
  try {
    if (job.kind == Job::Kind::Make) {
      std::shared_ptr<const Made> result = makeNow(job.document, progress);
      warmed_.reset();
      later([this, result] { emit made(result); });
    } else if (job.kind == Job::Kind::Try) {
      const std::shared_ptr<const Tried> first = tryNow(job, progress);
      later([this, first] { emit tried(first); });
      const std::shared_ptr<const Tried> whole = completed(*first, progress);
      later([this, whole] { emit tried(whole); });
    } else {
      later(job.work(progress));
    }
  } catch (const Stopped&) {
    failed(std::nullopt);
  } catch (const Error& error) {
    failed(error);
  } catch (const std::bad_alloc&) {
    failed(errorOf(tr("there is not enough memory for this"), job.activity,
                   tr("The document is as it was. Close other programs, or work on fewer bodies")));
  } catch (const std::exception& error) {
    failed(errorOf(tr("this did not work: %1").arg(error.what()), job.activity));
  }
}

std::vector<Picture> Worker::picturesFor(const std::vector<PictureOrder>& orders, Progress& progress) {
  std::vector<Picture> result(orders.size());
  std::vector<PictureOrder> missing;
  std::map<const void*, std::size_t> numberOf;  // of those that are missing
  for (std::size_t i = 0; i < orders.size(); ++i) {
    const void* body = orders[i].form.identity();
    if (const auto known = pictures_.find(body); known != pictures_.end()) result[i] = known->second.lock();
    if (!result[i] && numberOf.emplace(body, missing.size()).second) missing.push_back(orders[i]);
  }
  const std::vector<Picture> made = picturesOf(missing, progress);
  for (std::size_t i = 0; i < orders.size(); ++i) {
    const void* body = orders[i].form.identity();
    if (!result[i]) pictures_[body] = result[i] = made[numberOf.at(body)];
    if (orders[i].picks == Picks::Now) result[i]->prepareForPicks();
  }
  return result;
}

std::map<BodyId, Picture> Worker::picturesFor(const std::vector<Body>& bodies, Progress& progress, Picks picks) {
  std::vector<PictureOrder> orders;
  orders.reserve(bodies.size());
  for (const Body& body : bodies) orders.push_back({body.form, picks});
  const std::vector<Picture> pictures = picturesFor(orders, progress);
  std::map<BodyId, Picture> result;
  for (std::size_t i = 0; i < bodies.size(); ++i) result[bodies[i].id] = pictures[i];
  return result;
}

/// Datums are as large as what lies around them.
std::map<BodyId, Picture> Worker::guidePictures(const Model& model, const std::map<BodyId, Picture>& bodies) {
  std::map<BodyId, Picture> result;
  Box around;
  for (const auto& [id, picture] : bodies) around.add(picture->mesh.box);
  for (const Guide& guide : model.guides) {
    const auto* drawing = std::get_if<Drawn>(&guide.form);
    if (!drawing) continue;
    // Another drawing may lie where one was that is gone.
    KnownDrawing& known = drawings_[drawing->get()];
    Picture picture = known.drawing.lock() == *drawing ? known.picture.lock() : nullptr;
    if (!picture) known = {*drawing, picture = pictureOf((*drawing)->lines)};
    around.add(picture->mesh.box);
    result[guide.id] = std::move(picture);
  }
  if (around.empty()) around = {{-50, -50, -50}, {50, 50, 50}};
  for (const Guide& guide : model.guides)
    if (const Datum* datum = guide.datum()) result[guide.id] = pictureOf(*datum, around);
  return result;
}

std::shared_ptr<Made> Worker::makeNow(const Document& document, Progress& progress) {
  const auto start = std::chrono::steady_clock::now();
  auto result = std::make_shared<Made>();
  result->document = document;
  result->model = std::make_shared<const Model>(rebuild(document, memo_, progress));
  progress.enter(0.9, 1, tr("shading").toStdString());
  result->pictures = picturesFor(result->model->bodies, progress);
  result->guides = guidePictures(*result->model, result->pictures);
  opener_.forgetUnused();
  std::vector<Openable> openable;
  for (const Body& body : result->model->bodies)
    if (body.inSight()) openable.push_back({body.id, body.layer, result->pictures.at(body.id)});
  result->openings = opener_.open(openable, result->model->sections, sectionSets(), true, progress);
  std::erase_if(pictures_, [](const auto& entry) { return entry.second.expired(); });
  std::erase_if(drawings_, [](const auto& entry) { return entry.second.picture.expired(); });
  result->seconds = secondsSince(start);
  return result;
}

void Worker::openTried(Tried& tried, Progress& progress) {
  std::vector<Openable> openable;
  const auto layerOf = [&](const BodyId& id) {
    const ShownAs* look = tried.before->lookOf(id);
    return look ? look->layer : std::string();
  };
  for (const auto* pictures : {&tried.picturesBefore, &tried.picturesAfter})
    for (const auto& [id, picture] : *pictures) openable.push_back({id, layerOf(id), picture});
  if (const auto& made = tried.report().result)
    for (std::size_t i = 0; i < made->pieces.size(); ++i)
      openable.push_back({made->pieces[i].from, layerOf(made->pieces[i].from), tried.pieces[i]});
  std::vector<StepReport> sections = tried.after->sections;
  // One on the Bench is the last step of what is tried.
  if (tried.report().result && tried.report().result->section) sections.push_back(tried.report());
  tried.openings = opener_.open(openable, sections, sectionSets(), false, progress);
}

std::shared_ptr<Tried> Worker::tryNow(const Job& job, Progress& progress) {
  const auto start = std::chrono::steady_clock::now();
  auto result = std::make_shared<Tried>();
  result->document = job.document;
  result->step = job.step;
  result->before = std::make_shared<const Model>(rebuild(upTo(job.document, job.step, false), memo_, progress));
  result->after = std::make_shared<const Model>(rebuild(upTo(job.document, job.step, true), memo_, progress));
  result->picturesBefore = picturesFor(result->before->bodies, progress);
  // The pieces first: they know what they were cut from.
  if (const auto& made = result->report().result) {
    std::vector<PictureOrder> orders;
    for (const Piece& piece : made->pieces) {
      const Body* from = result->before->find(piece.from);
      orders.push_back({piece.shape, Picks::Later, from ? from->form.roughBox().diagonal() : 0});
    }
    result->pieces = picturesFor(orders, progress);
  }
  result->picturesAfter = picturesFor(result->after->bodies, progress, Picks::Later);
  openTried(*result, progress);
  result->guidesBefore = guidePictures(*result->before, result->picturesBefore);
  result->guidesAfter = guidePictures(*result->after, result->picturesAfter);
  result->seconds = secondsSince(start);
  return result;
}

namespace {

/// The thinnest wall beside the faces that the cut made, over all bodies that it touched.
void measureWall(Tried& tried, Progress& progress) {
  const auto& result = tried.report().result;
  const auto step = tried.document.find(tried.step);
  // A window that is moved leaves walls beside it as one that is cut does.
  const bool moves = step && !step->kind().table().ofOpening.empty();
  if (!result || !(result->audit.cuts || moves)) return;
  std::map<BodyId, std::vector<Shape>> after;
  for (const Piece& piece : result->pieces)
    if (piece.kept) after[piece.from].push_back(piece.shape);
  progress.enter(0.9, 1, Worker::tr("measuring the walls").toStdString());
  double thinnest = Box::infinity;
  for (const auto& [from, shapes] : after) {
    const Body* before = tried.before->find(from);
    const auto isMesh = [](const Shape& shape) { return shape.mesh() != nullptr; };
    // Walls are measured between exact faces.
    if (!before || before->form.mesh() || std::any_of(shapes.begin(), shapes.end(), isMesh)) continue;
    const double limit = std::min(thinnest, before->form.roughBox().diagonal());
    if (const auto wall =
            thinnestWall(before->shape(), shapes, limit, progress, moves ? NewFaces::AlsoMoved : NewFaces::Added)) {
      tried.wall = wall;
      thinnest = wall->thickness;
    }
  }
}

}  // namespace

std::shared_ptr<Tried> Worker::completed(const Tried& tried, Progress& progress) {
  // Making the step then finds everything done.
  auto result = std::make_shared<Tried>(tried);
  std::vector<Picture> pictures = result->pieces;
  for (const auto& [body, picture] : result->picturesAfter) pictures.push_back(picture);
  inParallel(pictures.size(), [&](std::size_t i) { pictures[i]->prepareForPicks(); });
  const Model whole = rebuild(tried.document.made, memo_, progress);
  for (std::size_t i = result->after->steps.size(); i < whole.steps.size(); ++i)
    if (const auto& cause = whole.steps[i].cause)
      result->laterTrouble.emplace_back(whole.steps[i].id, cause->happened());
  for (const auto& [body, picture] : picturesFor(whole.bodies, progress)) result->wholePictures.push_back(picture);
  measureWall(*result, progress);
  result->complete = true;
  return result;
}

}  // namespace kervo::app
