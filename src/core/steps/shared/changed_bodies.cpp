#include "steps/shared/changed_bodies.h"

namespace kervo {

void replaceBody(StepResult& result, const BodyId& body, const Shape& before, const Shape& after) {
  result.audit.touched.push_back(body);
  result.audit.volumeBefore += before.volume();
  result.audit.volumeAfter += after.volume();
  result.consumed.push_back(body);
  result.pieces.push_back(Piece::whole(body, body, after));
  result.made.push_back({.id = body, .form = after, .from = body});
}

}  // namespace kervo
