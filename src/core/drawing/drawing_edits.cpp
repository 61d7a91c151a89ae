#include "drawing/drawing_edits.h"

#include <algorithm>
#include <map>
#include <set>

#include "drawing/copies.h"

namespace kervo {

std::string freeId(const Drawing& drawing, const std::string& prefix) {
  std::set<std::string> taken;
  for (const DrawnPoint& point : drawing.points) taken.insert(point.id);
  for (const DrawnCurve& curve : drawing.curves) taken.insert(curve.id);
  for (const DrawnConstraint& constraint : drawing.constraints) taken.insert(constraint.id);
  for (const DrawnCopies& copies : drawing.copies) taken.insert(copies.id);
  for (int number = 1;; ++number)
    if (std::string id = prefix + std::to_string(number); !taken.contains(id)) return id;
}

namespace {

/// Copies lose what is gone; those that have nothing left go as well.
Drawing withoutCopiesOf(Drawing drawing, std::set<std::string> gone) {
  std::erase_if(drawing.copies, [&](DrawnCopies& copies) {
    const auto isGone = [&](const std::string& id) { return gone.contains(id.substr(0, id.find_first_of(".:"))); };
    std::erase_if(copies.of, isGone);
    const bool nothing = copies.of.empty() || isGone(copies.about);
    if (nothing) gone.insert(copies.id);
    return nothing;
  });
  return drawing;
}

}  // namespace

Drawing withoutCurve(Drawing drawing, const std::string& id) {
  const auto isCopies = [&](const DrawnCopies& copies) { return copies.id == id; };
  if (std::erase_if(drawing.copies, isCopies) > 0) return withoutCopiesOf(std::move(drawing), {id});
  const auto curve = drawing.curve(id);
  if (!curve) return drawing;
  std::set<std::string> gone(drawing.curves[*curve].points.begin(), drawing.curves[*curve].points.end());
  drawing.curves.erase(drawing.curves.begin() + static_cast<std::ptrdiff_t>(*curve));
  for (const DrawnCurve& other : drawing.curves)
    for (const std::string& point : other.points) gone.erase(point);
  std::erase_if(drawing.points, [&](const DrawnPoint& point) { return gone.contains(point.id); });
  gone.insert(id);
  // An end or side of it is called "id.…".
  std::erase_if(drawing.constraints, [&](const DrawnConstraint& constraint) {
    return std::any_of(constraint.on.begin(), constraint.on.end(), [&](const std::string& on) {
      return gone.contains(on) || gone.contains(on.substr(0, on.find('.')));
    });
  });
  return withoutCopiesOf(std::move(drawing), std::move(gone));
}

Drawing withJoined(Drawing drawing, const std::string& gone, const std::string& stays) {
  if (gone == stays || !drawing.point(gone) || !drawing.point(stays)) return drawing;
  for (DrawnCurve& curve : drawing.curves) std::replace(curve.points.begin(), curve.points.end(), gone, stays);
  for (DrawnConstraint& constraint : drawing.constraints)
    std::replace(constraint.on.begin(), constraint.on.end(), gone, stays);
  for (DrawnCopies& copies : drawing.copies)
    if (copies.about == gone) copies.about = stays;
  std::erase_if(drawing.points, [&](const DrawnPoint& point) { return point.id == gone; });
  std::vector<std::string> nothing;
  for (const DrawnCurve& curve : drawing.curves)
    for (std::size_t i = 1; i < curve.points.size(); ++i)
      if (curve.points[i] == curve.points[i - 1] && (nothing.empty() || nothing.back() != curve.id))
        nothing.push_back(curve.id);
  for (const std::string& curve : nothing) drawing = withoutCurve(drawing, curve);
  std::erase_if(drawing.constraints, [](const DrawnConstraint& constraint) {
    return std::set<std::string>(constraint.on.begin(), constraint.on.end()).size() < constraint.on.size();
  });
  return drawing;
}

Drawing withoutTaken(Drawing drawing, const std::string& id) {
  std::erase_if(drawing.constraints, [&](const DrawnConstraint& constraint) {
    return std::any_of(constraint.on.begin(), constraint.on.end(),
                       [&](const std::string& on) { return on.substr(0, on.find('.')) == id; });
  });
  return withoutCopiesOf(std::move(drawing), {id});
}

Drawing withoutConstraint(Drawing drawing, const std::string& id) {
  std::erase_if(drawing.constraints, [&](const DrawnConstraint& constraint) { return constraint.id == id; });
  return drawing;
}

Drawing withCopies(Drawing drawing, const std::string& kind, std::vector<std::string> of, std::string about,
                   std::vector<Expression> numbers, const std::vector<TakenCurve>& taken) {
  const CopyKind* known = findCopyKind(kind);
  DrawnCopies copies{freeId(drawing, kind), kind, std::move(of), std::move(about), std::move(numbers)};
  if (known) {
    for (std::size_t i = copies.numbers.size(); i < known->numbers().size(); ++i)
      copies.numbers.emplace_back(known->numbers()[i].first);
    if (!known->ways().empty()) copies.way = known->ways().front().key;
  }
  drawing.copies.push_back(std::move(copies));
  requireSound(drawing, taken);
  return drawing;
}

Drawing withAdded(Drawing drawing, const Drawing& other, std::vector<std::string>& added) {
  std::set<std::string> known;
  for (const DrawnPoint& point : drawing.points) known.insert(point.id);
  for (const DrawnCurve& curve : drawing.curves) known.insert(curve.id);
  for (const DrawnConstraint& constraint : drawing.constraints) known.insert(constraint.id);
  for (const DrawnCopies& copies : drawing.copies) known.insert(copies.id);
  std::map<std::string, int> last;
  const auto fresh = [&](const std::string& id) {
    const std::string prefix = id.substr(0, id.find_last_not_of("0123456789") + 1);
    for (int& number = last[prefix];;)
      if (std::string free = prefix + std::to_string(++number); known.insert(free).second) return free;
  };
  std::map<std::string, std::string> renamed;
  for (DrawnPoint point : other.points) {
    const std::string id = fresh(point.id);
    renamed[point.id] = id;
    point.id = id;
    drawing.points.push_back(std::move(point));
  }
  for (DrawnCurve curve : other.curves) {
    curve.id = fresh(curve.id);
    for (std::string& point : curve.points) point = renamed.at(point);
    added.push_back(curve.id);
    drawing.curves.push_back(std::move(curve));
  }
  return drawing;
}

Drawing withConstraint(Drawing drawing, const std::string& kind, std::vector<std::string> on,
                       std::optional<Expression> value, const std::vector<TakenCurve>& taken) {
  drawing.constraints.push_back(
      {.id = freeId(drawing, "k"), .kind = kind, .on = std::move(on), .value = std::move(value)});
  requireSound(drawing, taken);
  return drawing;
}

}  // namespace kervo
