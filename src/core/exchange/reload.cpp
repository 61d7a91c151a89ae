#include "exchange/reload.h"

#include <algorithm>
#include <functional>
#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "base/error.h"
#include "base/say.h"
#include "fields/brought_field.h"
#include "geom/faces/alike_faces.h"
#include "geom/instance.h"
#include "geom/topology.h"

namespace kervo {

namespace {

using Bodies = std::vector<BroughtBody>;

const Bodies& bodiesIn(const Step& step) {
  return step.value("bodies").as<Bodies>();
}

/// For each body of now the place of the one of before that it is.
class Pairs {
 public:
  Pairs(const Bodies& before, const Bodies& now) : before_(before), now_(now), of_(now.size()), taken_(before.size()) {
    take([](const BroughtBody& a, const BroughtBody& b) { return sameName(a, b) && sameShape(a, b); });
    take([](const BroughtBody& a, const BroughtBody& b) { return sameName(a, b) && a.shape == b.shape; });
    take(sameName);
    take([](const BroughtBody& a, const BroughtBody& b) { return a.shape == b.shape; });
    const auto open = [](const auto& list, const auto& isOpen) {
      std::vector<std::size_t> result;
      for (std::size_t i = 0; i < list.size(); ++i)
        if (isOpen(i)) result.push_back(i);
      return result;
    };
    const auto left = open(now_, [&](std::size_t i) { return !of_[i]; });
    const auto missing = open(before_, [&](std::size_t i) { return !taken_[i]; });
    if (left.size() == 1 && missing.size() == 1) pair(left.front(), missing.front());
  }
  std::optional<std::size_t> of(std::size_t now) const { return of_[now]; }
  bool found(std::size_t before) const { return taken_[before]; }

 private:
  static bool sameName(const BroughtBody& a, const BroughtBody& b) { return a.name == b.name && a.within == b.within; }
  static bool sameShape(const BroughtBody& a, const BroughtBody& b) { return a.shape == b.shape && a.place == b.place; }
  void pair(std::size_t now, std::size_t before) {
    of_[now] = before;
    taken_[before] = true;
  }
  void take(const std::function<bool(const BroughtBody&, const BroughtBody&)>& same) {
    for (std::size_t i = 0; i < now_.size(); ++i)
      for (std::size_t k = 0; k < before_.size() && !of_[i]; ++k)
        if (!taken_[k] && same(before_[k], now_[i])) pair(i, k);
  }

  const Bodies &before_, &now_;
  std::vector<std::optional<std::size_t>> of_;
  std::vector<bool> taken_;
};

/// The numbers of a body's faces, and the next free one.
std::vector<int> numbersOf(const BroughtBody& body, const Shape& shape) {
  if (!body.faceNumbers.empty() || shape.mesh() || shape.empty()) return body.faceNumbers;
  std::vector<int> numbers(facesOf(shape).size());
  for (std::size_t i = 0; i < numbers.size(); ++i) numbers[i] = static_cast<int>(i) + 1;
  return numbers;
}

/// Every text that a value of a step holds.
void forEachText(const nlohmann::json& value, const std::function<void(const std::string&)>& use) {
  if (value.is_string()) return use(value.get<std::string>());
  if (value.is_structured())
    for (const auto& each : value) forEachText(each, use);
}

/// Bodies and faces that went.
struct Gone {
  std::set<std::string> bodies, faces;

  /// What of them a name means: a face, or a body, also by a piece or a face of it; empty for any other.
  std::string meant(const std::string& name) const {
    if (faces.contains(name)) return name;
    const std::string body = name.substr(0, name.find_first_of("/:"));
    return bodies.contains(body) ? body : "";
  }
};

/// What other steps name of them.
std::vector<std::string> lostNames(const Document& document, const StepId& id, const Gone& gone) {
  std::vector<std::string> lost;
  for (const auto& step : document.made.steps) {
    if (step->id() == id) continue;
    std::set<std::string> told;
    for (const Field* field : step->kind().fields())
      forEachText(field->toJson(step->value(*field)), [&](const std::string& text) {
        const std::string name = gone.meant(text);
        if (!name.empty() && told.insert(name).second)
          lost.push_back(
              say("%1 \"%2\" names \"%3\", which is gone", say(step->kind().label().c_str()), step->id(), name));
      });
  }
  return lost;
}

class Reloading {
 public:
  Reloading(const Document& document, const Step& step, const Document& brought)
      : document_(document),
        brought_(brought),
        id_(step.id()),
        before_(bodiesIn(step)),
        now_(bodiesIn(*brought.made.steps.front())),
        pairs_(before_, now_),
        ids_(idsOf(before_, id_)) {
    for (const BodyId& id : ids_) next_ = std::max(next_, numberOf(id) + 1);
  }

