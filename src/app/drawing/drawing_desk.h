// The drawing on the Bench: what is drawn and selected, what the mouse draws next. Solved here at once, which takes
// milliseconds; the trial follows.
#pragma once

#include <QObject>
#include <functional>
#include <optional>
#include <vector>

#include "app/drawing/drawing_words.h"
#include "app/session.h"
#include "app/trial.h"
#include "drawing/constraint_kind.h"
#include "drawing/copies.h"
#include "drawing/drawn_by_hand.h"
#include "drawing/solve.h"
#include "fields/drawing_field.h"
#include "view/tools/trim_tool.h"

namespace kervo::app {

/// Where everything was last.
Solution standing(const Drawing& drawing);

class DrawingDesk : public QObject {
  Q_OBJECT
 public:
  DrawingDesk(Session& session, Trial& trial);

  /// Whether the step on the Bench has a drawing.
  bool open() const { return field_ && trial_.active(); }
  /// Of an open one.
  const DrawingField& field() const { return *field_; }
  const Drawing& drawing() const;
  /// The drawing as it stands on its plane; nothing while its plane is not known.
  std::optional<EditedDrawing> edited() const;
  /// Where everything is. While an expression has no value: where it was last.
  const Solution& solution() const { return solution_; }
  const DrawingValues& values() const { return values_; }
  /// Whether all expressions have values.
  bool solved() const { return solved_; }
  double milliseconds() const { return milliseconds_; }

  /// What the mouse draws in the view; null for nothing.
  const StrokeKind* kind() const { return kind_; }
  void draw(const StrokeKind* kind);
  /// What presses on curves do instead of selecting them.
  TrimMode trim() const { return trim_; }
  void setTrim(TrimMode mode);
  /// S splits, T and L begin or end to sweep and to lengthen, J joins ends.
  void trimByKey(int key);
  int sides() const { return sides_; }
  void setSides(int sides);
  /// From one line of the grid to the next, mm; nothing: no grid.
  std::optional<double> grid() const { return grid_; }
  void setGrid(std::optional<double> grid);

  /// Ids of points, curves and constraints.
  const std::vector<std::string>& selected() const { return selected_; }
  void select(std::vector<std::string> ids);
  bool isSelected(const std::string& id) const;

  /// `action`: for people, what it is called when it is undone; edits in a row of the same `value` are one.
  void set(const Drawing& drawing, const QString& action, const std::string& value = {});
  void addStroke(const Stroke& stroke);
  /// The curves of drawings, as they are in those steps; they are selected.
  void addCurvesOf(const std::vector<std::shared_ptr<const Step>>& drawings, const QString& action);
  /// The kinds of constraint that can be on what is selected.
  std::vector<const ConstraintKind*> fitting() const;
  /// Adds one on these; a dimension begins with what it measures, so that nothing moves. What contradicts is refused.
  /// The id, or nothing.
  std::optional<std::string> constrain(const ConstraintKind& kind, const std::vector<std::string>& on);
  /// Makes two points one: every curve through `gone` goes through `stays`.
  void join(const std::string& gone, const std::string& stays);
  /// What is taken along from bodies, and follows them.
  bool canTake() const { return open() && field_->taken(); }
  const std::vector<TakenAlong>& taken() const;
  /// What a curve of that id is taken along as; null if it is not.
  const TakenAlong* takenOf(const std::string& id) const;
  /// "outline of top of Hub"
  QString originOf(const TakenAlong& taken) const;
  /// Those without an id get one; what is there already stays alone.
  void takeAlong(std::vector<TakenAlong> more);
  /// Draws what is selected of it instead: it follows nothing from then on.
  void makeSnapshot();
  /// Copies that can be made of what is selected.
  std::vector<const CopyKind*> fittingCopies() const;
  void addCopies(const CopyKind& kind);
  /// Regions of the last result; those that are taken are to be cut with, none: all.
  const std::vector<RegionShape>& regions() const { return regions_; }
  std::vector<std::string> pickedRegions() const;
  /// Takes them; lets them go if all of them are taken.
  void pickRegions(const std::vector<std::string>& names);
  QString describeRegion(const std::string& name) const;
  void removeSelected();
  /// What can be made of what is selected, besides constraints.
  enum class Feature { RoundCorner, ChamferCorner, Mirror };
  std::vector<Feature> features() const;
  void make(Feature feature);
  /// Splits the selected curves where others meet them; with nothing selected, all that can be.
  void splitSelected();
  /// Takes away the stretches at these places, or lengthens the ends there, as trim() says.
  void trimAt(const std::vector<std::pair<std::string, PlanePoint>>& places);
  /// The stretches into which others divide the selected curve; nothing if it is one, or not one curve is selected.
  const std::vector<CurvePiece>& pieces() const { return pieces_; }
  /// In mm.
  double lengthOf(const CurvePiece& piece) const;
  /// Takes the stretch away.
  void dropPiece(const CurvePiece& piece);
  /// The stretch that is pointed at in the list of them.
  std::optional<std::size_t> litPiece() const { return litPiece_; }
  void lightPiece(std::optional<std::size_t> number);
  /// Makes loose ends one point each where they are nearer than that, mm.
  void joinEnds(double gap);
  void remove(const std::string& id);
  void switchConstruction();
  /// The value of a constraint's expression in mm or rad; nothing if it has none.
  std::optional<double> valueOf(const Expression& expression, Dimensionality dimension) const;

