#include "session/workspace.h"

#include "media/checksum.h"
#include "media/decode.h"
#include "session/files.h"
#include "session/transcribe.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr double kOverviewStep_s = 0.002;
namespace fs = std::filesystem;

bool isRecording(const fs::path& path) {
    std::string ending = path.extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) {
        return static_cast<char>(std::tolower(c));
    });
    return !formatOf(path).ok() || ending == ".wav" || ending == ".flac";
}

std::string cautionSentence(const Piece& piece, const fs::path& file, MediaState state) {
    if (state == MediaState::Missing)
        return "The recording \"" + mediaPathOf(piece, file).string() +
               "\" is not there. The tab is complete; find the recording to hear it.";
    if (state == MediaState::Changed)
        return "The recording \"" + mediaPathOf(piece, file).string() +
               "\" is not the one this tab was made from.";
    return {};
}

Result<OpenedPiece>
openRecording(const fs::path& path, const OpenOptions& options, const JobControl& job) {
    TranscribeOptions transcription;
    transcription.instrument = options.instrument;
    auto piece = transcribe(path, transcription, job);
    if (!piece)
        return piece.error();
    piece->take->path = fs::absolute(path).string();
    auto take = loadTake(path, job);
    if (!take)
        return take.error();
    OpenedPiece opened{std::move(*piece), {}, std::move(*take), {}};
    if (opened.piece.notes.empty())
        opened.caution =
            "No note was heard in this recording. Is it the right one, and the right instrument?";
    return opened;
}

} // namespace

Result<TakeSound> loadTake(const fs::path& media, const JobControl& job) {
    JobControl quiet = job;
    quiet.progress = {};
    auto decoded = decodeSound(media, kPlayingRateHz, quiet);
    if (!decoded)
        return decoded.error();
    TakeSound take;
    take.overview = overviewOf(decoded->mono.view(), kOverviewStep_s);
    take.sound = std::make_shared<const Sound>(std::move(decoded->mono));
    return take;
}

Result<OpenedPiece>
openAny(const fs::path& path, const OpenOptions& options, const JobControl& job) {
    if (isRecording(path))
        return openRecording(path, options, job);
    auto piece = readAny(path);
    if (!piece)
        return piece.error();
    OpenedPiece opened{std::move(*piece), {}, {}, {}};
    if (*formatOf(path) == FileFormat::Piece)
        opened.file = fs::absolute(path);
    const MediaState state = mediaStateOf(opened.piece, path);
    opened.caution = cautionSentence(opened.piece, path, state);
    if (state == MediaState::Found) {
        const fs::path media = mediaPathOf(opened.piece, path);
        auto take = loadTake(media, job);
        if (take) {
            opened.take = std::move(*take);
            opened.piece.take->path = media.string(); // absolute while open
        } else if (take.error().kind == ErrorKind::Cancelled) {
            return take.error();
        } else {
            opened.caution = take.error().sentence();
        }
    }
    return opened;
}

Status relocateMedia(Piece& piece, const fs::path& media, bool accept_other) {
    if (!piece.take)
        return badCall("this piece has no recording");
    const auto checksum = fileSha256(media);
    if (!checksum)
        return checksum.error();
    if (*checksum != piece.take->sha256 && !piece.take->sha256.empty() && !accept_other)
        return badInput(media.string(), "is another recording than the one this tab was made from");
    piece.take->path = fs::absolute(media).string();
    piece.take->sha256 = *checksum;
    return {};
}

Result<EditOutcome> tryEdit(const Piece& piece,
                            double around_s,
                            const std::function<Status(PieceEditor&)>& edit,
                            bool whole_piece) {
    Piece copy = piece;
    PieceEditor editor(copy, nowIso8601());
    if (const Status edited = edit(editor); !edited)
        return edited.error();
    // What the edit itself touched, to tell it from what followed.
    const PieceDelta direct = difference(piece, copy);
    if (whole_piece)
        placeAndStroke(copy);
    else
        resolveAround(copy, around_s);
    EditOutcome outcome{difference(piece, copy), {}};
    const auto touched = direct.changedNotes();
    for (const NoteId id : outcome.delta.changedNotes()) {
        const NotePlan* before = piece.plan(id);
        const NotePlan* after = copy.plan(id);
        const bool moved = before && after && before->position.value != after->position.value;
        if (moved && std::find(touched.begin(), touched.end(), id) == touched.end())
            outcome.followed.push_back(id);
    }
    return outcome;
}

} // namespace wirenote
