// Pieces and exports on disk. Which format a file has is told by its ending.
#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace wirenote {

enum class FileFormat { Piece, Notes, Midi, MusicXml, Mxl, AsciiTab, Csv, Jams };

// .wirenote, .json, .mid/.midi, .musicxml/.xml, .mxl, .tab/.txt, .csv, .jams
Result<FileFormat> formatOf(const std::filesystem::path& path);

// The piece in one of the open formats. Refused is what does not pass checkPiece, so that nothing
// is written that cannot be opened again; a piece file is also read back before it is returned.
Result<std::string> encode(const Piece& piece, FileFormat format);

// Reads any format that can be read; notes without a place are placed. The title defaults to the
// file's name. Relative media paths stay relative to the file. `unread`: what of the file could not
// be read, and where.
Result<Piece> readAny(const std::filesystem::path& path,
                      std::vector<std::string>* unread = nullptr);
// The same as it stands in the file: nothing is placed that has no place there.
Result<Piece> readGiven(const std::filesystem::path& path,
                        std::vector<std::string>* unread = nullptr);

// One file to write, in a format of its own or in that of its ending.
struct OutputFile {
    std::filesystem::path path;
    std::optional<FileFormat> format;
};

// All of them made ready first, then put in place: when one cannot be made, none is written.
Status writeTogether(const Piece& piece, const std::vector<OutputFile>& files);

// Writes in the format of the ending, whole or not at all. For a piece file the takes' paths
// are stored relative to it where the recordings lie in its folder or below, and absolute
// elsewhere.
Status writeAny(const Piece& piece, const std::filesystem::path& path);

// Where a take's recording is: resolved against the piece file's folder. Empty when it has none, or
// when a relative path climbs out of that folder.
std::filesystem::path mediaPathOf(const Take& take, const std::filesystem::path& piece_file);
// The same of any file that a piece names.
std::filesystem::path pathBeside(const std::filesystem::path& path,
                                 const std::filesystem::path& piece_file);

enum class MediaState { NoMedia, Found, Missing, Changed }; // Changed: another file of that name
MediaState mediaStateOf(const Take& take, const std::filesystem::path& piece_file);

// The current time as ISO 8601, UTC.
std::string nowIso8601();

} // namespace wirenote
