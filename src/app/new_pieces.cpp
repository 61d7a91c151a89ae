#include "app/new_pieces.h"

#include <algorithm>

#include "model/names_for_people.h"

namespace kervo::app {

NewPieces newPieces(const Made& before, const Made& now) {
  NewPieces news;
  for (const StepReport& report : now.model->steps) {
    const auto& steps = before.model->steps;
    const auto was = std::find_if(steps.begin(), steps.end(), [&](const auto& each) { return each.id == report.id; });
    if (was == steps.end() || !was->result || !report.result || was->result == report.result) continue;
    const auto stepBefore = before.document.find(report.id), stepNow = now.document.find(report.id);
    if (!stepBefore || !stepNow || stepBefore->values() != stepNow->values()) continue;
    for (const Piece& piece : report.result->pieces) {
      const auto& old = was->result->pieces;
      if (std::any_of(old.begin(), old.end(), [&](const Piece& each) { return each.key == piece.key; })) continue;
      const Body* body = now.model->find(piece.body);
      news.pieces.push_back(
          {QString::fromStdString(body ? body->name : withNames(piece.name, *now.model, Quotes::Drop)), piece.kept});
    }
    if (news.pieces.empty()) continue;
    news.step = report.id;
    news.stepName = QString::fromStdString(report.name);
    return news;
  }
  return news;
}

}  // namespace kervo::app
