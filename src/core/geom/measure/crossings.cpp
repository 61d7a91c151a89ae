#include "geom/measure/crossings.h"

#include <IntCurvesFace_ShapeIntersector.hxx>
#include <algorithm>
#include <limits>
#include <numeric>

#include "geom/kernel/topology_body.h"

namespace kervo {

namespace {

/// Boxes round triangles of a mesh, in a tree: a line asks only those that it passes through.
class LineTree {
 public:
  explicit LineTree(const Mesh& mesh) : order_(mesh.triangles().size()) {
    std::iota(order_.begin(), order_.end(), 0);
    std::vector<Box> boxes;
    boxes.reserve(order_.size());
    for (const Mesh::Triangle& triangle : mesh.triangles()) {
      Box box;
      for (const std::uint32_t corner : triangle) box.add(mesh.points()[corner]);
      boxes.push_back(box);
    }
    if (!order_.empty()) divide(boxes, 0, order_.size());
  }

  template <class Do>
  void along(Point from, Vector way, Do&& work) const {
    if (!nodes_.empty()) visit(0, from, way, work);
  }

 private:
  struct Node {
    Box box;
    std::size_t first = 0, count = 0;  ///< of a leaf
    std::size_t second = 0;            ///< of others: the second half; the first one is the next node
  };
  static constexpr std::size_t perLeaf = 8;

  std::size_t divide(const std::vector<Box>& boxes, std::size_t first, std::size_t count) {
    const std::size_t number = nodes_.size();
    nodes_.push_back({{}, first, count, 0});
    Box box;
    for (std::size_t i = first; i < first + count; ++i) box.add(boxes[order_[i]]);
    nodes_[number].box = box;
    if (count <= perLeaf) return number;
    const Vector size = box.high - box.low;
    const auto axis = size.x >= size.y && size.x >= size.z ? &Vector::x : size.y >= size.z ? &Vector::y : &Vector::z;
    const auto begin = order_.begin() + static_cast<std::ptrdiff_t>(first);
    std::nth_element(begin, begin + static_cast<std::ptrdiff_t>(count / 2), begin + static_cast<std::ptrdiff_t>(count),
                     [&](std::size_t a, std::size_t b) {
                       return boxes[a].low.*axis + boxes[a].high.*axis < boxes[b].low.*axis + boxes[b].high.*axis;
                     });
    nodes_[number].count = 0;
    divide(boxes, first, count / 2);
    const std::size_t second = divide(boxes, first + count / 2, count - count / 2);
    nodes_[number].second = second;
    return number;
  }

  static bool passes(const Box& box, Point from, Vector way) {
    double low = -Box::infinity, high = Box::infinity;
    const auto slab = [&](double at, double along, double least, double most) {
      const double slack = tolerance::point;
      if (std::abs(along) < std::numeric_limits<double>::min()) {
        if (at < least - slack || at > most + slack) high = -Box::infinity;
        return;
      }
      const double a = (least - slack - at) / along, b = (most + slack - at) / along;
      low = std::max(low, std::min(a, b));
      high = std::min(high, std::max(a, b));
    };
    slab(from.x, way.x, box.low.x, box.high.x);
    slab(from.y, way.y, box.low.y, box.high.y);
    slab(from.z, way.z, box.low.z, box.high.z);
    return low <= high;
  }

  template <class Do>
  void visit(std::size_t number, Point from, Vector way, Do&& work) const {
    const Node& node = nodes_[number];
    if (!passes(node.box, from, way)) return;
    if (node.second == 0) {
      for (std::size_t i = node.first; i < node.first + node.count; ++i) work(order_[i]);
      return;
    }
    visit(number + 1, from, way, work);
    visit(node.second, from, way, work);
  }

  std::vector<std::size_t> order_;
  std::vector<Node> nodes_;
};

}  // namespace

struct Crossings::Inside {
  std::vector<LineCrossing> withFaces(Point from, Vector way);
  std::vector<LineCrossing> withTriangles(Point from, Vector way) const;

  IntCurvesFace_ShapeIntersector meeting;
  std::vector<Face> faces;
  Mesh mesh;
  std::unique_ptr<const LineTree> tree;  ///< of a mesh
};

Crossings::Crossings(const Shape& body) : inside_(std::make_unique<Inside>()) {
  if (const Mesh* mesh = body.mesh()) {
    inside_->mesh = *mesh;
    inside_->tree = std::make_unique<const LineTree>(*mesh);
    return;
  }
  inside_->faces = facesOf(body);
  inside_->meeting.Load(body.body().topology, tolerance::point);
}

Crossings::~Crossings() = default;

std::vector<LineCrossing> Crossings::along(Point from, Vector way) const {
  std::vector<LineCrossing> result = inside_->mesh.empty() ? kernelCall("following a line through a body",
                                                                        [&] { return inside_->withFaces(from, way); })
                                                           : inside_->withTriangles(from, way);
  std::sort(result.begin(), result.end(), [](const LineCrossing& a, const LineCrossing& b) { return a.at < b.at; });
  // A line through an edge meets both of its faces.
  const auto same = [](const LineCrossing& a, const LineCrossing& b) {
    return a.out == b.out && b.at - a.at < tolerance::samePlace;
  };
  result.erase(std::unique(result.begin(), result.end(), same), result.end());
  return result;
}

std::vector<LineCrossing> Crossings::Inside::withFaces(Point from, Vector way) {
  meeting.Perform(gp_Lin(toPnt(from), toDir(way)), -RealLast(), RealLast());
  std::vector<LineCrossing> result;
  for (int i = 1; i <= meeting.NbPnt(); ++i) {
    const double across = outwardNormal(meeting.Face(i), meeting.Pnt(i)).Dot(toDir(way));
    if (std::abs(across) < tolerance::sameDirection) continue;
    const auto its = std::find_if(faces.begin(), faces.end(),
                                  [&](const Face& each) { return each.body().face.IsSame(meeting.Face(i)); });
    if (its != faces.end()) result.push_back({meeting.WParameter(i), across > 0, *its, 0});
  }
  return result;
}

std::vector<LineCrossing> Crossings::Inside::withTriangles(Point from, Vector way) const {
  const Face none(nullptr);
  std::vector<LineCrossing> result;
  const std::vector<Point>& points = mesh.points();
  const std::vector<Mesh::Triangle>& triangles = mesh.triangles();
  tree->along(from, way, [&](std::size_t number) {
    const Mesh::Triangle& triangle = triangles[number];
    const Point a = points[triangle[0]], b = points[triangle[1]], c = points[triangle[2]];
    const Vector across = cross(b - a, c - a);
    const double slope = dot(across, way);
    if (slope == 0) return;
    const double at = dot(a - from, across) / slope;
    const Point hit = from + way * at;
    const auto left = [&](Point p, Point q) { return dot(cross(q - p, hit - p), across) >= 0; };
    if (left(a, b) && left(b, c) && left(c, a))
      result.push_back({at, slope > 0, none, static_cast<std::uint32_t>(number)});
  });
  return result;
}

std::vector<LineCrossing> crossings(const Shape& body, Point from, Vector way) {
  return Crossings(body).along(from, way);
}

}  // namespace kervo
