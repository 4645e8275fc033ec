#include "piece/piece.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>

namespace wirenote {

bool excludes(Technique a, Technique b) {
    using enum Technique;
    static const std::vector<std::vector<Technique>> kOneOf = {
        {HammerOn, PullOff, Slide, Tap}, // how it begins
        {Bend, PreBend},
        {Staccato, LetRing},
        {PalmMute, LetRing},
        {Dead, Harmonic, LetRing, GhostStroke},
        {Dead, Vibrato, Trill},
        {Trill, Tremolo},
        {Roll, Rake},
        {Accent, GhostStroke}};
    return a != b && std::ranges::any_of(kOneOf, [&](const std::vector<Technique>& one_of) {
               return std::ranges::find(one_of, a) != one_of.end() &&
                      std::ranges::find(one_of, b) != one_of.end();
           });
}

HeardFacts mergedFacts(const std::vector<NoteFacts>& facts) {
    HeardFacts all;
    for (const NoteFacts& from : facts) {
        const HeardFacts& heard = from.heard;
        const auto edge_db = all.attack.edge_db ? all.attack.edge_db : heard.attack.edge_db;
        if (!all.attack.told())
            all.attack = heard.attack;
        all.attack.edge_db = edge_db;
        if (!all.thick_first)
            all.thick_first = heard.thick_first;
        if (!all.stiffness.told())
            all.stiffness = heard.stiffness;
        for (std::size_t k = 0; k < all.tone.size(); ++k)
            if (!all.tone[k].told())
                all.tone[k] = heard.tone[k];
        all.squeak_before = all.squeak_before || heard.squeak_before;
    }
    return all;
}

const SeenFacts* Note::seen() const {
    const SeenFacts* best = nullptr;
    for (const NoteFacts& from : facts)
        if (from.seen.told() && (!best || from.seen.worth() > best->worth()))
            best = &from.seen;
    return best;
}

const NoteFacts* Note::factsOf(std::size_t take) const {
    const auto of_it = std::ranges::find(facts, take, &NoteFacts::take);
    return of_it == facts.end() ? nullptr : &*of_it;
}

SeenFacts& Note::seenIn(std::size_t take, TimeRange span) {
    if (take == 0) {
        ownSound();
        return facts.front().seen;
    }
    if (const NoteFacts* known = factsOf(take))
        return facts[static_cast<std::size_t>(known - facts.data())].seen;
    return facts.emplace_back(NoteFacts{take, span, {}, {}}).seen;
}

HeardFacts& Note::ownSound() {
    const bool own =
        !facts.empty() && facts.front().take == 0 && !facts.front().heard.stiffness.borrowed;
    if (!own)
        facts.insert(facts.begin(), {0, time.value, {}, {}});
    return facts.front().heard;
}

void Note::forgetString() {
    for (NoteFacts& from : facts)
        from.heard.forgetString();
    std::erase_if(facts,
                  [](const NoteFacts& f) { return f.heard == HeardFacts{} && !f.seen.told(); });
}

int Note::midi() const {
    return static_cast<int>(std::lround(pitch.value));
}

void Note::add(Technique technique) {
    if (!has(technique))
        techniques.push_back(technique);
}

bool Note::has(Technique technique) const {
    return std::find(techniques.begin(), techniques.end(), technique) != techniques.end();
}

double Note::bendSemitones() const {
    double most_cents = 0.0;
    if (has(Technique::Bend))
        for (const PitchPoint& p : curve)
            most_cents = std::max(most_cents, p.dev_cents);
    return std::round(most_cents / 50.0) / 2.0;
}

int Note::frettedMidi() const {
    if (!has(Technique::PreBend))
        return midi();
    double lowest_cents = 0.0;
    for (const PitchPoint& p : curve)
        lowest_cents = std::min(lowest_cents, p.dev_cents);
    return midi() + static_cast<int>(std::lround(lowest_cents / 100.0));
}

std::optional<std::size_t> Piece::indexOf(NoteId id) const {
    for (std::size_t i = 0; i < notes.size(); ++i)
        if (notes[i].id == id)
            return i;
    return {};
}

const Note* Piece::note(NoteId id) const {
    const auto index = indexOf(id);
    return index ? &notes[*index] : nullptr;
}

const NotePlan* Piece::plan(NoteId id) const {
    const auto index = indexOf(id);
    const auto& plans = asPlayed().plans;
    return index && *index < plans.size() ? &plans[*index] : nullptr;
}

KeySignature guessKey(const std::vector<Note>& notes) {
    std::array<double, 12> weight{};
    for (const Note& note : notes)
        weight[static_cast<std::size_t>(((note.midi() % 12) + 12) % 12)] +=
            std::min(note.time.value.length_s(), 2.0);
    static constexpr std::array<int, 7> kMajor = {0, 2, 4, 5, 7, 9, 11};
    KeySignature best;
    double best_inside = -1.0;
    for (const int fifths : {0, 1, -1, 2, -2, 3, -3, 4, -4, 5, -5, 6}) {
        const int tonic = ((fifths * 7) % 12 + 12) % 12;
        double inside = 0.0;
        for (const int step : kMajor)
            inside += weight[static_cast<std::size_t>((tonic + step) % 12)];
        if (inside > best_inside + 1e-9) {
            best_inside = inside;
            best.fifths = fifths;
        }
    }
    return best;
}

} // namespace wirenote