  /// "line 12 · 22.6 mm · settled": words beside the pointer.
  QString describe(const std::string& id) const;

  /// A constraint that was refused, and what it contradicts.
  struct Refused {
    std::string kind;
    std::vector<std::string> on;
    std::optional<Expression> value;
    Conflict conflict;
  };
  const std::optional<Refused>& refused() const { return refused_; }
  /// Puts it in the place of those that it contradicts.
  void insist();
  void leaveAsItWas();

  /// Back by one: stops drawing, clears the selection. False if there was nothing to go back from.
  bool stepBack();

 signals:
  void changed();  ///< what is drawn, or where it is
  void selectionChanged();
  void toolChanged();  ///< what the mouse draws next, and on which grid
  void refusedChanged();
  /// A dimension is to be typed where it stands.
  void typeWanted(const std::string& id);
  /// The numbers of copies are to be typed.
  void numbersWanted(const std::string& id);
  /// Ends are to be joined, as far apart as is typed.
  void joinWanted();
  /// Something asked for cannot be.
  void failed(const kervo::Error& error);
  /// The stretches of the selected curve are others, or another one is pointed at.
  void piecesChanged();

 private:
  void findPieces();
  void take();
  void showRegions(const DrawingResult& made);
  void setBoth(const Drawing& drawing, const std::vector<TakenAlong>& taken, const QString& action);
  bool isTakenOrCopies(const std::string& id) const;
  QString bodyNamed(const BodyId& id) const;
  /// The drawing with one cut after another, each where the one before left it.
  Drawing cutAll(const std::vector<std::pair<std::string, PlanePoint>>& places,
                 const std::function<Trimmed(const Drawing&, const DrawingValues&, const Solution&, const std::string&,
                                             PlanePoint)>& cut) const;
  void solveIt();
  DrawingValues valuesOf(const Drawing& drawing, bool& all) const;

  Session& session_;
  Trial& trial_;
  const DrawingField* field_ = nullptr;
  StepId step_;
  std::optional<Plane> plane_;
  Drawing solvedOf_;
  DrawingValues values_;
  Solution solution_;
  bool solved_ = false;
  double milliseconds_ = 0;
  const StrokeKind* kind_ = nullptr;
  TrimMode trim_ = TrimMode::None;
  int sides_ = 6;
  std::optional<double> grid_ = 1;
  std::vector<std::string> selected_;
  std::optional<Refused> refused_;
  std::vector<CurvePiece> pieces_;
  std::optional<std::size_t> litPiece_;
  std::vector<TakenCurve> takenCurves_;  ///< as they were in the last result
  std::vector<RegionShape> regions_;
  std::shared_ptr<const Tried> regionsOf_;
};

}  // namespace kervo::app
