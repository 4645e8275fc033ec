#include "form/bar_evidence.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace wirenote {
namespace {

constexpr double kWhole = 0.9; // of a bar

bool isTalkedOver(const Take& take, TimeRange span) {
    return std::ranges::any_of(take.sound_spans, [span](const SoundSpan& one) {
        return one.kind != SoundKind::Playing && one.kind != SoundKind::Silence &&
               one.span.overlaps(span);
    });
}

// How much a playing of the bar tells: slow and undisturbed, with the hands to be seen.
double tells(const Take& take, TimeRange in_take, double tempo) {
    constexpr double kSeen = 0.3;
    constexpr double kTalk = 1.0;
    return -std::log(std::max(0.1, tempo)) + (take.has_picture ? kSeen : 0.0) -
           (isTalkedOver(take, in_take) ? kTalk : 0.0);
}

bool anySet(const Note& note, const NotePlan& plan) {
    return note.existence.isSet() || note.time.isSet() || note.pitch.isSet() ||
           plan.position.isSet() || plan.finger.isSet() || plan.stroke.isSet();
}

void weighNotes(const Piece& piece, const BarContent& bar, BarEvidence& evidence) {
    double sum = 0.0;
    double worst = 0.0;
    for (const BarContent::Event& event : bar.events) {
        const Note& note = piece.notes[event.note];
        const NotePlan& plan = piece.asPlayed().plans[event.note];
        const double sure = std::min({note.existence.probability,
                                      note.pitch.probability,
                                      plan.placed() ? plan.position.probability : 0.0});
        worst = std::max(worst, 1.0 - sure);
        sum += 1.0 - sure;
        ++evidence.notes;
        evidence.set += anySet(note, plan) ? 1 : 0;
    }
    evidence.doubt = evidence.notes > 0 ? 0.5 * worst + 0.5 * sum / evidence.notes : 0.0;
}

} // namespace

std::vector<BarEvidence> barEvidence(const Piece& piece,
                                     const std::vector<BarContent>& bars,
                                     const std::vector<Version>& versions) {
    std::vector<BarEvidence> all;
    for (const BarContent& bar : bars) {
        if (bar.events.empty())
            continue;
        BarEvidence evidence;
        evidence.number = bar.number;
        evidence.span = bar.span;
        weighNotes(piece, bar, evidence);
        std::set<std::size_t> takes{0};
        double best = 0.0;
        if (piece.lead()) {
            evidence.talked_over = isTalkedOver(*piece.lead(), bar.span);
            evidence.in_film = piece.lead()->has_picture;
            best = tells(*piece.lead(), bar.span, 1.0);
        }
        for (const Version& version : versions) {
            if (version.refused ||
                version.of_piece.clippedTo(bar.span).length_s() < kWhole * bar.span.length_s())
                continue;
            ++evidence.playings;
            takes.insert(version.take);
            if (!version.demonstration || !version.learn)
                continue;
            const Take& take = piece.takes[version.take];
            evidence.in_film = evidence.in_film || take.has_picture;
            const TimeRange in_take{inTake(version.moments, bar.span.start_s),
                                    inTake(version.moments, bar.span.end_s)};
            const double value =
                tells(take, in_take, bar.span.length_s() / std::max(1e-6, in_take.length_s()));
            if (value > best + 1e-6) {
                best = value;
                evidence.best_take = version.take;
                evidence.best_demonstration = version.demonstration;
            }
        }
        evidence.takes = static_cast<int>(takes.size());
        for (const FollowedTake& one : piece.followed)
            if (one.span.clippedTo(bar.span).length_s() > 0.5 * bar.span.length_s())
                evidence.follows = one.take;
        all.push_back(evidence);
    }
    std::ranges::stable_sort(all, std::greater{}, &BarEvidence::doubt);
    return all;
}

} // namespace wirenote