  Reloaded result(const Step& step) {
    Reloaded result;
    Bodies bodies;
    for (std::size_t i = 0; i < now_.size(); ++i) bodies.push_back(taken(i, result));
    for (std::size_t k = 0; k < before_.size(); ++k) {
      if (pairs_.found(k)) continue;
      result.bodies.push_back({before_[k].name, ReloadedBody::How::Gone, 0, 0});
      gone_.bodies.insert(ids_[k].text());
    }
    const Step& source = *brought_.made.steps.front();
    result.document = document_;
    for (const BroughtBody& body : bodies)
      result.document.made.shapes.try_emplace(body.shape, brought_.made.shapes.at(body.shape));
    result.document = result.document.withReplaced(step.with("bodies", FieldValue(bodies))
                                                       .with("unit", source.value("unit"))
                                                       .with("source", source.value("source")));
    result.lost = lostNames(result.document, id_, gone_);
    return result;
  }

 private:
  int numberOf(const BodyId& id) const {
    const std::string& text = id.text();
    return id == BodyId(id_) ? 0 : std::stoi(text.substr(text.rfind('.') + 1));
  }
  static std::string faceName(const BodyId& id, int number) { return id + ":face" + std::to_string(number); }

  static Shape standing(const Document& document, const BroughtBody& body) {
    const Shape& part = document.made.shapes.at(body.shape);
    return body.place ? plain(placed(part, *body.place)) : part;
  }

  /// A body of the file as it stands in the step.
  BroughtBody taken(std::size_t i, Reloaded& result) {
    BroughtBody body = now_[i];
    const std::optional<std::size_t> was = pairs_.of(i);
    ReloadedBody& told = result.bodies.emplace_back(ReloadedBody{body.name, ReloadedBody::How::New, 0, 0});
    if (!was) {
      body.number = next_++;
      return body;
    }
    const BroughtBody& old = before_[*was];
    body.number = numberOf(ids_[*was]);
    const bool still = old.place == body.place;
    told.how = old.shape == body.shape && still ? ReloadedBody::How::Same : ReloadedBody::How::Changed;
    if (old.shape == body.shape) {
      body.faceNumbers = old.faceNumbers;
      return body;
    }
    const Shape oldShape = standing(document_, old), shape = standing(brought_, body);
    const std::vector<int> oldNumbers = numbersOf(old, oldShape), alike = facesAlike(oldShape, shape);
    int next = 1 + (oldNumbers.empty() ? 0 : *std::max_element(oldNumbers.begin(), oldNumbers.end()));
    std::set<int> kept;
    for (const int place : alike) {
      const int number = place ? oldNumbers[static_cast<std::size_t>(place) - 1] : next++;
      body.faceNumbers.push_back(number);
      if (place)
        kept.insert(number);
      else
        ++told.newFaces;
    }
    for (const int number : oldNumbers) {
      if (kept.contains(number)) continue;
      ++told.goneFaces;
      gone_.faces.insert(faceName(ids_[*was], number));
    }
    return body;
  }

  const Document &document_, &brought_;
  StepId id_;
  const Bodies &before_, &now_;
  Pairs pairs_;
  std::vector<BodyId> ids_;
  Gone gone_;
  int next_ = 1;
};

}  // namespace

Reloaded reloaded(const Document& document, const StepId& id, const Document& brought) {
  const auto step = document.find(id);
  const auto bringsIn = [](const Step& each) {
    return each.kind().field("bodies") && each.value("bodies").asIf<Bodies>();
  };
  if (!step || !bringsIn(*step)) throw Error(say("\"%1\" brings nothing in", id), "", say("Choose a Bring in step"));
  if (brought.made.steps.size() != 1 || !bringsIn(*brought.made.steps.front()))
    throw Error(say("there are no bodies to take"), "", say("Choose a file that holds bodies"));
  return Reloading(document, *step, brought).result(*step);
}

std::string reloadText(const Reloaded& reloaded) {
  std::map<ReloadedBody::How, std::size_t> counts;
  std::size_t newFaces = 0, goneFaces = 0;
  for (const ReloadedBody& body : reloaded.bodies) {
    ++counts[body.how];
    newFaces += body.newFaces;
    goneFaces += body.goneFaces;
  }
  std::vector<std::string> parts;
  if (const std::size_t count = counts[ReloadedBody::How::Same])
    parts.push_back(sayCount(count, "1 body is as it was", "%1 bodies are as they were"));
  if (const std::size_t count = counts[ReloadedBody::How::Changed]) {
    parts.push_back(sayCount(count, "1 body changed", "%1 bodies changed"));
    std::vector<std::string> faces;
    if (newFaces) faces.push_back(sayCount(newFaces, "1 face is new", "%1 faces are new"));
    if (goneFaces) faces.push_back(sayCount(goneFaces, "1 face is gone", "%1 faces are gone"));
    if (!faces.empty()) parts.back() += " (" + faces.front() + (faces.size() > 1 ? ", " + faces.back() : "") + ")";
  }
  if (const std::size_t count = counts[ReloadedBody::How::New])
    parts.push_back(sayCount(count, "1 body is new", "%1 bodies are new"));
  if (const std::size_t count = counts[ReloadedBody::How::Gone])
    parts.push_back(sayCount(count, "1 body is gone", "%1 bodies are gone"));
  std::string text;
  for (const std::string& part : parts) text += (text.empty() ? "" : ", ") + part;
  return text;
}

}  // namespace kervo
