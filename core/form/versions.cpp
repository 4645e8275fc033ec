#include "form/versions.h"

#include "form/demonstrations.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

namespace wirenote {
namespace {

constexpr int kFarthest = 7; // semitones: what lies further off is another note, not it

struct Played {
    PlayedNote note;
    double piece_s = 0.0;
    int midi = 60; // as it would sound in the piece
    bool paired = false;
};

// What was played in a demonstration, at its place in the piece.
std::vector<Played> placedIn(const Version& shown, const std::vector<PlayedNote>& notes) {
    std::vector<Played> placed;
    auto at = std::ranges::lower_bound(notes, shown.span.start_s, {}, &PlayedNote::at_s);
    for (; at != notes.end() && at->at_s < shown.span.end_s; ++at)
        placed.push_back({*at, inPiece(shown.moments, at->at_s), at->midi - shown.semitones});
    return placed;
}

// Compares one demonstration with the piece.
class Comparing {
  public:
    Comparing(const std::vector<PlayedNote>& piece, std::vector<Played> played, Version& version)
        : m_piece(piece), m_played(std::move(played)), m_version(version) {}

    void run() {
        const double from_s = m_version.of_piece.start_s - kSamePlace_s;
        const double to_s = m_version.of_piece.end_s - kSamePlace_s;
        std::vector<const PlayedNote*> unpaired;
        auto note = std::ranges::lower_bound(m_piece, from_s, {}, &PlayedNote::at_s);
        for (; note != m_piece.end() && note->at_s < to_s; ++note)
            if (!pairSame(*note))
                unpaired.push_back(&*note);
        for (const PlayedNote* one : unpaired)
            pairOther(*one);
        for (const Played& one : m_played)
            if (!one.paired)
                differs(VersionDifferenceKind::Added, one.piece_s, 0, &one, one.note.belief);
        std::ranges::stable_sort(m_version.differences, {}, &VersionDifference::piece_s);
    }

  private:
    // The nearest that `fits`, of those that are left.
    template <class Cost> Played* nearest(const PlayedNote& note, const Cost& cost) {
        Played* best = nullptr;
        double least = 1.0;
        auto at = std::ranges::lower_bound(
            m_played, note.at_s - 2.0 * kSamePlace_s, {}, &Played::piece_s);
        for (; at != m_played.end() && at->piece_s <= note.at_s + kSamePlace_s; ++at)
            if (const double c = cost(*at); !at->paired && c < least) {
                least = c;
                best = &*at;
            }
        return best;
    }

    static double apart(const PlayedNote& note, const Played& other) {
        return std::abs(other.piece_s - note.at_s) / kSamePlace_s;
    }

    bool pairSame(const PlayedNote& note) {
        Played* other = nearest(
            note, [&note](const Played& p) { return p.midi == note.midi ? apart(note, p) : 2.0; });
        if (!other)
            return false;
        other->paired = true;
        m_version.same.push_back({note.index, other->note.index});
        if (other->note.slurred != note.slurred)
            differs(other->note.slurred ? VersionDifferenceKind::Slurred
                                        : VersionDifferenceKind::Struck,
                    note.at_s,
                    note.index,
                    other,
                    std::min(note.belief, other->note.belief));
        return true;
    }

    void pairOther(const PlayedNote& note) {
        Played* other = nearest(note, [&note](const Played& p) {
            const int off = std::abs(p.midi - note.midi);
            return off == 0 || off > kFarthest ? 2.0
                                               : 0.5 * apart(note, p) + 0.49 * off / kFarthest;
        });
        if (!other) {
            differs(VersionDifferenceKind::Missing, note.at_s, note.index, nullptr, note.belief);
            return;
        }
        other->paired = true;
        differs(VersionDifferenceKind::Pitch,
                note.at_s,
                note.index,
                other,
                std::min(note.belief, other->note.belief));
    }

    void differs(VersionDifferenceKind kind,
                 double piece_s,
                 std::size_t note,
                 const Played* played,
                 double belief) {
        m_version.differences.push_back({kind,
                                         piece_s,
                                         note,
                                         played ? played->note.index : 0,
                                         played ? played->midi : 0,
                                         belief});
    }

