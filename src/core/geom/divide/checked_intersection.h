// One intersection of several shapes, and the checks that its parts must pass. What boolean.cpp and unite.cpp are built
// on.
//
// How a result is checked, and why each check is there:
// - solids and faces valid, closed: the kernel sometimes says "done" for a body that is neither;
// - volumes in balance, for the stock and for every cutter: a lost or doubled region shows here;
// - points on the faces of what lies outside must not lie inside a cutter, nor points on the rest of a cutter inside
//   the stock: an intersection that the kernel misses altogether (a torus against a tangent cylinder) balances, and
//   shows only here;
// - edges must be tight: where the kernel fits an intersection curve badly it widens the edge's tolerance, and the
// volumes
//   on both sides are wrong by the same amount, so that they still balance.
//
// What does not pass is tried again: with the bodies in reversed order, with round faces as surfaces of revolution
// (trial_form.h), with a tolerance of 1e-3, then with the cutters moved by 1.7e-5 and 1.7e-4 mm (if that changes no
// volume by more than 1e-6). An edge that is not tight is found again point by point (refined_curves.h). Then there is
// an Error; after the first failure it looks for flaws that the bodies came with, and names the place.
#pragma once

#include <BOPAlgo_Builder.hxx>
#include <BOPAlgo_PaveFiller.hxx>
#include <IntTools_Context.hxx>
#include <TopoDS_Compound.hxx>
#include <gp_Pnt.hxx>
#include <optional>
#include <string>
#include <vector>

#include "geom/kernel/call.h"
#include "geom/kernel/shape_body.h"

namespace kervo {

/// How an intersection is tried.
struct Attempt {
  double fuzzy;  ///< points closer than this count as one, mm
  double move;   ///< the cutters are moved by this, mm
  /// Whether the arguments are handed over last first. Changes nothing but the kernel's numerics, which differ enough
  /// to mend badly fitted curves.
  enum class Order { AsGiven, Reversed };
  Order order = Order::AsGiven;
  /// What surfaces the arguments have (TrialForm). Changes no point of them.
  enum class Form { AsGiven, Revolved };
  Form form = Form::AsGiven;

  bool isPlain() const { return fuzzy == 0 && move == 0 && order == Order::AsGiven && form == Form::AsGiven; }
  /// What was done to get a result; empty for the plain attempt.
  std::string remedy() const;
};

/// What an attempt found wrong; caught by firstSound().
struct Unsound {
  std::string reason = {};
  bool nearlyTouching = false;  ///< bodies run along each other, so that a curve was not found closely enough
};

std::vector<Attempt> attemptsInOrder();
/// Throws an Error that names the place if an argument has faces that are not valid, or edges that join no two faces,
/// where another argument comes near: no attempt helps then.
void throwIfFlawed(const std::string& verb, const std::vector<Shape>& arguments, Progress& progress);
/// … if an argument cuts itself there.
void throwIfCrossing(const std::string& verb, const std::vector<Shape>& arguments, Progress& progress);
[[noreturn]] void throwNothingSound(const std::string& verb, const Unsound& first);

/// Runs `work` with one attempt after another until one passes. `arguments`: all that it works on. The first failure
/// makes it look for flaws in them, the third for crossings, so that what nothing can help is refused early.
template <class Work>
auto firstSound(const std::string& verb, const std::vector<Shape>& arguments, Progress& progress, Work&& work)
    -> decltype(work(Attempt())) {
  Unsound first;
  int failures = 0;
  for (const Attempt& attempt : attemptsInOrder()) {
    try {
      return kernelCall(verb, [&] { return work(attempt); });
    } catch (const Unsound& unsound) {
      progress.throwIfStopped();
      if (first.reason.empty()) first = unsound;
    } catch (const Error& error) {
      progress.throwIfStopped();
      if (first.reason.empty()) first = {error.happened()};
    }
    ++failures;
    if (failures == 1) throwIfFlawed(verb, arguments, progress);
    if (failures == 3) throwIfCrossing(verb, arguments, progress);
  }
  throwNothingSound(verb, first);
}

/// The shapes, those that are one and the same in the kernel's eyes copied: it drops an argument that comes twice, and
/// then refuses to intersect the other with nothing.
std::vector<Shape> withoutTwins(std::vector<Shape> shapes);
/// The shape moved by a vector of this length in a direction parallel to nothing in particular.
Shape nudged(const Shape& shape, double by);
std::vector<TopoDS_Shape> solidsOf(const Shape& shape);
TopoDS_Compound compoundOf(const std::vector<TopoDS_Shape>& shapes);
/// Faces that are connected by edges, as shells.
std::vector<TopoDS_Shape> shellsOf(const std::vector<TopoDS_Shape>& faces);

/// The largest tolerance of an edge, in mm.
double loosestEdge(const TopoDS_Shape& shape);

/// The kernel's builder, which corrects the tolerances of new faces only, since no new edge lies on any other, and not
/// of those that are proven sound as they are.
class PartsBuilder : public BOPAlgo_Builder {
 public:
  bool isProven(const TopoDS_Shape& face) const { return proven_.contains(face); }

