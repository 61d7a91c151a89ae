#include "geom/uncaught.h"

#include <Standard_Failure.hxx>
#include <Standard_OutOfMemory.hxx>
#include <exception>
#include <new>

#include "base/say.h"

namespace kervo {

const char* uncaughtReason() noexcept {
  constexpr const char *memory = later("there is not enough memory for this"),
                       *other = later("this should not have happened");
  try {
    if (const std::exception_ptr current = std::current_exception()) std::rethrow_exception(current);
  } catch (const std::bad_alloc&) {
    return memory;
  } catch (const Standard_OutOfMemory&) {
    return memory;
  } catch (const Standard_Failure&) {
    return later("the geometry kernel gave up on a thread of its own");
  } catch (...) {
    return other;
  }
  return other;
}

}  // namespace kervo
