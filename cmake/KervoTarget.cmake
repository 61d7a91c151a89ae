# kervo_library(NAME USES… [EXCEPT…]): one folder, one static library of all its sources (so that a file more needs no line),
# its warnings as errors.
# Headers are included by their path below src/core or src, e.g. "geom/shape.h".
function(kervo_warnings target)
  target_compile_options(${target} PRIVATE -Wall -Wextra -Wpedantic -Werror)
  if(CMAKE_CXX_COMPILER_ID STREQUAL "GNU" AND CMAKE_CXX_COMPILER_VERSION VERSION_LESS 13)
    # False alarms of g++ 12 on std::string concatenation (GCC bug 105651).
    target_compile_options(${target} PRIVATE -Wno-restrict -Wno-stringop-overflow -Wno-array-bounds)
  endif()
endfunction()

function(kervo_library name)
  cmake_parse_arguments(ARG "" "" "USES;EXCEPT" ${ARGN})
  file(GLOB_RECURSE sources RELATIVE ${CMAKE_CURRENT_SOURCE_DIR} CONFIGURE_DEPENDS *.cpp)
  list(REMOVE_ITEM sources ${ARG_EXCEPT})
  add_library(kervo_${name} STATIC ${sources})
  # Only this folder's own headers are reachable through it: they are linked under one include root.
  set(root ${CMAKE_BINARY_DIR}/include/${name})
  file(MAKE_DIRECTORY ${root})
  file(CREATE_LINK ${CMAKE_CURRENT_SOURCE_DIR} ${root}/${name} SYMBOLIC)
  target_include_directories(kervo_${name} PUBLIC ${root})
  target_link_libraries(kervo_${name} PUBLIC ${ARG_USES})
  kervo_warnings(kervo_${name})
endfunction()

# For what computes nothing by itself: how far a release is optimized, instead of -O3, so that it builds faster.
function(kervo_optimize target level)
  target_compile_options(${target} PRIVATE $<$<CONFIG:Release>:${level}>)
endfunction()
