#include "form/demonstrations.h"

#include "form/versions.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace wirenote {
namespace {

constexpr double kPause_s = 2.5;         // a longer silence ends a stretch of playing
constexpr double kWord_s = 1.5;          // talk that is no longer does not
constexpr double kShortest_s = 0.3;      // of a stretch
constexpr double kSameInOtherKey = 0.75; // … in another key, where more fits by chance
constexpr double kSurelyHere = 0.4;      // of the score it could have: no other key is tried
constexpr double kOtherKeyBetter = 1.3;  // times the score in the key of the piece
constexpr std::size_t kForOtherKey = 8;  // moments
constexpr double kAllOfIt = 0.85;        // of the piece: it is the piece
constexpr double kNearlyLongest = 0.9;   // … the first of those leads
constexpr double kMoreOfPiece = 0.25;    // of the moments of the longest: the piece goes on there
constexpr std::size_t kMoreMoments = 8;
constexpr std::size_t kLooseEnd = 3; // moments beside a stretch that belong to it
constexpr std::size_t kFewest = 3;   // moments that show anything

// A stretch of playing with its moments.
struct Playing {
    TimeRange span;
    std::vector<PlayedMoment> moments;
};

std::vector<Playing> playingOf(const Piece& piece, std::size_t take) {
    std::vector<Playing> all;
    const std::vector<PlayedNote> notes = playedIn(piece, take);
    for (const TimeRange& span : playingStretches(piece.takes[take])) {
        std::vector<PlayedNote> within;
        std::ranges::copy_if(notes, std::back_inserter(within), [&span](const PlayedNote& n) {
            return span.contains(n.at_s);
        });
        if (!within.empty())
            all.push_back({span, momentsOf(within)});
    }
    return all;
}

// Where a stretch lies in the piece.
struct Fit {
    std::vector<NoteStretch> stretches;
};

double shareOf(const std::vector<NoteStretch>& stretches, std::size_t moments) {
    std::size_t pairs = 0;
    for (const NoteStretch& one : stretches)
        pairs += one.pairs.size();
    return static_cast<double>(pairs) / static_cast<double>(std::max<std::size_t>(1, moments));
}

// How much must fit, in pitch and time, to be no chance: of the moments, and of the score of all of
// them were they the same. The figures lie between fragments of a piece and those of another.
struct Enough {
    double share = 0.0;
    double likeness = 0.0;
    double score = 0.0;
};
constexpr Enough kMuchOfIt{0.4, 0.17, 2.5};
constexpr Enough kNearlyAll{0.7, 0.3, 0.0};
constexpr Enough kInPieces{0.8, 0.35, 0.0}; // of all stretches together
constexpr Enough kLong{0.7, 0.35, 8.0};     // of one, by itself: whatever else was played
constexpr double kFigure = 0.45; // likeness of a figure over and over, which fits in many places

bool isOfIt(const Fit& fit, std::size_t moments) {
    const auto count = static_cast<double>(std::max<std::size_t>(1, moments));
    const auto isEnough = [count](std::size_t pairs, double score, const Enough& enough) {
        return static_cast<double>(pairs) >= enough.share * count &&
               score >= enough.likeness * count && score >= enough.score;
    };
    std::size_t pairs = 0;
    double score = 0.0;
    for (const NoteStretch& one : fit.stretches) {
        if (isEnough(one.pairs.size(), one.score, kMuchOfIt) ||
            isEnough(one.pairs.size(), one.score, kNearlyAll))
            return true;
        const auto length = static_cast<double>(one.pairs.back().b - one.pairs.front().b + 1);
        if (static_cast<double>(one.pairs.size()) >= kLong.share * length &&
            one.score >= std::max(kLong.score, kLong.likeness * length))
            return true;
        pairs += one.pairs.size();
        score += one.score;
    }
    return isEnough(pairs, score, kInPieces);
}

double scoreOf(const Fit& fit) {
    double score = 0.0;
    for (const NoteStretch& one : fit.stretches)
        score += one.score;
    return score;
}

std::size_t pairsOf(const Fit& fit) {
    std::size_t pairs = 0;
    for (const NoteStretch& one : fit.stretches)
        pairs += one.pairs.size();
    return pairs;
}

// The share of moments that have a counterpart, between the first and the last that do.
double denseIn(const Fit& fit) {
    std::size_t moments = 0;
    for (const NoteStretch& one : fit.stretches)
        moments += one.pairs.back().b - one.pairs.front().b + 1;
    return static_cast<double>(pairsOf(fit)) /
           static_cast<double>(std::max<std::size_t>(1, moments));
}

// Beside what surely is of the piece, a short stretch that would fit nearly as well elsewhere is
// none of it: music in one key is never without likeness.
void leaveOutChance(const std::vector<PlayedMoment>& piece, const Playing& playing, Fit& fit) {
    constexpr double kShort = 5.0; // score
    constexpr double kSure = 2.5;  // times as much
    constexpr double kAhead = 2.0; // of the next best place, as a score
    double most = 0.0;
    for (const NoteStretch& one : fit.stretches)
        most = std::max(most, one.score);
    std::erase_if(fit.stretches, [&](const NoteStretch& one) {
        if (one.score >= kShort || most < kSure * one.score)
            return false;
        const auto at = [&](std::size_t b) {
            return playing.moments.begin() + static_cast<std::ptrdiff_t>(b);
        };
        MatchParameters with;
        with.semitones = one.semitones;
        const std::vector<PlayedMoment> here(at(one.pairs.front().b), at(one.pairs.back().b) + 1);
        return one.score - nextBestScore(piece, here, one, with) < kAhead;
    });
}

// In the key of the piece, or in the one that fits far better.
Fit inBestKey(const std::vector<PlayedMoment>& piece,
              const Playing& playing,
              const JobControl& job) {
    Fit best{matchNotes(piece, playing.moments, {}, job)};
    const double strong = kSurelyHere * static_cast<double>(playing.moments.size());
    if (scoreOf(best) >= strong || playing.moments.size() < kForOtherKey)
        return best;
    for (int semitones = -6; semitones <= 6; ++semitones) {
        if (semitones == 0 || job.cancelRequested())
            continue;
        MatchParameters with;
        with.semitones = semitones;
        Fit fit{matchNotes(piece, playing.moments, with, job)};
        if (denseIn(fit) >= kSameInOtherKey && pairsOf(fit) >= kForOtherKey &&
            scoreOf(fit) > kOtherKeyBetter * scoreOf(best))
            best = std::move(fit);
    }
    return best;
}

Fit fitIn(const std::vector<PlayedMoment>& piece, const Playing& playing, const JobControl& job) {
    Fit fit = inBestKey(piece, playing, job);
    putWhereTheyFit(piece, playing.moments, fit.stretches, job);
    moveBorders(piece, playing.moments, fit.stretches);
    leaveOutStrangers(piece, playing.moments, fit.stretches);
    leaveOutChance(piece, playing, fit);
    return fit;
}

// A figure that is played over and over.
bool isExercise(const Playing& playing) {
    constexpr double kLike = 0.7;
    constexpr double kMost = 0.8;
    const auto& moments = playing.moments;
    for (std::size_t period = 2; period <= moments.size() / 3; ++period) {
        std::size_t same = 0;
        for (std::size_t i = 0; i + period < moments.size(); ++i)
            same += likenessOf(moments[i], moments[i + period]) >= kLike ? 1 : 0;
        if (static_cast<double>(same) >= kMost * static_cast<double>(moments.size() - period))
            return true;
    }
    return false;
}

// The stretches of the leading take that are the piece itself.
std::vector<std::size_t> pieceItself(const std::vector<Playing>& lead, const JobControl& job) {
    if (lead.empty())
        return {};
    const auto size = [&lead](std::size_t i) { return lead[i].moments.size(); };
    std::size_t longest = 0;
    for (std::size_t i = 1; i < lead.size(); ++i)
        if (size(i) > size(longest))
            longest = i;
    const auto nearly = [&](std::size_t i) {
        return static_cast<double>(size(i)) >= kNearlyLongest * static_cast<double>(size(longest));
    };
    std::size_t first = 0;
    while (!nearly(first))
        ++first;
    std::vector<std::size_t> itself{first};
    std::vector<PlayedMoment> moments = lead[first].moments;
    const auto enough = std::max(static_cast<double>(kMoreMoments),
                                 kMoreOfPiece * static_cast<double>(size(first)));
    for (std::size_t i = 0; i < lead.size() && !job.cancelRequested(); ++i) {
        if (i == first || static_cast<double>(size(i)) < enough || isExercise(lead[i]) ||
            isOfIt(fitIn(moments, lead[i], job), size(i)))
            continue;
        itself.push_back(i);
        moments.insert(moments.end(), lead[i].moments.begin(), lead[i].moments.end());
        std::ranges::stable_sort(moments, {}, &PlayedMoment::at_s);
    }
    std::ranges::sort(itself);
    return itself;
}

// Where the moments of a stretch lie, from its first moment to its end: at the ends its tempo goes
// on, at most to the next moment of the piece.
std::vector<SharedMoment> sharedMoments(const NoteStretch& stretch,
                                        const std::vector<PlayedMoment>& piece,
                                        const Playing& playing,
                                        std::size_t first,
                                        std::size_t last) {
    constexpr double kApart_s = 0.2;
    std::vector<SharedMoment> shared;
    for (const NoteStretch::Pair& pair : stretch.pairs) {
        const SharedMoment m{piece[pair.a].at_s, playing.moments[pair.b].at_s};
        if (shared.empty() || (m.take_s > shared.back().take_s + kApart_s &&
                               m.piece_s > shared.back().piece_s + 0.5 * kApart_s))
            shared.push_back(m);
    }
    const auto& end = stretch.pairs.back();
    const SharedMoment closing{piece[end.a].at_s, playing.moments[end.b].at_s};
    while (shared.size() > 1 && (shared.back().take_s >= closing.take_s - 0.5 * kApart_s ||
                                 shared.back().piece_s >= closing.piece_s - 0.25 * kApart_s))
        shared.pop_back();
    if (closing.take_s > shared.back().take_s && closing.piece_s > shared.back().piece_s)
        shared.push_back(closing);
    if (shared.size() < 2)
        return {};
    const double tempo = (shared.back().piece_s - shared.front().piece_s) /
                         (shared.back().take_s - shared.front().take_s);
    if (const double at_s = playing.moments[first].at_s; at_s < shared.front().take_s - 1e-3)
        shared.insert(shared.begin(),
                      {shared.front().piece_s - tempo * (shared.front().take_s - at_s), at_s});
    double end_s = playing.moments[last].at_s;
    for (const PlayedNote& note : playing.moments[last].notes)
        end_s = std::max(end_s, note.end_s);
    double piece_end_s = shared.back().piece_s + tempo * (end_s - shared.back().take_s);
    const auto next = end.a + 1 + (last - end.b);
    if (next < piece.size() && piece[next].at_s > shared.back().piece_s)
        piece_end_s = std::min(piece_end_s, piece[next].at_s);
    if (piece_end_s > shared.back().piece_s + 0.02)
        shared.push_back(
            {piece_end_s, shared.back().take_s + (piece_end_s - shared.back().piece_s) / tempo});
    return shared;
}

// What one take shows, stretch by stretch.
class Recognising {
  public:
    Recognising(const std::vector<PlayedMoment>& piece, const JobControl& job)
        : m_piece(piece), m_job(job) {}

