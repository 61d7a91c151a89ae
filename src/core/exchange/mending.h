// What is put right in bodies that come in from a file.
#pragma once

#include <string>
#include <vector>

#include "exchange/body_file.h"

namespace kervo {

/// Puts faces together again whose borders the reader tore at a seam or pole, from their edges in space, and compares
/// the volume with what the file states. Notes what was mended, and what could not be.
void mend(FileBody& body, std::vector<std::string>& notes, Progress& progress);

/// How closely flawsIn() looks.
enum class Search {
  Quick,  ///< crossings only in bodies of few faces
  Full    ///< crossings in all: some seconds for a body of 300 faces
};

/// Where the body cannot be trusted, one sentence a place: faces that are not valid, edges that join no two faces (the
/// first few of each), and where it cuts itself.
std::vector<std::string> flawsIn(const FileBody& body, Search search, Progress& progress);

}  // namespace kervo
