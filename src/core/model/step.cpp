#include "model/step.h"

#include <algorithm>

#include "base/error.h"
#include "base/identifier.h"

namespace kervo {

const FieldSpec* StepKind::field(const std::string& key) const {
  const auto found =
      std::find_if(fields().begin(), fields().end(), [&](const FieldSpec& spec) { return spec.key == key; });
  return found == fields().end() ? nullptr : &*found;
}

const StepKind* StepKinds::find(const std::string& key) const {
  const auto found =
      std::find_if(kinds_.begin(), kinds_.end(), [&](const StepKind* kind) { return kind->key() == key; });
  return found == kinds_.end() ? nullptr : *found;
}

namespace {

/// The values of a field that others wait for: what is chosen, or "plane" if there is a cutter that has one (or none is
/// chosen yet).
std::vector<std::string> decidingValues(const FieldValue& value) {
  if (const auto* choice = std::get_if<std::string>(&value)) return {*choice};
  const auto* cutters = std::get_if<std::vector<CutterPick>>(&value);
  if (!cutters) return {};
  const bool plane = std::any_of(cutters->begin(), cutters->end(), [](const CutterPick& cutter) {
    return cutter.kind == CutterPick::Kind::Plane || cutter.kind == CutterPick::Kind::Face;
  });
  return plane || cutters->empty() ? std::vector<std::string>{"plane"} : std::vector<std::string>{};
}

}  // namespace

bool matters(const Step& step, const FieldSpec& field) {
  if (field.whenField.empty()) return true;
  const FieldSpec* other = step.kind().field(field.whenField);
  if (!other || !matters(step, *other)) return false;
  const std::vector<std::string> values = decidingValues(step.value(field.whenField));
  return std::any_of(values.begin(), values.end(), [&](const std::string& value) {
    return std::find(field.whenValues.begin(), field.whenValues.end(), value) != field.whenValues.end();
  });
}

FieldValue defaultValue(const FieldSpec& field) {
  switch (field.type) {
    case FieldType::Length:
    case FieldType::Angle:
    case FieldType::Number:
      return Expression(field.defaultText.empty() ? "0" : field.defaultText);
    case FieldType::Choice:
      return field.defaultText.empty() ? field.choices.front() : field.defaultText;
    case FieldType::Text:
      return field.defaultText;
    case FieldType::Flag:
      return field.defaultText == "true";
    case FieldType::Placement:
      return std::vector<Expression>(3, Expression("0"));
    case FieldType::Plane:
      return PlanePick{PlanePick::Kind::Standard, field.defaultText.empty() ? "xy" : field.defaultText, {}};
    case FieldType::Bodies:
      return BodyPick{field.defaultText == "all", {}};
    case FieldType::Face:
      return FaceReference{};
    case FieldType::Edges:
      return std::vector<EdgeReference>{};
    case FieldType::Regions:
      return RegionPick{};
    case FieldType::Curves:
      return std::vector<DrawnCurve>{};
    case FieldType::Brought:
      return std::vector<BroughtBody>{};
    case FieldType::Cutters:
      if (field.defaultText.empty()) return std::vector<CutterPick>{};
      return std::vector{CutterPick::of(PlanePick{PlanePick::Kind::Standard, field.defaultText, {}})};
    case FieldType::Pieces:
      return PieceChoice{};
    case FieldType::Points:
      return std::vector<PointReference>{};
    case FieldType::Faces:
      return std::vector<FaceReference>{};
  }
  return Expression();
}

void requireType(const FieldSpec& field, const FieldValue& value) {
  if (value.index() != defaultValue(field).index())
    throw Error("the field \"" + field.key + "\" takes another type of value", "", "See docs/file-format.md");
  if (field.type == FieldType::Choice) {
    const std::string& choice = std::get<std::string>(value);
    if (std::find(field.choices.begin(), field.choices.end(), choice) == field.choices.end()) {
      std::string list;
      for (const std::string& allowed : field.choices) list += (list.empty() ? "" : ", ") + allowed;
      throw Error("the field \"" + field.key + "\" cannot be \"" + choice + "\"", "", "Choose one of: " + list);
    }
  }
  if (field.type == FieldType::Placement && std::get<std::vector<Expression>>(value).size() != 3)
    throw Error("the field \"" + field.key + "\" takes three lengths");
}

namespace {

/// Adds everything of a value but its numbers to a key.
class FixedParts {
 public:
  explicit FixedParts(Hasher& hasher) : hasher_(hasher) {}

