# The geometry kernel, as system headers, for src/core/geom and src/core/exchange only.
find_package(OpenCASCADE REQUIRED CONFIG)
find_package(Threads REQUIRED)

add_library(kervo_kernel INTERFACE)
target_include_directories(kervo_kernel SYSTEM INTERFACE ${OpenCASCADE_INCLUDE_DIR})
# Kernel signals become exceptions where OCC_CATCH_SIGNALS stands.
target_compile_definitions(kervo_kernel INTERFACE OCC_CONVERT_SIGNALS)
target_link_libraries(kervo_kernel INTERFACE
  TKHLR TKOffset TKFillet TKBool TKBO TKFeat TKPrim TKShHealing TKMesh TKTopAlgo TKGeomAlgo TKBRep TKGeomBase TKG3d TKG2d TKMath TKernel)

add_library(kervo_kernel_exchange INTERFACE)
target_link_libraries(kervo_kernel_exchange INTERFACE kervo_kernel TKXDEIGES TKIGES TKXDESTEP TKSTEP TKXSBase TKXCAF TKLCAF TKCAF TKCDF)