    // What a stretch of playing shows: one demonstration, or several without a breath between.
    void show(const Playing& playing, std::vector<Demonstration>& out) const {
        const Fit fit = fitIn(m_piece, playing, m_job);
        const bool figure = isExercise(playing) &&
                            scoreOf(fit) < kFigure * static_cast<double>(playing.moments.size());
        if (!figure && isOfIt(fit, playing.moments.size()))
            inPiece(playing, fit, out);
        else
            out.push_back(somethingElse(playing));
    }

  private:
    void inPiece(const Playing& playing, const Fit& fit, std::vector<Demonstration>& out) const {
        std::size_t free = 0; // the first moment that belongs to none yet
        for (std::size_t k = 0; k < fit.stretches.size(); ++k) {
            const NoteStretch& stretch = fit.stretches[k];
            const std::size_t end = k + 1 < fit.stretches.size()
                                        ? fit.stretches[k + 1].pairs.front().b
                                        : playing.moments.size();
            std::size_t first = stretch.pairs.front().b;
            std::size_t last = stretch.pairs.back().b;
            if (first - free <= kLooseEnd)
                first = free;
            else
                besides(part(playing, free, first), out);
            if (end - 1 - last <= kLooseEnd)
                last = end - 1;
            free = last + 1;
            out.push_back(shown(playing, stretch, first, last));
        }
        if (free < playing.moments.size())
            besides(part(playing, free, playing.moments.size()), out);
    }

