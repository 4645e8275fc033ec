#include "form/seen_where.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr double kWholeBar = 0.9; // of it, that a playing must have

bool anyTips(const Note& note) {
    return std::ranges::any_of(note.facts, [](const NoteFacts& from) {
        return !from.seen.tips.empty() || from.seen.shown.has_value();
    });
}

bool pluckingTold(const Note& note) {
    return std::ranges::any_of(note.facts, [](const NoteFacts& from) {
        return from.seen.down.has_value() ||
               std::ranges::any_of(from.seen.plucked, [](double p) { return p > 0.0; });
    });
}

void addNote(const Note& note, const NotePlan& plan, SeenBar& bar) {
    if (!note.slurred()) {
        ++bar.plucking.notes;
        bar.plucking.seen += pluckingTold(note) ? 1 : 0;
    }
    if (!plan.placed())
        return;
    const Position place = plan.position.value;
    bar.thinnest = bar.thinnest == 0 ? place.string : std::min(bar.thinnest, place.string);
    bar.thickest = std::max(bar.thickest, place.string);
    if (place.fret == 0)
        return;
    ++bar.fretting.notes;
    bar.fretting.seen += anyTips(note) ? 1 : 0;
    bar.lowest_fret = bar.lowest_fret == 0 ? place.fret : std::min(bar.lowest_fret, place.fret);
    bar.highest_fret = std::max(bar.highest_fret, place.fret);
}

std::vector<std::size_t>
filmsOf(const Piece& piece, TimeRange span, const std::vector<Version>& versions) {
    std::vector<std::size_t> films;
    if (piece.lead() && piece.lead()->has_picture)
        films.push_back(0);
    for (std::size_t t = 1; t < piece.takes.size(); ++t) {
        const Take& take = piece.takes[t];
        const bool same_clock = take.alignment.sameClock() && take.length_s >= span.end_s;
        const bool plays = std::ranges::any_of(versions, [&](const Version& version) {
            return version.take == t && version.demonstration && !version.refused &&
                   version.of_piece.clippedTo(span).length_s() >= kWholeBar * span.length_s();
        });
        if (take.has_picture && (same_clock || plays))
            films.push_back(t);
    }
    return films;
}

} // namespace

HandVisible HandInBar::visible() const {
    const double share = notes > 0 ? static_cast<double>(seen) / notes : 1.0;
    return share >= kMostlySeen   ? HandVisible::Seen
           : share >= kBarelySeen ? HandVisible::Half
                                  : HandVisible::Hidden;
}

std::vector<SeenBar> seenWhere(const Piece& piece,
                               const std::vector<BarContent>& bars,
                               const std::vector<Version>& versions) {
    std::vector<SeenBar> all;
    for (const BarContent& content : bars) {
        if (content.events.empty())
            continue;
        SeenBar bar;
        bar.number = content.number;
        bar.span = content.span;
        for (const BarContent::Event& event : content.events)
            addNote(piece.notes[event.note], piece.asPlayed().plans[event.note], bar);
        bar.films = filmsOf(piece, content.span, versions);
        all.push_back(std::move(bar));
    }
    return all;
}

std::vector<WantedShot> wantedShots(const std::vector<SeenBar>& bars) {
    std::vector<WantedShot> shots;
    const SeenBar* before = nullptr;
    for (const SeenBar& bar : bars) {
        const bool fretting = bar.fretting.visible() != HandVisible::Seen;
        const bool plucking = bar.plucking.visible() != HandVisible::Seen;
        const std::optional<std::size_t> film =
            bar.films.empty() ? std::nullopt : std::optional(bar.films.front());
        const bool goes_on = before && before->lacks() && before->number + 1 == bar.number &&
                             !shots.empty() && shots.back().fretting == fretting &&
                             shots.back().plucking == plucking && shots.back().film == film;
        before = &bar;
        if (!fretting && !plucking)
            continue;
        if (!goes_on) {
            shots.push_back({bar.number,
                             bar.number,
                             bar.span,
                             fretting,
                             plucking,
                             bar.lowest_fret,
                             bar.highest_fret,
                             film});
            continue;
        }
        WantedShot& shot = shots.back();
        shot.last_bar = bar.number;
        shot.span.end_s = bar.span.end_s;
        if (bar.lowest_fret > 0)
            shot.lowest_fret = shot.lowest_fret == 0 ? bar.lowest_fret
                                                     : std::min(shot.lowest_fret, bar.lowest_fret);
        shot.highest_fret = std::max(shot.highest_fret, bar.highest_fret);
    }
    return shots;
}

} // namespace wirenote