 protected:
  void PostTreat(const Message_ProgressRange& range) override;

 private:
  ShapeMap<bool> proven_;
};

/// All arguments intersected with each other once; parts are looked up in it. The arguments must outlive it.
class Intersection {
 public:
  /// Throws Unsound if the kernel gives up, Stopped on request.
  Intersection(const std::vector<Shape>& arguments, const Attempt& attempt, Progress& progress);

  const BOPAlgo_PaveFiller& filler() const { return filler_; }
  /// The largest tolerance that an edge of a result may have, in mm.
  double allowedEdgeTolerance() const { return allowedEdgeTolerance_; }
  /// The parts that a solid or face was divided into; itself if it was not.
  std::vector<TopoDS_Shape> parts(const TopoDS_Shape& original) const { return parts(builder_, original); }
  static std::vector<TopoDS_Shape> parts(const BOPAlgo_Builder& builder, const TopoDS_Shape& original);

  /// Every part of every argument's faces with its origins. Where faces coincide, the first argument's name stands.
  FaceTable faceTable() const;
  static FaceTable faceTable(const BOPAlgo_Builder& builder, const std::vector<Shape>& arguments, bool mergeNames);

 private:
  const std::vector<Shape>& arguments_;
  BOPAlgo_PaveFiller filler_;
  PartsBuilder builder_;
  double allowedEdgeTolerance_ = 0;
};

/// Classifies points against solids; the kernel's classifiers are kept for the next point.
class Sides {
 public:
  Sides() : context_(new IntTools_Context) {}

  /// About `most` points on a part: on as many of its faces, or several on each if it has fewer. Two round bodies have
  /// a face each, and can meet anywhere on it.
  std::vector<gp_Pnt> pointsOn(const TopoDS_Shape& part, int most = askedPerPart);
  std::optional<gp_Pnt> pointOn(const TopoDS_Face& face);
  /// A point given in the coordinates of the face's surface lies within its outlines, not on them.
  bool isInFace(const gp_Pnt2d& point, const TopoDS_Face& face);
  /// True if one of the points lies inside a solid of the shape, clear of its boundary.
  bool anyInside(const std::vector<gp_Pnt>& points, const Shape& shape);
  TopAbs_State stateOf(const gp_Pnt& point, const TopoDS_Shape& solid);

 private:
  void spreadOver(const TopoDS_Face& face, int count, std::vector<gp_Pnt>& points);

  static constexpr int askedPerPart = 8;
  Handle(IntTools_Context) context_;
};

void measureAll(FaceTable& table, Progress& progress);
/// Marks the faces in the table that the arguments already had as sound or flawed: what they came with counts against
/// no result.
void markGiven(FaceTable& table, const std::vector<Shape>& arguments, Progress& progress);
/// True if `whole` and `sum` agree to tolerance::balance. `area`: of the whole, in mm².
bool balances(double whole, double sum, double area);
/// Throws Unsound unless they do.
void requireBalance(double whole, double sum, double area, const std::string& of);
/// Throws Unsound if the attempt's move may change a volume by more than tolerance::balance of `volume`: by the move
/// times the area of the faces between parts.
void requireSmallEffect(const Attempt& attempt, const std::vector<TopoDS_Shape>& parts, const FaceTable& table,
                        double volume);
/// Throws Unsound if an edge of a part is less exact than that.
void requireTightEdges(const std::vector<TopoDS_Shape>& parts, double allowedTolerance);
/// Checks the faces of `parts` and marks them in the table, so that both sides of a cut check each face once.
void requireSoundFaces(const std::vector<TopoDS_Shape>& parts, FaceTable& table, Progress& progress);
/// One shape of all parts; throws Unsound if it is not sound. Empty for no parts.
Shape soundShape(const std::vector<TopoDS_Shape>& parts, const FaceTable& table, Progress& progress);

}  // namespace kervo
