#include "session/compare_sources.h"

#include "session/files.h"
#include "session/other_readings.h"

#include <algorithm>
#include <charconv>
#include <filesystem>

namespace wirenote {
namespace {

struct Source {
    Piece piece;
    std::string name;
};

Result<Source> sourceOf(const Piece& piece, const std::string& said) {
    const auto named = std::ranges::find_if(
        piece.readings, [&](const Reading& reading) { return reading.head.name == said; });
    if (named != piece.readings.end())
        return Source{asReading(piece, static_cast<std::size_t>(named - piece.readings.begin())),
                      said};
    std::size_t number = 0;
    const auto [end, failed] = std::from_chars(said.data(), said.data() + said.size(), number);
    if (failed == std::errc{} && end == said.data() + said.size() && number >= 1 &&
        number <= piece.readings.size())
        return Source{asReading(piece, number - 1), piece.readings[number - 1].head.name};
    std::error_code code;
    if (std::filesystem::is_regular_file(said, code)) {
        auto score = readGiven(said);
        if (!score)
            return score.error();
        return Source{asReading(*score, 0), said};
    }
    std::string all;
    for (const Reading& reading : piece.readings)
        all += (all.empty() ? "\"" : ", \"") + reading.head.name + "\"";
    return badCall("\"" + said + "\" is neither a reading of the piece (" + all +
                   ") nor a file that is there");
}

} // namespace

Result<ComparedSources>
compareSources(const Piece& piece, const std::string& a, const std::string& b) {
    const auto one = sourceOf(piece, a);
    if (!one)
        return one.error();
    const auto other = sourceOf(piece, b);
    if (!other)
        return other.error();
    return ComparedSources{compareReadings(one->piece, other->piece), one->name, other->name};
}

} // namespace wirenote
