// A take's recording replaced by another copy of the same performance.
#include "piece/edits.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr double kShortest_s = 0.01;  // of what is left of a note that the copy cuts
constexpr double kCutAttack_s = 0.02; // a note that begins so little before the copy is in it

// What lies outside of its recording is cut off, or goes.
void cutToLength(Take& take) {
    const TimeRange all{0.0, take.length_s};
    const auto cut = [&all](auto& spans, auto span) {
        for (auto& one : spans)
            one.*span = (one.*span).clippedTo(all);
        std::erase_if(spans, [span](const auto& one) { return (one.*span).empty(); });
    };
    if (!take.trim.empty())
        take.trim = take.trim.clippedTo(all);
    if (take.trim.empty())
        take.trim = {};
    cut(take.sound_spans, &SoundSpan::span);
    cut(take.demonstrations, &Demonstration::span);
    std::erase_if(take.notes, [&all](const TakeNote& n) { return !all.contains(n.time.start_s); });
    for (Demonstration& one : take.demonstrations) {
        std::erase_if(one.moments, [&all](const SharedMoment& m) {
            return m.take_s < all.start_s || m.take_s > all.end_s;
        });
        if (!one.inPiece()) {
            one.moments.clear();
            one.kind = DemonstrationKind::Other;
        }
    }
}

void useRecording(Take& take, const Take& copy) {
    take.path = copy.path;
    take.sha256 = copy.sha256;
    take.length_s = copy.length_s;
    take.sound_stream = copy.sound_stream;
    take.channels = copy.channels;
    take.has_picture = copy.has_picture;
    take.quality = copy.quality;
    take.film = copy.film; // the neck is elsewhere in another film
    take.cautions = copy.cautions;
}

// All that was measured against full scale.
void makeLouder(Piece& piece, double by_db) {
    for (Note& note : piece.notes)
        note.loudness_db += by_db;
    for (StringTrait& string : piece.string_traits)
        for (ToneTrait& trait : string.tone)
            trait.at_open -= trait.per_db * by_db;
}

} // namespace

void PieceEditor::keepNotes(TimeRange span) {
    const auto before = [](const Note& note, double at_s) { return note.onset_s() < at_s; };
    const auto from =
        std::lower_bound(m_piece.notes.begin(), m_piece.notes.end(), span.start_s, before);
    const auto to = std::lower_bound(from, m_piece.notes.end(), span.end_s, before);
    const auto first = from - m_piece.notes.begin();
    const auto last = to - m_piece.notes.begin();
    const auto keep = [first, last](auto& all) {
        all.erase(all.begin() + last, all.end());
        all.erase(all.begin(), all.begin() + first);
    };
    keep(m_piece.notes);
    for (Reading& each : m_piece.readings)
        keep(each.plans);
}

Status PieceEditor::useCopy(std::size_t index,
                            const Take& copy,
                            const ClockChange& clock,
                            double louder_db) {
    if (index >= m_piece.takes.size())
        return badCall("there is no such take");
    const double a4_hz = m_piece.takes[index].reference.a4_hz / clock.rate; // slower sounds lower
    if (!(clock.rate > 0.0) || !(a4_hz >= kLowestA4Hz && a4_hz <= kHighestA4Hz))
        return badCall("the copy runs at a speed that no tuning fits");
    changeClock(m_piece, index, clock);
    Take& take = m_piece.takes[index];
    useRecording(take, copy);
    take.reference.a4_hz = a4_hz;
    cutToLength(take);
    if (index == 0) {
        makeLouder(m_piece, louder_db);
        keepNotes({-kCutAttack_s, copy.length_s});
        for (Note& note : m_piece.notes) {
            note.time.value.start_s = std::max(0.0, note.onset_s());
            note.time.value.end_s = std::max(note.offset_s(), note.onset_s() + kShortest_s);
        }
        std::erase_if(m_piece.chord_names, [](const NamedChord& c) { return c.at_s < 0.0; });
        std::erase_if(m_piece.marks, [&copy](const SheetMark& m) {
            return m.at_s < 0.0 || m.to_s > copy.length_s;
        });
        std::erase_if(m_piece.misses, [&copy](const NearMiss& miss) {
            return miss.time.start_s < 0.0 || miss.time.start_s >= copy.length_s;
        });
    }
    log("another copy of a take", 0);
    return {};
}

} // namespace wirenote
