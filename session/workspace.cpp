#include "session/workspace.h"

#include "base/atomic_file.h"
#include "base/text.h"
#include "fretting/placing.h"
#include "media/checksum.h"
#include "piece/in_reading.h"
#include "session/demonstrate.h"
#include "session/files.h"
#include "session/journal_file.h"
#include "session/piece_guard.h"
#include "session/resolve.h"
#include "session/transcribe.h"

#include <algorithm>
#include <iterator>
#include <unordered_map>

namespace wirenote {
namespace {

namespace fs = std::filesystem;

std::string cautionSentence(const Take& take, MediaState state) {
    if (state == MediaState::Missing)
        return "The recording \"" + take.path +
               "\" is not there. The tab is complete; find the recording to hear it.";
    if (state == MediaState::Changed)
        return "The recording \"" + take.path + "\" is not the one this tab was made from.";
    return {};
}

Result<OpenedPiece> openRecording(const fs::path& path, const OpenOptions& options) {
    auto media = openTakeMedia(path);
    if (!media)
        return media.error();
    OpenedPiece opened;
    opened.piece.title = cleanText(path.stem().string());
    opened.piece.title_guessed = true;
    opened.piece.instrument = options.instrument;
    opened.piece.takes = {takeOf(path, media->info)};
    opened.media.push_back(std::move(*media));
    opened.unheard = true;
    return opened;
}

// Finds and opens the media of every take; the first thing amiss becomes the caution.
void openMedia(OpenedPiece& opened, const fs::path& path) {
    for (PaperScore& paper : opened.piece.papers)
        paper.path = pathBeside(paper.path, path).string(); // absolute while open
    if (std::string& captions = opened.piece.lesson.captions; !captions.empty())
        captions = pathBeside(captions, path).string();
    for (Take& take : opened.piece.takes) {
        opened.media.emplace_back();
        const MediaState state = mediaStateOf(take, path);
        std::string caution = cautionSentence(take, state);
        if (state == MediaState::Found) {
            const fs::path file = mediaPathOf(take, path);
            auto media = openTakeMedia(file, take.sound_stream);
            if (media) {
                opened.media.back() = std::move(*media);
                take.path = file.string(); // absolute while open
            } else {
                caution = media.error().sentence();
            }
        }
        if (opened.caution.empty())
            opened.caution = std::move(caution);
    }
}

} // namespace

bool isRecording(const fs::path& path) {
    return !formatOf(path).ok();
}

Result<OpenedPiece>
openAny(const fs::path& path, const OpenOptions& options, const JobControl& job) {
    if (isRecording(path))
        return openRecording(path, options);
    const std::string state = fileState(path); // before: what changes while it is read is noticed
    std::vector<std::string> unread;
    auto piece = readAny(path, &unread);
    if (!piece)
        return piece.error();
    if (job.cancelRequested())
        return cancelled();
    sweepLeftovers(fs::absolute(path).parent_path()); // of a save that was killed
    OpenedPiece opened;
    opened.piece = std::move(*piece);
    if (*formatOf(path) == FileFormat::Piece) {
        opened.file = fs::absolute(path);
        opened.file_state = state;
    }
    openMedia(opened, path);
    if (opened.caution.empty() && !unread.empty())
        opened.caution =
            "Not all of it could be read: " + unread.front() +
            (unread.size() > 1 ? ", and " + std::to_string(unread.size() - 1) + " more." : ".");
    return opened;
}

Result<OpenedPiece> openKept(const fs::path& journal) {
    auto kept = recoverFrom(journal);
    if (!kept)
        return kept.error();
    OpenedPiece opened;
    opened.piece = std::move(kept->piece);
    opened.file = kept->header.piece_file;
    opened.file_state = kept->header.fingerprint;
    opened.unsaved = true;
    openMedia(opened, opened.file);
    return opened;
}

Result<Piece> hearLead(const Piece& piece,
                       TimeRange span,
                       const JobControl& job,
                       const HeardSoFar& so_far,
                       Talk talk) {
    const Take* lead = piece.lead();
    if (!lead || lead->path.empty())
        return badCall("this tab has no recording to hear");
    TranscribeOptions options;
    options.instrument = piece.instrument;
    options.sound_stream = lead->sound_stream;
    options.channels = lead->channels;
    options.span = span.empty() ? lead->trim : span;
    if (lead->reference.basis == Basis::Set)
        options.a4_hz = lead->reference.a4_hz;
    if (piece.timeline.basis == Basis::Set) {
        options.tempo_bpm = piece.timeline.tempo_bpm;
        options.metre = piece.timeline.metre;
    }
    if (piece.asPlayed().head.tool.isSet())
        options.plucking = piece.asPlayed().head.tool.value;
    options.so_far = so_far;
    options.talk = talk;
    options.film = asBefore(lead->film);
    options.film_seen = [](const Result<FilmFacts>&) {
    }; // one without a neck leaves the sound alone
    std::ranges::copy_if(lead->sound_spans,
                         std::back_inserter(options.said),
                         [](const SoundSpan& one) { return one.basis == Basis::Set; });
    if (std::ranges::any_of(piece.string_traits, [](const StringTrait& t) {
            return t.basis == Basis::Set; // by a calibration
        }))
        options.string_traits = piece.string_traits;
    auto heard = transcribe(lead->path, options, job);
    if (heard)
        measureNeck(*heard->lead(), job);
    return heard;
}

namespace {

// The frame of a piece and a part of its notes with their plans, without its log.
Piece excerpt(const Piece& piece, IndexSpan part) {
    const auto of = [part](const auto& all) {
        const auto begin = all.begin() + static_cast<std::ptrdiff_t>(part.first);
        return std::decay_t<decltype(all)>(begin, begin + static_cast<std::ptrdiff_t>(part.size()));
    };
    Piece some;
    setFrame(frameOf(piece), some);
    some.notes = of(piece.notes);
    for (std::size_t r = 0; r < piece.readings.size(); ++r)
        some.readings[r].plans = of(piece.readings[r].plans);
    return some;
}

// Places that are sure stand like what a person set, for as long as the rest is worked out.
void placeAroundWhatIsSure(Piece& piece) {
    std::vector<std::unordered_map<NoteId, Decision<Position>>> sure;
    for (Reading& reading : piece.readings) {
        auto& kept = sure.emplace_back();
        for (NotePlan& plan : reading.plans)
            if (plan.placed() && !plan.position.isSet() &&
                plan.position.probability >= kSurePlace) {
                kept.emplace(plan.note, plan.position);
                plan.position.basis = Basis::Set;
            }
    }
    placeAndStroke(piece);
    for (std::size_t r = 0; r < piece.readings.size(); ++r)
        for (NotePlan& plan : piece.readings[r].plans)
            if (const auto was = sure[r].find(plan.note); was != sure[r].end())
                plan.position = was->second;
}

void resolve(Piece& piece, double around_s, Resolve how) {
    if (how == Resolve::WholePiece)
        placeAndStroke(piece);
    else if (how == Resolve::AroundWhatIsSure)
        placeAroundWhatIsSure(piece);
    else if (how == Resolve::Versions)
        weighVersions(piece);
    else if (how == Resolve::Strokes)
        for (std::size_t r = 0; r < piece.readings.size(); ++r)
            strokeAll(piece, r);
    else if (how == Resolve::Neighbourhood)
        resolveAround(piece, around_s);
}

struct Tried {
    Result<EditOutcome> outcome;
    bool of_notes_there =
        true; // false: it named a note that is not there, or was of more than notes
};

// Whether a change concerns notes, and only what comes and goes with them.
bool ofNotesOnly(const Piece& before, const Piece& after) {
    return before.title == after.title && before.about == after.about &&
           before.settled == after.settled && before.instrument == after.instrument &&
           before.takes == after.takes && before.timeline == after.timeline &&
           before.key == after.key && before.string_traits == after.string_traits &&
           before.chord_names == after.chord_names && before.marks == after.marks &&
           before.followed == after.followed &&
           std::ranges::equal(before.readings, after.readings, {}, &Reading::head, &Reading::head);
}

Tried editAll(const Piece& before,
              double around_s,
              const std::function<Status(PieceEditor&)>& edit,
              Resolve how,
              std::size_t reading = 0) {
    Piece after = before;
    PieceEditor editor(after, nowIso8601(), reading);
    const Status edited = edit(editor);
    const bool of_notes_there = !editor.missedANote() && ofNotesOnly(before, after);
    if (!edited)
        return {edited.error(), of_notes_there};
    if (const Status sound = checkPiece(after); !sound)
        return {badCall("this cannot be done: " + sound.error().message), of_notes_there};
    // What the edit itself touched, to tell it from what followed.
    const PieceDelta direct = difference(before, after);
    resolve(after, around_s, how);
    EditOutcome outcome{difference(before, after), {}, {}};
    const auto touched = direct.changedNotes();
    for (const NoteId id : outcome.delta.changedNotes()) {
        const NotePlan* was = before.plan(id);
        const NotePlan* is = after.plan(id);
        if (!was || !is || std::find(touched.begin(), touched.end(), id) != touched.end())
            continue;
        if (was->position.value != is->position.value)
            outcome.followed.push_back(id);
        else if (was->finger.value != is->finger.value)
            outcome.refingered.push_back(id);
    }
    return {std::move(outcome), of_notes_there};
}

// An edit in an excerpt that holds all that the neighbourhood depends on. Nothing: it has to be
// done on the whole piece – it names notes elsewhere, changes more than notes, or looks further.
std::optional<Result<EditOutcome>>
editNear(const Piece& piece, double around_s, const std::function<Status(PieceEditor&)>& edit) {
    constexpr std::size_t kSpare = 40; // notes that the edit may add or take away on either side
    IndexSpan part = whatMattersTo(piece.notes, neighbourhood(piece.notes, around_s));
    part.first -= std::min(part.first, kSpare);
    part.end = std::min(piece.notes.size(), part.end + kSpare);
    if (part.size() == piece.notes.size() || piece.notes.size() >= kMaxNotes ||
        !std::ranges::all_of(piece.readings, wasAsked))
        return {};
    Piece some = excerpt(piece, part);
    Tried tried = editAll(some, around_s, edit, Resolve::Neighbourhood);
    if (!tried.of_notes_there)
        return {};
    if (!tried.outcome)
        return tried.outcome;
    apply(tried.outcome->delta, some);
    const IndexSpan needed = whatMattersTo(some.notes, neighbourhood(some.notes, around_s));
    if ((needed.first == 0 && part.first > 0) ||
        (needed.end == some.notes.size() && part.end < piece.notes.size()))
        return {};
    return std::move(tried.outcome);
}

} // namespace

Result<EditOutcome> tryEdit(const Piece& piece,
                            double around_s,
                            const std::function<Status(PieceEditor&)>& edit,
                            Resolve how,
                            std::size_t reading) {
    if (how == Resolve::Neighbourhood && reading == 0)
        if (auto near = editNear(piece, around_s, edit))
            return std::move(*near);
    return editAll(piece, around_s, edit, how, reading).outcome;
}

Result<EditOutcome> tryEditIn(const Piece& piece,
                              std::size_t reading,
                              double around_s,
                              const std::function<Status(PieceEditor&)>& edit,
                              Resolve how) {
    const Piece before = bareReading(piece, reading);
    auto inner = tryEdit(before, around_s, edit, how);
    if (!inner)
        return inner;
    Piece after = before;
    apply(inner->delta, after);
    Piece folded = piece;
    if (const Status put = foldReading(before, after, folded, reading); !put)
        return put.error();
    if (const Status sound = checkPiece(folded); !sound)
        return badCall("this cannot be done: " + sound.error().message);
    inner->delta = difference(piece, folded);
    return inner;
}

} // namespace wirenote
