#include "plucking/strokes.h"

#include "plucking/attacks.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <set>

namespace wirenote {
namespace {

constexpr double kToolTrust = 0.7; // of a tool that nobody has said
constexpr std::size_t kEnoughForTool = 8; // notes; fewer are asked again with what comes
constexpr double kAlternationTrust = 0.62;
constexpr double kStrumTrust = 0.8; // a strumming hand keeps moving: common practice
constexpr std::size_t kStrum = 4;   // strings of one stroke
constexpr double kMostTrust = 0.9;
constexpr double kFingerTrust = 0.55;
constexpr double kHeldFingerTrust = 0.8;
constexpr double kNewStart_s = 0.9; // after a rest the hand starts anew
constexpr double kOver_s = 0.05;    // a note that sounds on this long under the next is held
constexpr double kHeldShare = 0.3;  // of the notes: held chords, not a line
constexpr double kMostlyHeld = 0.5;
constexpr double kStrumShare = 0.1; // of the attacks: a pick
constexpr double kSkipShare = 0.15; // of the attacks on several strings: fingers
constexpr std::size_t kFewestHeard = 4;

// Beats since the first beat, interpolated; beats_s has at least two.
double beatPosition(const std::vector<double>& beats_s, double time_s) {
    auto next = std::upper_bound(beats_s.begin(), beats_s.end(), time_s);
    next = std::clamp(next, beats_s.begin() + 1, beats_s.end() - 1);
    const auto before = next - 1;
    return static_cast<double>(before - beats_s.begin()) +
           (time_s - *before) / std::max(1e-6, *next - *before);
}

// How many strokes the hand makes to a beat about an attack: sixteenth motion counts four, anything
// slower two; triplets three in turn.
double partsAt(const Piece& piece, const std::vector<Attack>& attacks, std::size_t i) {
    const auto& beats = piece.timeline.beats_s;
    const double at = beatPosition(beats, attacks[i].onset_s);
    double gap = 1.0;
    if (i > 0)
        gap = std::min(gap, at - beatPosition(beats, attacks[i - 1].onset_s));
    if (i + 1 < attacks.size())
        gap = std::min(gap, beatPosition(beats, attacks[i + 1].onset_s) - at);
    if (piece.timeline.metre.compound())
        return gap < 0.25 ? 6.0 : 3.0;
    return gap < 0.3 ? 4.0 : gap < 0.4 ? 3.0 : 2.0;
}

// Down by the rule of the moving hand. `parts`: the whole piece's, or what each place suggests.
bool downByRule(const Piece& piece,
                const std::vector<Attack>& attacks,
                std::size_t i,
                std::optional<double> parts,
                bool last_down) {
    if (piece.timeline.beats_s.size() < 2)
        return !last_down;
    const double here = parts.value_or(partsAt(piece, attacks, i));
    if (here == 3.0)
        return !last_down || i == 0 || attacks[i].onset_s - attacks[i - 1].onset_s > kNewStart_s;
    const double at = beatPosition(piece.timeline.beats_s, attacks[i].onset_s);
    return std::lround(at * here) % 2 == 0;
}

double logOdds(double p) {
    const double q = std::clamp(p, 0.01, 0.99);
    return std::log(q / (1.0 - q));
}

// How the hand moves: how many strokes to a beat (none: as the place suggests), and how far that
// can be trusted.
struct Motion {
    std::optional<double> parts;
    double trust = kAlternationTrust;
};

// The motion that agrees best with the strokes heard, trusted as far as it agrees.
Motion motionOf(const Piece& piece, const std::vector<Attack>& attacks) {
    Motion best;
    double most = -1e9;
    for (const std::optional<double> parts :
         {std::optional<double>{}, std::optional(1.0), std::optional(2.0), std::optional(4.0)}) {
        double sum = 0.0;
        double agreed = 0.0;
        std::size_t heard = 0;
        bool down = false;
        for (std::size_t i = 0; i < attacks.size(); ++i) {
            down = downByRule(piece, attacks, i, parts, down);
            heard += attacks[i].heard ? 1 : 0;
            sum += (down ? 1.0 : -1.0) * logOdds(attacks[i].down);
            if (attacks[i].heard)
                agreed += down ? attacks[i].down : 1.0 - attacks[i].down;
        }
        if (heard < kFewestHeard)
            return {};
        if (sum > most + 1e-9) {
            most = sum;
            best = {parts,
                    std::clamp(agreed / static_cast<double>(heard), kAlternationTrust, kMostTrust)};
        }
    }
    return best;
}

// What ear and rule say together of one attack.
Decision<Stroke> pickStroke(const Attack& attack, bool rule, double trust) {
    const double odds = logOdds(attack.down) + (rule ? 1.0 : -1.0) * logOdds(trust);
    const bool down = odds > 0.0;
    Decision<Stroke> stroke;
    stroke.value = down ? Stroke::Down : Stroke::Up;
    stroke.basis =
        std::abs(logOdds(attack.down)) > logOdds(trust) ? Basis::Heard : Basis::Reasoned;
    stroke.probability = 1.0 / (1.0 + std::exp(-std::abs(odds)));
    stroke.runners_up = {{down ? Stroke::Up : Stroke::Down, 1.0 - stroke.probability}};
    if (attack.heard)
        stroke.reasons.push_back({ReasonKind::StringsInTurn,
                                  Basis::Heard,
                                  attack.down > 0.5 ? 1 : -1,
                                  0,
                                  std::max(attack.down, 1.0 - attack.down)});
    if (rule == down)
        stroke.reasons.push_back({ReasonKind::AlternatesOnBeat, Basis::Reasoned, 0, 0, 0.0});
    return stroke;
}

void strokeWithPick(Piece& piece, const std::vector<Attack>& attacks) {
    const Motion motion = motionOf(piece, attacks);
    bool down = false;
    for (std::size_t i = 0; i < attacks.size(); ++i) {
        const bool rule = downByRule(piece, attacks, i, motion.parts, down);
        const double trust =
            attacks[i].notes.size() >= kStrum ? std::max(motion.trust, kStrumTrust) : motion.trust;
        const Decision<Stroke> solved = pickStroke(attacks[i], rule, trust);
        down = solved.value == Stroke::Down;
        for (const std::size_t n : attacks[i].notes) {
            Decision<Stroke>& stroke = piece.reading.plans[n].stroke;
            if (stroke.isSet())
                down = stroke.value == Stroke::Down;
            else
                stroke = solved;
        }
    }
}

// Notes that sound on under the next one on another string.
double heldShare(const Piece& piece) {
    std::size_t held = 0;
    for (std::size_t i = 0; i + 1 < piece.notes.size(); ++i)
        held += piece.notes[i].offset_s() > piece.notes[i + 1].onset_s() + kOver_s ? 1 : 0;
    return piece.notes.empty()
               ? 0.0
               : static_cast<double>(held) / static_cast<double>(piece.notes.size());
}

// The finger for a string; `index_before`: the index struck just before.
Stroke fingerFor(const Instrument& instrument, int string, bool chords, bool index_before) {
    if (!instrument.isBass() && string > instrument.stringCount() - 3)
        return Stroke::P;
    if (chords)
        return string == 1 ? Stroke::A : string == 2 ? Stroke::M : Stroke::I;
    return index_before ? Stroke::M : Stroke::I;
}

void strokeWithFingers(Piece& piece, const std::vector<Attack>& attacks) {
    const bool chords = !piece.instrument.isBass() && heldShare(piece) > kHeldShare;
    Stroke last = Stroke::Unknown;
    double last_s = -1e9;
    for (const Attack& attack : attacks)
        for (const std::size_t n : attack.notes) {
            Decision<Stroke>& stroke = piece.reading.plans[n].stroke;
            const int string = piece.reading.plans[n].position.value.string;
            if (!stroke.isSet()) {
                const bool index_before =
                    last == Stroke::I && attack.onset_s - last_s <= kNewStart_s;
                stroke = {};
                stroke.value = fingerFor(piece.instrument, string, chords, index_before);
                stroke.probability = chords ? kHeldFingerTrust : kFingerTrust;
                stroke.reasons = {
                    {chords ? ReasonKind::FingerPerString : ReasonKind::FingersAlternate,
                     Basis::Reasoned,
                     string,
                     0,
                     0.0}};
            }
            last = stroke.value;
            last_s = attack.onset_s;
        }
}

// How many strings an attack is on, and how many lie from its first to its last.
struct Spread {
    int strings = 0;
    int across = 0;
};

Spread spreadOf(const Piece& piece, const Attack& attack) {
    std::set<int> used;
    for (const std::size_t n : attack.notes)
        if (const int string = piece.reading.plans[n].position.value.string;
            piece.instrument.hasString(string))
            used.insert(string);
    return used.empty() ? Spread{}
                        : Spread{static_cast<int>(used.size()), *used.rbegin() - *used.begin() + 1};
}

} // namespace

PluckingTool usualTool(InstrumentKind kind) {
    const bool fingers = kind == InstrumentKind::Nylon || kind == InstrumentKind::Bass ||
                         kind == InstrumentKind::Bass5;
    return fingers ? PluckingTool::Fingers : PluckingTool::Pick;
}

PluckingTool likelyTool(const Piece& piece) {
    if (usualTool(piece.instrument.kind) == PluckingTool::Fingers)
        return PluckingTool::Fingers;
    int several = 0;
    int skipping = 0;
    int strums = 0;
    const auto attacks = attacksOf(piece);
    for (const Attack& attack : attacks) {
        const Spread spread = spreadOf(piece, attack);
        several += spread.strings > 1 ? 1 : 0;
        skipping += spread.strings > 1 && spread.across > spread.strings ? 1 : 0;
        strums += spread.strings >= 3 && spread.across == spread.strings ? 1 : 0;
    }
    if (strums > kStrumShare * static_cast<double>(attacks.size()) || heldShare(piece) < kHeldShare)
        return PluckingTool::Pick;
    const bool pinches = several > 3 && skipping > kSkipShare * several;
    const bool acoustic = piece.instrument.kind == InstrumentKind::Acoustic;
    return acoustic || (pinches && heldShare(piece) > kMostlyHeld) ? PluckingTool::Fingers
                                                                   : PluckingTool::Pick;
}

void planStrokes(Piece& piece) {
    Decision<PluckingTool>& kept = piece.reading.head.tool;
    const PluckingTool tool =
        kept.value == PluckingTool::Unknown ? likelyTool(piece) : kept.value;
    if (kept.value == PluckingTool::Unknown && piece.notes.size() >= kEnoughForTool)
        kept = {tool, Basis::Reasoned, kToolTrust, {}, {}};
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        Decision<Stroke>& stroke = piece.reading.plans[i].stroke;
        if (!piece.notes[i].slurred() || stroke.isSet())
            continue;
        stroke = {};
        stroke.value = Stroke::None;
        stroke.probability = 0.8;
        stroke.reasons = {{ReasonKind::NotStruck, Basis::Reasoned, 0, 0, 0.0}};
    }
    const auto attacks = attacksOf(piece);
    if (tool == PluckingTool::Pick)
        strokeWithPick(piece, attacks);
    else
        strokeWithFingers(piece, attacks);
}

} // namespace wirenote