    // What no stretch of the piece has: a passage in another key, or something else.
    void besides(const Playing& playing, std::vector<Demonstration>& out) const {
        if (playing.moments.size() >= kForOtherKey)
            show(playing, out);
        else
            out.push_back(somethingElse(playing));
    }

    Demonstration somethingElse(const Playing& playing) const {
        Demonstration one;
        one.span = playing.span;
        one.kind = isExercise(playing) ? DemonstrationKind::Exercise : DemonstrationKind::Other;
        one.probability = playing.moments.size() < kFewest ? 0.5 : 0.7;
        return one;
    }

    static Playing part(const Playing& playing, std::size_t from, std::size_t to) {
        Playing some;
        some.moments.assign(playing.moments.begin() + static_cast<std::ptrdiff_t>(from),
                            playing.moments.begin() + static_cast<std::ptrdiff_t>(to));
        some.span = {from == 0 ? playing.span.start_s : playing.moments[from].at_s,
                     to == playing.moments.size() ? playing.span.end_s : playing.moments[to].at_s};
        return some;
    }

    Demonstration shown(const Playing& playing,
                        const NoteStretch& stretch,
                        std::size_t first,
                        std::size_t last) const {
        const Playing here = part(playing, first, last + 1);
        Demonstration one;
        one.span = here.span;
        one.semitones = stretch.semitones;
        one.moments = sharedMoments(stretch, m_piece, playing, first, last);
        if (!one.inPiece())
            return somethingElse(here);
        const double whole_s = m_piece.back().at_s - m_piece.front().at_s;
        one.kind = one.ofPiece().length_s() >= kAllOfIt * whole_s ? DemonstrationKind::Piece
                                                                  : DemonstrationKind::Part;
        MatchParameters with;
        with.semitones = stretch.semitones;
        const double ahead = stretch.score - nextBestScore(m_piece, here.moments, stretch, with);
        const double share =
            static_cast<double>(stretch.pairs.size()) / static_cast<double>(here.moments.size());
        one.probability = share / (1.0 + std::exp(-ahead));
        return one;
    }

