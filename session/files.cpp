#include "session/files.h"

#include "base/atomic_file.h"
#include "base/text.h"
#include "form/pulse_choices.h"
#include "formats/ascii_tab.h"
#include "formats/csv.h"
#include "formats/jams.h"
#include "formats/midi_file.h"
#include "formats/musicxml.h"
#include "formats/mxl.h"
#include "formats/notes_json.h"
#include "formats/piece_json.h"
#include "media/checksum.h"
#include "session/resolve.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <ctime>
#include <new>

namespace wirenote {
namespace {

constexpr std::size_t kLargestFile = 256'000'000;
namespace fs = std::filesystem;

Error inFile(const fs::path& path, Error error) {
    if (error.file.empty())
        error.file = path.string();
    return error;
}

Result<Piece> decode(const std::string& bytes,
                     FileFormat format,
                     const fs::path& path,
                     std::vector<std::string>* unread) {
    switch (format) {
    case FileFormat::Piece:
        return readPieceJson(bytes);
    case FileFormat::Notes:
        return readNotesJson(bytes);
    case FileFormat::Midi:
        return readMidi(bytes);
    case FileFormat::MusicXml:
        return readMusicXml(bytes, unread);
    case FileFormat::Mxl: {
        const auto score = uncompressMusicXml(bytes);
        return score ? readMusicXml(*score, unread) : Result<Piece>(score.error());
    }
    case FileFormat::AsciiTab: {
        auto tab = readAsciiTab(bytes);
        if (!tab)
            return tab.error();
        if (unread)
            *unread = std::move(tab->unread);
        return std::move(tab->piece);
    }
    case FileFormat::Csv:
    case FileFormat::Jams:
        break;
    }
    return badInput({},
                    "can be written but not read (" + cleanText(path.extension().string()) +
                        "); use .wirenote, .json, .mid, .musicxml, .mxl or .tab");
}

// A path beside or below `folder`, without climbing out of it; empty otherwise.
fs::path below(const fs::path& path, const fs::path& folder) {
    std::error_code code;
    const fs::path relative = fs::relative(path, folder, code);
    return code || relative.empty() || *relative.begin() == ".." ? fs::path() : relative;
}

} // namespace

Result<FileFormat> formatOf(const fs::path& path) {
    std::string ending = path.extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) {
        return static_cast<char>(std::tolower(c));
    });
    if (ending == ".wirenote")
        return FileFormat::Piece;
    if (ending == ".json")
        return FileFormat::Notes;
    if (ending == ".mid" || ending == ".midi")
        return FileFormat::Midi;
    if (ending == ".musicxml" || ending == ".xml")
        return FileFormat::MusicXml;
    if (ending == ".mxl")
        return FileFormat::Mxl;
    if (ending == ".csv")
        return FileFormat::Csv;
    if (ending == ".tab" || ending == ".txt")
        return FileFormat::AsciiTab;
    if (ending == ".jams")
        return FileFormat::Jams;
    return badCall(
        path.string() +
        ": the ending tells the format; use .wirenote, .json, .mid, .musicxml, .mxl, .tab, .csv or "
        ".jams");
}

namespace {

// Other tempi at which the beat may be felt, unless a person has said it.
std::vector<TempoAlternative> alternativesOf(const Piece& piece) {
    constexpr double kSame = 0.03;
    constexpr double kLeast = 0.01; // less likely ones are not worth a word
    constexpr std::size_t kMost = 4;
    std::vector<TempoAlternative> others;
    if (piece.settled.tempo || piece.timeline.basis == Basis::Set)
        return others;
    const auto isNear = [](double bpm) {
        return [bpm](double other) { return std::abs(other / bpm - 1.0) < kSame; };
    };
    for (const PulseChoice& choice : tempoChoices(piece.notes, piece.timeline)) {
        const double bpm = choice.timeline.tempo_bpm;
        if (choice.now || choice.probability < kLeast || others.size() >= kMost ||
            isNear(piece.timeline.tempo_bpm)(bpm) ||
            std::ranges::any_of(others, isNear(bpm), &TempoAlternative::bpm))
            continue;
        others.push_back({bpm, choice.probability});
    }
    return others;
}

std::string written(const Piece& piece, FileFormat format) {
    switch (format) {
    case FileFormat::Piece:
        return writePieceJson(piece);
    case FileFormat::Notes:
        return writeNotesJson(piece, alternativesOf(piece));
    case FileFormat::Midi:
        return writeMidi(piece);
    case FileFormat::MusicXml:
        return writeMusicXml(piece);
    case FileFormat::Mxl:
        return compressMusicXml(writeMusicXml(piece));
    case FileFormat::AsciiTab:
        return writeAsciiTab(piece);
    case FileFormat::Csv:
        return writeCsv(piece);
    case FileFormat::Jams:
        return writeJams(piece);
    }
    return {};
}

Status opensAgain(const std::string& bytes, const Piece& piece) {
    const auto again = readPieceJson(bytes);
    if (again && again->notes.size() == piece.notes.size() &&
        again->takes.size() == piece.takes.size())
        return {};
    return Error{ErrorKind::Internal,
                 {},
                 "was not written, because it would not open again (" +
                     (again ? std::string("something was missing") : again.error().message) +
                     "); undo the last change and try again"};
}

// The takes' paths as they are stored in a file there.
Piece storedAt(const Piece& piece, const fs::path& path) {
    Piece stored = piece;
    const auto relate = [folder = fs::absolute(path).parent_path()](std::string& file) {
        if (!fs::path(file).is_absolute())
            return;
        if (const fs::path relative = below(file, folder); !relative.empty())
            file = relative.string();
    };
    for (Take& take : stored.takes)
        relate(take.path);
    for (PaperScore& paper : stored.papers)
        relate(paper.path);
    relate(stored.lesson.captions);
    return stored;
}

Error outOfMemory() {
    return {ErrorKind::Internal,
            {},
            "needs more memory than there is; close other programs and try again"};
}

} // namespace

