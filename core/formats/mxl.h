#pragma once

#include "base/result.h"

#include <string>

namespace wirenote {

// Compressed MusicXML (.mxl): an archive that names its score in META-INF/container.xml (MusicXML
// 3.0, "container.xsd").
std::string compressMusicXml(const std::string& musicxml);

// The score out of such an archive. Nothing is written anywhere. Refused: what is no archive, names
// no score in it, holds more than 1,000 files, or a score of more than 64 MB.
Result<std::string> uncompressMusicXml(const std::string& archive);

} // namespace wirenote