    const std::vector<PlayedMoment>& m_piece;
    const JobControl& m_job;
};

// The piece as the leading take plays it there.
Demonstration asItIs(const Playing& playing, bool alone) {
    Demonstration one;
    one.span = playing.span;
    one.kind = alone ? DemonstrationKind::Piece : DemonstrationKind::Part;
    const double from_s = playing.moments.front().at_s;
    double to_s = playing.moments.back().at_s;
    for (const PlayedNote& note : playing.moments.back().notes)
        to_s = std::max(to_s, note.end_s);
    to_s = std::max(to_s, from_s + 0.05);
    one.moments = {{from_s, from_s}, {to_s, to_s}};
    one.probability = 1.0;
    return one;
}

// An earlier stretch that is nowhere in the piece, played again.
void markRepeated(const std::vector<Playing>& playing, std::vector<Demonstration>& found) {
    const auto at = [&playing](const Demonstration& d) -> const Playing* {
        const auto same =
            std::ranges::find_if(playing, [&d](const Playing& p) { return p.span == d.span; });
        return same == playing.end() ? nullptr : &*same;
    };
    for (std::size_t i = 0; i < found.size(); ++i) {
        const Playing* here = at(found[i]);
        if (found[i].inPiece() || !here || here->moments.size() < kFewest)
            continue;
        for (std::size_t k = 0; k < i; ++k) {
            const Playing* before = at(found[k]);
            if (found[k].inPiece() || !before)
                continue;
            const Fit fit{matchNotes(before->moments, here->moments, {})};
            if (isOfIt(fit, here->moments.size())) {
                found[i].kind = DemonstrationKind::Again;
                found[i].probability = shareOf(fit.stretches, here->moments.size());
                break;
            }
        }
    }
}

// What a person has said stays: of its learning where the stretch is found again.
void keepSaid(const std::vector<Demonstration>& before, std::vector<Demonstration>& found) {
    for (const Demonstration& said : before) {
        if (!said.learn.isSet())
            continue;
        for (Demonstration& one : found)
            if (one.span.clippedTo(said.span).length_s() >=
                0.5 * std::max(one.span.length_s(), said.span.length_s()))
                one.learn = said.learn;
    }
}

} // namespace