Result<std::string> encode(const Piece& piece, FileFormat format) try {
    if (const Status sound = checkPiece(piece); !sound)
        return Error{ErrorKind::BadInput,
                     {},
                     "cannot be written: " + sound.error().message + "; put that right first"};
    std::string bytes = written(piece, format);
    if (format == FileFormat::Piece)
        if (const Status sound = opensAgain(bytes, piece); !sound)
            return sound.error();
    return bytes;
} catch (const std::bad_alloc&) {
    return outOfMemory();
}

Result<Piece> readGiven(const fs::path& path, std::vector<std::string>* unread) try {
    const auto format = formatOf(path);
    if (!format)
        return format.error();
    const auto bytes = readWholeFile(path, kLargestFile);
    if (!bytes)
        return bytes.error();
    auto piece = decode(*bytes, *format, path, unread);
    if (!piece)
        return inFile(path, piece.error());
    if (piece->title.empty()) {
        piece->title = cleanText(path.stem().string());
        piece->title_guessed = true;
    }
    return piece;
} catch (const std::bad_alloc&) {
    return inFile(path, outOfMemory());
}

Result<Piece> readAny(const fs::path& path, std::vector<std::string>* unread) try {
    auto piece = readGiven(path, unread);
    if (!piece)
        return piece;
    const auto& plans = piece->asPlayed().plans;
    if (*formatOf(path) != FileFormat::Piece &&
        std::any_of(plans.begin(), plans.end(), [](const NotePlan& p) { return !p.placed(); }))
        placeAndStroke(*piece);
    return piece;
} catch (const std::bad_alloc&) {
    return inFile(path, outOfMemory());
}

Status writeTogether(const Piece& piece, const std::vector<OutputFile>& files) {
    OutputFiles ready;
    for (const OutputFile& file : files) {
        const auto format = file.format ? Result<FileFormat>(*file.format) : formatOf(file.path);
        if (!format)
            return format.error();
        const auto bytes =
            encode(*format == FileFormat::Piece ? storedAt(piece, file.path) : piece, *format);
        if (!bytes)
            return inFile(file.path, bytes.error());
        if (const Status made = ready.add(file.path, *bytes); !made)
            return made;
    }
    return ready.putInPlace();
}

Status writeAny(const Piece& piece, const fs::path& path) {
    return writeTogether(piece, {{path, {}}});
}

fs::path mediaPathOf(const Take& take, const fs::path& piece_file) {
    return pathBeside(take.path, piece_file);
}

fs::path pathBeside(const fs::path& media, const fs::path& piece_file) {
    if (media.empty() || media.is_absolute())
        return media;
    const fs::path inside = media.lexically_normal();
    return *inside.begin() == ".." ? fs::path() : fs::absolute(piece_file).parent_path() / inside;
}

MediaState mediaStateOf(const Take& take, const fs::path& piece_file) {
    if (take.path.empty())
        return MediaState::NoMedia;
    const fs::path media = mediaPathOf(take, piece_file);
    std::error_code code;
    if (media.empty() || !fs::is_regular_file(media, code))
        return MediaState::Missing;
    const auto fingerprint = mediaFingerprint(media);
    if (!fingerprint)
        return MediaState::Missing;
    return take.sha256.empty() || *fingerprint == take.sha256 ? MediaState::Found
                                                              : MediaState::Changed;
}

std::string nowIso8601() {
    const std::time_t now = std::chrono::system_clock::to_time_t(std::chrono::system_clock::now());
    std::tm utc{};
    gmtime_r(&now, &utc);
    char text[32];
    std::strftime(text, sizeof text, "%Y-%m-%dT%H:%M:%SZ", &utc);
    return text;
}

} // namespace wirenote
