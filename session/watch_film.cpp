#include "session/watch_film.h"

#include "base/interpolate.h"
#include "base/median.h"
#include "media/media_info.h"
#include "media/picture_reader.h"
#include "seeing/hand_fit.h"
#include "seeing/pluck_fingers.h"
#include "seeing/pressed_tips.h"
#include "seeing/tip_evidence.h"
#include "session/film_neck.h"
#include "session/film_way.h"
#include "session/silent_passes.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <future>
#include <numeric>

namespace wirenote {
namespace {

constexpr int kWidest = 1280;     // pixels
constexpr double kApart_s = 0.06; // attacks
constexpr double kLeastFollowed = 0.2;
constexpr double kFarthest_s = 0.3; // that picture and sound are apart
constexpr double kClear = 2.75;     // standard deviations, …
constexpr double kClearer = 1.0;    // … and beyond any other lag

// What this film shows of a note, whatever others do.
const SeenFacts* seenHere(const Note& note) {
    return note.facts.empty() ? nullptr : &note.facts.front().seen;
}

// The cheapest place of a pitch by the fingertips.
double bestCost(const Instrument& instrument,
                const NeckPlane& plane,
                const std::vector<SeenTip>& tips,
                int midi) {
    double least = kFarthestTip;
    for (int string = 1; string <= instrument.stringCount(); ++string)
        if (const int fret = instrument.fretFor(string, midi); fret > 0)
            least = std::min(least, tipCost(plane, tips, {string, fret + instrument.capo}));
    return least;
}

// A film of something else fits no better than the same hand elsewhere along the neck.
double trustOf(const Piece& piece, const NeckPlane& plane) {
    constexpr std::array kAside_mm = {-130.0, -85.0, -55.0, 55.0, 85.0, 130.0};
    std::vector<double> fits;
    std::vector<double> by_chance;
    for (const Note& note : piece.notes) {
        const SeenFacts* seen = seenHere(note);
        if (!seen || seen->tips.empty() || !note.pitched())
            continue;
        fits.push_back(bestCost(piece.instrument, plane, seen->tips, note.frettedMidi()));
        for (const double aside_mm : kAside_mm) {
            std::vector<SeenTip> moved = seen->tips;
            for (SeenTip& tip : moved)
                tip.fret = plane.fretAt(plane.wire_mm(tip.fret) + aside_mm);
            by_chance.push_back(bestCost(piece.instrument, plane, moved, note.frettedMidi()));
        }
    }
    return tipTrust(fits, by_chance);
}

// Also of fingers that hold what does not sound.
void tellPressed(Piece& piece, const NeckPlane& plane) {
    std::vector<SeenMoment> moments;
    for (Note& note : piece.notes)
        moments.push_back(
            {&note.facts.front().seen, note.onset_s(), note.pitched() ? note.frettedMidi() : -1});
    wirenote::tellPressed(piece.instrument, plane, moments);
}

// A pick's way, as likely as it is far beside the usual one of this film.
void addDirections(const std::vector<std::optional<double>>& across_mm, Piece& piece) {
    constexpr double kFar = 0.5;     // of the usual way
    constexpr double kAtMost = 0.97; // that it is so
    std::vector<double> far;
    for (const auto& way : across_mm)
        if (way)
            far.push_back(std::abs(*way));
    const double usual = median(far).value_or(0.0);
    for (std::size_t n = 0; n < piece.notes.size() && usual > 0.0; ++n)
        if (across_mm[n]) {
            piece.notes[n].facts.front().seen.swing_mm = std::abs(*across_mm[n]);
            const double share = std::tanh(*across_mm[n] / (kFar * usual));
            piece.notes[n].facts.front().seen.down = 0.5 + (kAtMost - 0.5) * share;
        }
}

// Where strings are plucked changes slowly: what single attacks show of it is uneven.
void steadyPlucking(Piece& piece) {
    constexpr std::size_t kAbout = 4; // notes to either side
    const auto at = [&piece](std::size_t n) -> std::optional<double>& {
        return piece.notes[n].facts.front().seen.plucked_mm;
    };
    std::vector<std::optional<double>> steady;
    for (std::size_t n = 0; n < piece.notes.size(); ++n) {
        std::vector<double> about_mm;
        const std::size_t end = std::min(piece.notes.size(), n + kAbout + 1);
        for (std::size_t k = n > kAbout ? n - kAbout : 0; k < end; ++k)
            if (at(k))
                about_mm.push_back(*at(k));
        steady.push_back(at(n) ? median(about_mm) : std::nullopt);
    }
    for (std::size_t n = 0; n < steady.size(); ++n)
        at(n) = steady[n];
}

// What each note shows; notes of one attack share the way of the plucking hand. False: cancelled.
bool lookAtNotes(FilmWay& way, double late_s, Piece& piece, const JobControl& job) {
    std::vector<std::optional<double>> across_mm;
    std::vector<PluckedNote> plucked;
    std::vector<bool> together; // with the note before
    std::future<FilmWay::AtNote> looking;
    const auto take = [&] {
        const std::size_t n = across_mm.size();
        FilmWay::AtNote seen = looking.get();
        across_mm.push_back(together[n] ? across_mm.back() : seen.across_mm);
        plucked.push_back({std::move(seen.plucked), piece.notes[n].midi()});
        SeenFacts& facts = piece.notes[n].facts.front().seen;
        if (together[n]) {
            const SeenFacts& before = piece.notes[n - 1].facts.front().seen;
            seen.plucked_mm = before.plucked_mm;
            seen.arm = {before.heel_mm, before.forearm_mm};
        }
        facts.plucked_mm = seen.plucked_mm;
        facts.heel_mm = seen.arm.heel_mm;
        facts.forearm_mm = seen.arm.forearm_mm;
        facts.tips = std::move(seen.tips);
    };
    double attack_s = -1e9;
    for (Note& note : piece.notes) {
        if (job.cancelRequested())
            return false;
        note.ownSound(); // the note's own stretch of the take is the first of its facts
        note.facts.front().seen.trust = 1.0;
        note.facts.front().seen.down.reset();
        note.facts.front().seen.swing_mm.reset();
        std::optional<double> attack;
        together.push_back(note.onset_s() < attack_s + kApart_s);
        if (!together.back()) {
            attack_s = note.onset_s();
            attack = attack_s + late_s;
        }
        std::future<FilmWay::AtNote> next = way.lookAt(note.onset_s() + late_s, attack);
        if (looking.valid())
            take();
        looking = std::move(next);
    }
    if (looking.valid())
        take();
    addDirections(across_mm, piece);
    steadyPlucking(piece);
    std::vector<SeenFacts*> moments;
    for (Note& note : piece.notes)
        moments.push_back(&note.facts.front().seen);
    numberTips(moments);
    const auto fingers = pluckFingers(plucked, piece.instrument.isBass());
    for (std::size_t n = 0; n < piece.notes.size(); ++n) {
        piece.notes[n].facts.front().seen.plucked = fingers[n].fingers;
        piece.notes[n].facts.front().seen.unplucked = fingers[n].unplucked;
    }
    return true;
}

// What moves at notes, for the lag at which it does so most; in standard deviations over all lags.
struct Lag {
    double lag_s = 0.0;
    double clear = 0.0;
    double second = 0.0; // the most elsewhere
};

constexpr std::size_t kAbout = 15; // pictures to either side: what moves all the time

// Far more than a hand ever moves is a cut, or the camera, while it is rarer than one picture in a
// hundred: it counts no more than the fastest stroke may.
std::vector<double> withoutCuts(std::vector<double> moved) {
    constexpr double kFast = 0.99;   // of all pictures show less; strokes are more than the rest
    constexpr double kFarMore = 3.0; // times that
    std::vector<double> sorted = moved;
    const auto fast =
        sorted.begin() + static_cast<std::ptrdiff_t>(kFast * static_cast<double>(sorted.size()));
    std::ranges::nth_element(sorted, fast);
    for (double& value : moved)
        value = std::min(value, kFarMore * *fast);
    return moved;
}

Lag bestLag(const std::vector<double>& times_s,
            std::vector<double> all_moved,
            const std::vector<double>& onsets_s) {
    constexpr double kStep = 0.002;
    constexpr double kElsewhere_s = 0.08;
    const std::vector<double> moved = withoutCuts(std::move(all_moved));
    std::vector<double> above(moved.size());
    for (std::size_t i = 0; i < moved.size(); ++i) {
        const std::size_t from = i > kAbout ? i - kAbout : 0;
        const std::size_t to = std::min(moved.size(), i + kAbout + 1);
        const double sum = std::accumulate(moved.begin() + static_cast<std::ptrdiff_t>(from),
                                           moved.begin() + static_cast<std::ptrdiff_t>(to),
                                           0.0);
        above[i] = moved[i] - sum / static_cast<double>(to - from);
    }
    std::vector<double> sums;
    for (double lag = -kFarthest_s; lag <= kFarthest_s + 1e-9; lag += kStep) {
        double sum = 0.0;
        for (const double onset_s : onsets_s)
            if (onset_s + lag > times_s.front() && onset_s + lag < times_s.back())
                sum += along(times_s, above, onset_s + lag);
        sums.push_back(sum);
    }
    const double mean =
        std::accumulate(sums.begin(), sums.end(), 0.0) / static_cast<double>(sums.size());
    double variance = 0.0;
    for (const double sum : sums)
        variance += (sum - mean) * (sum - mean) / static_cast<double>(sums.size());
    if (variance <= 0.0)
        return {};
    const auto best = std::ranges::max_element(sums) - sums.begin();
    Lag found;
    found.lag_s = -kFarthest_s + kStep * static_cast<double>(best);
    found.clear = (sums[static_cast<std::size_t>(best)] - mean) / std::sqrt(variance);
    for (std::size_t k = 0; k < sums.size(); ++k)
        if (std::abs(static_cast<double>(k) - static_cast<double>(best)) * kStep > kElsewhere_s)
            found.second = std::max(found.second, (sums[k] - mean) / std::sqrt(variance));
    return found;
}

std::vector<double> onsetsOf(const Piece& piece, double start_s) {
    std::vector<double> onsets_s;
    for (const Note& note : piece.notes)
        if (onsets_s.empty() || note.onset_s() + start_s > onsets_s.back() + kApart_s)
            onsets_s.push_back(note.onset_s() + start_s);
    return onsets_s;
}

void measureOffset(const FilmWay& way,
                   const FilmOptions& options,
                   const std::vector<double>& onsets_s,
                   FilmFacts& facts) {
    if (options.offset_s) {
        facts.offset_s = *options.offset_s;
        facts.offset = Basis::Set;
    } else if (const auto measured =
                   way.showsPlucking() ? offsetByMotion(way.moved(), onsets_s) : std::nullopt) {
        facts.offset_s = *measured;
        facts.offset = Basis::Seen;
    }
}

// Which fret is which is told by what is heard, too: where the tips fit far better some frets
// further on, and nut and inlays left a doubt, they lie there.
void countBySound(const NeckPlane& plane, Piece& piece, FilmFacts& facts) {
    constexpr double kInDoubt = 0.97;   // numbering that looks alone make sure
    constexpr double kFarBetter = 0.55; // of the cost as counted
    constexpr int kMost = 5;            // frets
    if (facts.numbering > kInDoubt)
        return;
    const auto costAt = [&](int shift) {
        double sum = 0.0;
        for (const Note& note : piece.notes) {
            const SeenFacts* seen = seenHere(note);
            if (!seen || seen->tips.empty() || !note.pitched())
                continue;
            std::vector<SeenTip> tips = seen->tips;
            for (SeenTip& tip : tips)
                tip.fret += shift;
            sum += bestCost(piece.instrument, plane, tips, note.frettedMidi());
        }
        return sum;
    };
    int best = 0;
    double least = kFarBetter * costAt(0);
    for (int shift = -kMost; shift <= kMost; ++shift)
        if (const double cost = shift == 0 ? least : costAt(shift); cost < least) {
            least = cost;
            best = shift;
        }
    if (best == 0)
        return;
    for (Note& note : piece.notes)
        for (SeenTip& tip : note.facts.front().seen.tips)
            tip.fret += best;
    for (NeckFrame& frame : facts.frames)
        if (const auto neck = neckOf(plane, frame))
            frame = recounted(plane, *neck, best, frame.time_s);
}

// The notes at the times at which a take plays them, the first time that it does.
Piece asPlayedIn(const Piece& piece, std::size_t take) {
    Piece there;
    there.instrument = piece.instrument;
    const Take& of = piece.takes[take];
    for (const Note& note : piece.notes) {
        const auto visits = of.alignment.sameClock()
                                ? std::vector{TakeTime{note.onset_s()}}
                                : of.alignment.everyVisit(PieceTime{note.onset_s()});
        const auto at = std::ranges::find_if(
            visits, [&of](TakeTime visit) { return visit.s >= 0.0 && visit.s < of.length_s; });
        if (at == visits.end())
            continue;
        Note played = note;
        played.facts.clear();
        const double rate = of.alignment.rateAt(PieceTime{note.onset_s()});
        played.time.value = {at->s, at->s + rate * note.time.value.length_s()};
        there.notes.push_back(std::move(played));
    }
    std::ranges::stable_sort(there.notes, {}, &Note::onset_s);
    return there;
}

} // namespace

std::optional<double> offsetByMotion(const PluckTrack& moved, const std::vector<double>& onsets_s) {
    constexpr std::size_t kFewest = 8;
    constexpr double kTogether_s = 0.04;  // both ways are one stroke
    constexpr double kUpRather = 0.5;     // fingers pluck up; the thumb alone is rare
    constexpr double kReleased_s = 0.009; // the hand is fastest after it has let go
    if (onsets_s.size() < kFewest || moved.times_s.size() < 2 * kAbout)
        return std::nullopt;
    std::vector<double> both(moved.up.size());
    std::ranges::transform(moved.up, moved.down, both.begin(), std::plus{});
    const Lag up = bestLag(moved.times_s, moved.up, onsets_s);
    const Lag down = bestLag(moved.times_s, moved.down, onsets_s);
    const Lag found = std::abs(up.lag_s - down.lag_s) < kTogether_s
                          ? bestLag(moved.times_s, both, onsets_s)
                      : up.clear - up.second + kUpRather > down.clear - down.second ? up
                                                                                    : down;
    if (found.clear < kClear || found.clear - found.second < kClearer)
        return std::nullopt;
    return found.lag_s - kReleased_s;
}

FilmOptions asBefore(const FilmFacts& film) {
    FilmOptions options;
    if (film.told() && film.neck == Basis::Set)
        options.neck = marksOf(film.frames.front());
    if (film.offset == Basis::Set)
        options.offset_s = film.offset_s;
    return options;
}

Result<FilmFacts> watchFilm(const std::filesystem::path& film,
                            const FilmOptions& options,
                            double start_s,
                            Piece& piece,
                            const JobControl& job) {
    const auto info = readMediaInfo(film);
    if (!info)
        return info.error();
    auto reader = PictureReader::open(film, kWidest);
    if (!reader)
        return reader.error();
    const auto first = (*reader)->at(0.0);
    if (!first)
        return badInput(film.string(), "has no picture that can be read");
    const NeckPlane plane(piece.instrument);
    const double scale =
        info->picture.width > 0 ? static_cast<double>(first->width) / info->picture.width : 1.0;
    const auto start = options.neck ? givenNeck(**reader, plane, *options.neck, scale, film)
                                    : clearestNeck(**reader, plane, info->length_s, film, job);
    if (!start)
        return start.error();
    FilmWay way(**reader, plane, *start, info->length_s, job);
    if (!way.follow())
        return cancelled();
    FilmFacts facts;
    facts.neck = start->given ? Basis::Set : Basis::Seen;
    facts.numbering = start->numbering;
    facts.followed = way.followed();
    facts.off_mm = way.off_mm();
    if (facts.followed < kLeastFollowed || !way.settle())
        return badInput(film.string(),
                        start->given
                            ? "the neck cannot be followed from the points given; check them "
                              "against the picture at their time"
                            : "the neck found in it cannot be followed; give it by four points of "
                              "a picture that shows it sharply");
    facts.frames = way.frames(scale);
    measureOffset(way, options, onsetsOf(piece, start_s), facts);
    if (way.showsPlucking()) {
        facts.passes = silentPasses(way.moved(), onsetsOf(piece, start_s + facts.offset_s));
        for (SilentPass& pass : facts.passes)
            pass.time_s = std::max(0.0, pass.time_s - facts.offset_s);
    }
    if (!lookAtNotes(way, start_s + facts.offset_s, piece, job))
        return cancelled();
    if (!start->given)
        countBySound(plane, piece, facts);
    tellPressed(piece, plane);
    facts.trust = trustOf(piece, plane);
    for (Note& note : piece.notes)
        note.facts.front().seen.trust = facts.trust;
    return facts;
}

Result<FilmFacts> watchTake(std::size_t take,
                            const std::filesystem::path& film,
                            const FilmOptions& options,
                            Piece& piece,
                            const JobControl& job) {
    if (take == 0)
        return watchFilm(film, options, 0.0, piece, job);
    if (piece.takes[take].alignment.basis == Basis::Reasoned) // nobody, by sound or by hand
        return badInput(film.string(),
                        "is not lined up with this piece; line it up first (Line up by sound)");
    Piece there = asPlayedIn(piece, take);
    if (there.notes.empty())
        return badInput(film.string(),
                        "plays no note of this piece; line the take up first (Line up by sound)");
    auto facts = watchFilm(film, options, 0.0, there, job);
    if (!facts)
        return facts;
    for (const Note& seen : there.notes)
        if (const auto note = std::ranges::find(piece.notes, seen.id, &Note::id);
            note != piece.notes.end())
            note->seenIn(take, seen.time.value) = seen.facts.front().seen;
    return facts;
}

} // namespace wirenote