std::vector<PlayedNote> playedIn(const Piece& piece, std::size_t take) {
    std::vector<PlayedNote> notes;
    if (take == 0) {
        for (std::size_t i = 0; i < piece.notes.size(); ++i) {
            const Note& note = piece.notes[i];
            if (note.pitched())
                notes.push_back({note.onset_s(),
                                 note.offset_s(),
                                 note.midi(),
                                 note.existence.probability * note.pitch.probability,
                                 note.slurred(),
                                 i});
        }
        return notes;
    }
    const std::vector<TakeNote>& own = piece.takes[take].notes;
    for (std::size_t i = 0; i < own.size(); ++i)
        notes.push_back({own[i].time.start_s,
                         own[i].time.end_s,
                         own[i].midi,
                         own[i].probability,
                         own[i].slurred(),
                         i});
    return notes;
}

std::vector<TimeRange> playingStretches(const Take& take) {
    const TimeRange all = take.heardSpan();
    if (take.sound_spans.empty())
        return {all};
    std::vector<TimeRange> stretches;
    bool talked = true;
    for (const SoundSpan& one : take.sound_spans) {
        const TimeRange span = one.span.clippedTo(all);
        if (span.empty() || one.kind == SoundKind::Silence)
            continue;
        if (!isPlayed(one.kind)) {
            talked = talked || span.length_s() > kWord_s;
            continue;
        }
        if (!talked && span.start_s - stretches.back().end_s < kPause_s)
            stretches.back().end_s = span.end_s;
        else
            stretches.push_back(span);
        talked = false;
    }
    std::erase_if(stretches, [](const TimeRange& s) { return s.length_s() < kShortest_s; });
    return stretches;
}

std::vector<std::vector<Demonstration>> demonstrationsOf(const Piece& piece,
                                                         const JobControl& job) {
    std::vector<std::vector<Demonstration>> all;
    std::vector<PlayedMoment> reference;
    for (std::size_t take = 0; take < piece.takes.size(); ++take) {
        const std::vector<Playing> playing = playingOf(piece, take);
        std::vector<std::size_t> itself;
        if (take == 0) {
            itself = pieceItself(playing, job);
            for (const std::size_t i : itself)
                reference.insert(
                    reference.end(), playing[i].moments.begin(), playing[i].moments.end());
        }
        std::vector<Demonstration> found;
        const Recognising recognising(reference, job);
        for (std::size_t i = 0; i < playing.size() && !job.cancelRequested(); ++i) {
            if (std::ranges::find(itself, i) != itself.end()) {
                found.push_back(asItIs(playing[i], itself.size() == 1));
                continue;
            }
            recognising.show(playing[i], found);
        }
        markRepeated(playing, found);
        all.push_back(std::move(found));
    }
    if (job.cancelRequested())
        return {};
    doubtWhatDiffers(piece, all);
    for (std::size_t take = 0; take < all.size(); ++take)
        keepSaid(piece.takes[take].demonstrations, all[take]);
    return all;
}

void leaveOutShownAgain(const Piece& piece, std::vector<BarContent>& bars) {
    if (!piece.lead())
        return;
    std::vector<TimeRange> beside;
    for (const Demonstration& one : piece.lead()->demonstrations)
        if (!one.isItself())
            beside.push_back(one.span);
    if (beside.empty())
        return;
    for (BarContent& bar : bars)
        std::erase_if(bar.events, [&](const BarContent::Event& event) {
            const double at_s = piece.notes[event.note].onset_s();
            return std::ranges::any_of(
                beside, [at_s](const TimeRange& span) { return span.contains(at_s); });
        });
}

} // namespace wirenote