    const std::vector<PlayedNote>& m_piece; // by time
    std::vector<Played> m_played;           // by time in the piece
    Version& m_version;
};

// How many other versions (the piece among them) have the note that `one` leaves or changes, and
// how many differ in the same way.
struct Agreement {
    int with_piece = 1;
    int with_it = 0;
};
Agreement
agreementOn(const VersionDifference& one, const Version& of, const std::vector<Version>& versions) {
    Agreement agree;
    for (const Version& other : versions) {
        if (&other == &of || !other.of_piece.contains(one.piece_s) || !other.learn)
            continue;
        const bool so = std::ranges::any_of(other.differences, [&one](const auto& d) {
            return d.kind == one.kind && d.midi == one.midi &&
                   std::abs(d.piece_s - one.piece_s) <= kSamePlace_s;
        });
        ++(so ? agree.with_it : agree.with_piece);
    }
    return agree;
}

} // namespace

std::vector<TakeNote>
playedThere(const Piece& piece, std::size_t take, const Demonstration& shown, TimeRange of_piece) {
    std::vector<TakeNote> there;
    for (const PlayedNote& note : playedIn(piece, take)) {
        const double at_s = inPiece(shown.moments, note.at_s);
        if (!shown.span.contains(note.at_s) || !of_piece.contains(at_s))
            continue;
        const auto& techniques = take == 0 ? piece.notes[note.index].techniques
                                           : piece.takes[take].notes[note.index].techniques;
        there.push_back({{at_s, inPiece(shown.moments, note.end_s)},
                         note.midi - shown.semitones,
                         note.belief,
                         techniques});
    }
    return there;
}

std::vector<Version> versionsOf(const Piece& piece,
                                const std::vector<std::vector<Demonstration>>& found) {
    std::vector<Version> versions;
    const std::vector<PlayedNote> notes = playedIn(piece, 0);
    for (std::size_t take = 0; take < found.size(); ++take) {
        const std::vector<PlayedNote> own = take == 0 ? notes : playedIn(piece, take);
        for (std::size_t d = 0; d < found[take].size(); ++d) {
            const Demonstration& shown = found[take][d];
            if (!shown.inPiece() || (take == 0 && shown.isItself()))
                continue;
            Version version;
            version.take = take;
            version.demonstration = d;
            version.span = shown.span;
            version.of_piece = shown.ofPiece();
            version.moments = shown.moments;
            version.semitones = shown.semitones;
            version.learn = shown.learn.value;
            version.refused = !shown.learn.value && shown.learn.isSet();
            Comparing(notes, placedIn(version, own), version).run();
            versions.push_back(std::move(version));
        }
    }
    return versions;
}

std::vector<Version> versionsOf(const Piece& piece) {
    std::vector<std::vector<Demonstration>> found;
    for (const Take& take : piece.takes)
        found.push_back(take.demonstrations);
    return versionsOf(piece, found);
}

namespace {

std::vector<PlayedNote> within(const std::vector<PlayedNote>& notes, TimeRange span) {
    const auto from =
        std::ranges::lower_bound(notes, span.start_s - kSamePlace_s, {}, &PlayedNote::at_s);
    const auto to =
        std::ranges::lower_bound(notes, span.end_s - kSamePlace_s, {}, &PlayedNote::at_s);
    return from < to ? std::vector<PlayedNote>(from, to) : std::vector<PlayedNote>();
}

// Where the notes of a repeat lie in the first time: bar by bar, and note by note where they are
// the same.
std::vector<SharedMoment> throughBars(const std::vector<PlayedNote>& first,
                                      TimeRange first_span,
                                      const std::vector<PlayedNote>& again,
                                      TimeRange again_span) {
    constexpr double kSameTempo = 1.3;
    constexpr double kApart_s = 0.1;
    const auto a = momentsOf(first);
    const auto b = momentsOf(again);
    MatchParameters with;
    const double tempo = first_span.length_s() / again_span.length_s();
    with.slowest = tempo / kSameTempo;
    with.fastest = tempo * kSameTempo;
    std::vector<SharedMoment> shared{{first_span.start_s, again_span.start_s}};
    for (const NoteStretch& stretch : matchNotes(a, b, with))
        for (const NoteStretch::Pair& pair : stretch.pairs)
            if (a[pair.a].at_s > shared.back().piece_s + kApart_s &&
                b[pair.b].at_s > shared.back().take_s + kApart_s &&
                a[pair.a].at_s < first_span.end_s - kApart_s &&
                b[pair.b].at_s < again_span.end_s - kApart_s)
                shared.push_back({a[pair.a].at_s, b[pair.b].at_s});
    shared.push_back({first_span.end_s, again_span.end_s});
    return shared;
}

TimeRange spanOf(const std::vector<BarContent>& bars, int first_bar, int count) {
    const auto first = std::ranges::find(bars, first_bar, &BarContent::number);
    if (first == bars.end() || bars.end() - first < count)
        return {};
    return {first->span.start_s, (first + count - 1)->span.end_s};
}

// Notes by time.
bool soundsNear(const std::vector<PlayedNote>& notes, double at_s, double near_s, int midi) {
    auto note = std::ranges::lower_bound(notes, at_s - near_s, {}, &PlayedNote::at_s);
    for (; note != notes.end() && note->at_s <= at_s + near_s; ++note)
        if (note->midi == midi)
            return true;
    return false;
}

std::size_t howMany(const std::vector<PlayedNote>& notes, double at_s) {
    const auto from = std::ranges::lower_bound(notes, at_s - kSamePlace_s, {}, &PlayedNote::at_s);
    return static_cast<std::size_t>(
        std::ranges::upper_bound(notes, at_s + kSamePlace_s, {}, &PlayedNote::at_s) - from);
}

// How surely another pitch was played, not only heard: 0..1. Where several strings sound at once,
// pitches that the chords about it have are heard by mistake, and so are octaves and twelfths of
// what sounds with it.
double
surelyAnother(const VersionDifference& one, int piece_midi, const std::vector<PlayedNote>& piece) {
    constexpr std::size_t kChord = 3;
    constexpr double kSameHarmony_s = 1.5;
    constexpr double kAlone = 1.35; // a note alone is heard well
    constexpr int kNear = 4;        // semitones
    if (one.kind != VersionDifferenceKind::Pitch)
        return 0.0;
    if (howMany(piece, one.piece_s) < kChord)
        return std::min(1.0, kAlone * one.belief) *
               (std::abs(one.midi - piece_midi) > kNear ? 0.5 : 1.0);
    if (soundsNear(piece, one.piece_s, kSameHarmony_s, one.midi))
        return 0.0;
    for (const int overtone : {12, 19, 24})
        for (const int way : {-1, 1})
            if (soundsNear(piece, one.piece_s, kSamePlace_s, one.midi + way * overtone))
                return 0.0;
    return one.belief;
}

} // namespace

std::vector<Version> repeatsOf(const Piece& piece,
                               const std::vector<BarContent>& bars,
                               const std::vector<Phrase>& phrases) {
    const std::vector<PlayedNote> notes = playedIn(piece, 0);
    std::vector<Version> repeats;
    for (const Phrase& phrase : phrases) {
        const TimeRange first = spanOf(bars, phrase.occurrences.front().first_bar, phrase.bars);
        for (std::size_t k = 1; k < phrase.occurrences.size(); ++k) {
            const Occurrence& occurrence = phrase.occurrences[k];
            const TimeRange again = spanOf(bars, occurrence.first_bar, phrase.bars);
            if (occurrence.transposed != 0 || first.empty() || again.empty())
                continue;
            Version version;
            version.span = {again.start_s - kSamePlace_s, again.end_s - kSamePlace_s};
            version.of_piece = first;
            version.moments = throughBars(within(notes, first), first, within(notes, again), again);
            Comparing(notes, placedIn(version, notes), version).run();
            repeats.push_back(std::move(version));
        }
    }
    return repeats;
}

std::optional<std::size_t> nextOfSameBars(const std::vector<Demonstration>& shown,
                                          std::size_t demonstration) {
    constexpr double kSoon_s = 40.0;
    constexpr double kSameBars = 0.6; // of the shorter of both
    const Demonstration& one = shown[demonstration];
    for (std::size_t next = demonstration + 1; one.inPiece() && next < shown.size(); ++next) {
        const Demonstration& other = shown[next];
        if (other.span.start_s - one.span.end_s > kSoon_s)
            break;
        const double both_s = one.ofPiece().clippedTo(other.ofPiece()).length_s();
        if (other.inPiece() &&
            both_s >= kSameBars * std::min(one.ofPiece().length_s(), other.ofPiece().length_s()))
            return next;
    }
    return {};
}

void doubtWhatDiffers(const Piece& piece, std::vector<std::vector<Demonstration>>& found) {
    constexpr double kMost = 0.9; // as many notes, surely heard, that the others have otherwise
    constexpr double kMostOfPair = 0.75; // … where the same bars are played again right after it …
    constexpr double kLeastOfPair = 0.25; // … without them
    const auto versions = versionsOf(piece, found);
    const std::vector<PlayedNote> notes = playedIn(piece, 0);
    std::map<std::pair<std::size_t, std::size_t>, double> differs;
    for (const Version& version : versions) {
        double& sum = differs[{version.take, *version.demonstration}];
        for (const VersionDifference& one : version.differences) {
            const Agreement agree = agreementOn(one, version, versions);
            if (agree.with_it < agree.with_piece)
                sum += surelyAnother(one, piece.notes[one.note].midi(), notes);
        }
    }
    for (const auto& [which, sum] : differs) {
        const auto& [take, demonstration] = which;
        const auto right = nextOfSameBars(found[take], demonstration);
        const bool in_pair =
            right && differs.contains({take, *right}) && differs.at({take, *right}) < kLeastOfPair;
        const double most = in_pair ? kMostOfPair : kMost;
        Demonstration& shown = found[take][demonstration];
        shown.learn.value = sum < most;
        shown.learn.basis = Basis::Heard;
        shown.learn.probability = std::min(1.0, 0.5 + 0.5 * std::abs(sum - most));
    }
}

} // namespace wirenote