  void operator()(const Expression&) { hasher_.add("number"); }
  void operator()(const std::string& text) { hasher_.add(text); }
  void operator()(bool flag) { hasher_.add(flag ? "yes" : "no"); }
  void operator()(const std::vector<Expression>& numbers) { hasher_.add(static_cast<std::uint64_t>(numbers.size())); }
  void operator()(const PlanePick& pick) {
    hasher_.add(static_cast<std::uint64_t>(pick.kind)).add(pick.name);
    (*this)(pick.face);
    if (pick.kind <= PlanePick::Kind::OnFace) return;
    (*this)(pick.other);
    (*this)(pick.points);
    (*this)(pick.edge);
  }
  void operator()(const BodyPick& pick) {
    hasher_.add(pick.all ? "all" : "some").add(static_cast<std::uint64_t>(pick.bodies.size()));
    for (const BodyId& body : pick.bodies) hasher_.add(body);
  }
  void operator()(const FaceReference& reference) {
    hasher_.add(reference.body).add(reference.name).add(reference.sample ? "sample" : "");
    if (!reference.sample) return;
    point(reference.sample->point);
    point(reference.sample->normal);
    hasher_.add(reference.sample->area);
  }
  void operator()(const std::vector<EdgeReference>& edges) {
    hasher_.add(static_cast<std::uint64_t>(edges.size()));
    for (const EdgeReference& edge : edges) {
      hasher_.add(edge.body).add(edge.first).add(edge.second).add(edge.sample ? "sample" : "");
      if (edge.sample) point(*edge.sample);
    }
  }
  void operator()(const RegionPick& pick) {
    hasher_.add(pick.drawing).add(pick.all ? "all" : "some").add(static_cast<std::uint64_t>(pick.regions.size()));
    for (const std::string& region : pick.regions) hasher_.add(region);
    hasher_.add(static_cast<std::uint64_t>(pick.depths.size()));
    for (const auto& [region, depth] : pick.depths) hasher_.add(region);
  }
  void operator()(const std::vector<CutterPick>& cutters) {
    hasher_.add(static_cast<std::uint64_t>(cutters.size()));
    for (const CutterPick& cutter : cutters) {
      hasher_.add(static_cast<std::uint64_t>(cutter.kind)).add(cutter.body);
      (*this)(cutter.plane);
      (*this)(cutter.face);
      (*this)(cutter.drawing);
    }
  }
  void operator()(const PieceChoice& choice) {
    for (const std::vector<BodyId>* list : {&choice.keep, &choice.drop, &choice.known}) {
      hasher_.add(static_cast<std::uint64_t>(list->size()));
      for (const BodyId& piece : *list) hasher_.add(piece);
    }
  }
  void operator()(const std::vector<PointReference>& points) {
    hasher_.add(static_cast<std::uint64_t>(points.size()));
    for (const PointReference& reference : points) {
      hasher_.add(reference.body).add(static_cast<std::uint64_t>(reference.faces.size()));
      for (const std::string& face : reference.faces) hasher_.add(face);
      hasher_.add(reference.sample ? "sample" : "");
      if (reference.sample) point(*reference.sample);
    }
  }
  void operator()(const std::vector<FaceReference>& faces) {
    hasher_.add(static_cast<std::uint64_t>(faces.size()));
    for (const FaceReference& face : faces) (*this)(face);
  }
  void operator()(const std::vector<DrawnCurve>& curves) {
    hasher_.add(static_cast<std::uint64_t>(curves.size()));
    for (const DrawnCurve& curve : curves) hasher_.add(curve.id).add(curve.kind);
  }
  void operator()(const std::vector<BroughtBody>& bodies) {
    hasher_.add(static_cast<std::uint64_t>(bodies.size()));
    for (const BroughtBody& body : bodies) {
      hasher_.add(body.shape).add(body.name).add(body.layer).add(body.color ? "colour" : "");
      if (body.color) add(*body.color);
      hasher_.add(static_cast<std::uint64_t>(body.faceColors.size()));
      for (const auto& [number, color] : body.faceColors) {
        hasher_.add(static_cast<std::uint64_t>(number));
        add(color);
      }
    }
  }

 private:
  void add(const Color& color) { hasher_.add(color.red).add(color.green).add(color.blue); }
  void point(Point p) { hasher_.add(p.x).add(p.y).add(p.z); }
  Hasher& hasher_;
};

}  // namespace

Step::Step(StepId id, const StepKind& kind, std::map<std::string, FieldValue> fields, bool on)
    : id_(std::move(id)), kind_(&kind), fields_(std::move(fields)), on_(on) {
  if (id_.empty()) throw Error("the id of a step is empty", "", "Use letters, digits, - and _");
  for (const auto& [key, value] : fields_) {
    const FieldSpec* spec = kind.field(key);
    if (!spec)
      throw Error("a step of kind \"" + kind.key() + "\" has no field \"" + key + "\"", "step \"" + id_ + "\"");
    try {
      requireType(*spec, value);
    } catch (const Error& error) {
      throw error.within("step \"" + id_ + "\"");
    }
  }
  for (const FieldSpec& spec : kind.fields()) fields_.try_emplace(spec.key, defaultValue(spec));
  Hasher hasher;
  hasher.add(kind.key()).add(id_);
  for (const auto& [key, value] : fields_) {
    hasher.add(key);
    std::visit(FixedParts(hasher), value);
  }
  fixedKey_ = hasher.key();
}

Step Step::with(const std::string& key, FieldValue value) const {
  std::map<std::string, FieldValue> fields = fields_;
  fields.insert_or_assign(key, std::move(value));
  return Step(id_, *kind_, std::move(fields), on_);
}

Step Step::switched(bool on) const {
  return Step(id_, *kind_, fields_, on);
}

}  // namespace kervo
