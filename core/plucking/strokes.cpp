#include "plucking/strokes.h"

#include "base/interpolate.h"
#include "plucking/attacks.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace wirenote {
namespace {

constexpr double kToolTrust = 0.7;        // of a tool that nobody has said
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

double logOdds(double p) {
    const double q = std::clamp(p, 0.01, 0.99);
    return std::log(q / (1.0 - q));
}

// Strokes that move on by the beat: what the rule of the moving hand says of each attack.
class MovingHand {
  public:
    MovingHand(const Timeline& timeline, const std::vector<Attack>& attacks)
        : m_timeline(timeline), m_attacks(attacks) {}

    // `per_beat`: the whole piece's, or (0) what each place suggests.
    bool down(std::size_t i, int per_beat, bool last_down) const {
        if (m_timeline.beats_s.size() < 2)
            return !last_down;
        const int here = per_beat > 0 ? per_beat : suggestedAt(i);
        if (here == 3)
            return !last_down || i == 0 ||
                   m_attacks[i].onset_s - m_attacks[i - 1].onset_s > kNewStart_s;
        return std::lround(beatOf(i) * here) % 2 == 0;
    }

    // The motion that agrees best with the strokes heard, trusted as far as it agrees.
    HandMotion thatAgreesBest() const {
        HandMotion best{0, kAlternationTrust};
        double most = -1e9;
        for (const int per_beat : {0, 1, 2, 4}) {
            double sum = 0.0;
            double agreed = 0.0;
            std::size_t heard = 0;
            bool last_down = false;
            for (std::size_t i = 0; i < m_attacks.size(); ++i) {
                const Attack& attack = m_attacks[i];
                last_down = down(i, per_beat, last_down);
                heard += attack.heard ? 1 : 0;
                sum += (last_down ? 1.0 : -1.0) * logOdds(attack.down);
                if (attack.heard)
                    agreed += last_down ? attack.down : 1.0 - attack.down;
            }
            if (heard < kFewestHeard)
                return best;
            if (sum > most + 1e-9) {
                most = sum;
                best = {
                    per_beat,
                    std::clamp(agreed / static_cast<double>(heard), kAlternationTrust, kMostTrust)};
            }
        }
        return best;
    }

  private:
    double beatOf(std::size_t i) const {
        return placeAmong(m_timeline.beats_s, m_attacks[i].onset_s);
    }

    // How many strokes the hand makes to a beat about an attack: sixteenth motion counts four,
    // anything slower two; triplets three in turn.
    int suggestedAt(std::size_t i) const {
        const double at = beatOf(i);
        double gap = 1.0;
        if (i > 0)
            gap = std::min(gap, at - beatOf(i - 1));
        if (i + 1 < m_attacks.size())
            gap = std::min(gap, beatOf(i + 1) - at);
        if (m_timeline.metre.compound())
            return gap < 0.25 ? 6 : 3;
        return gap < 0.3 ? 4 : gap < 0.4 ? 3 : 2;
    }

    const Timeline& m_timeline;
    const std::vector<Attack>& m_attacks;
};

// What ear and rule say together of one attack.
Decision<Stroke> pickStroke(const Attack& attack, bool rule, double trust) {
    const double odds = logOdds(attack.down) + (rule ? 1.0 : -1.0) * logOdds(trust);
    const bool down = odds > 0.0;
    Decision<Stroke> stroke;
    stroke.value = down ? Stroke::Down : Stroke::Up;
    stroke.basis = std::abs(logOdds(attack.down)) > logOdds(trust) ? Basis::Heard : Basis::Reasoned;
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

// How many strings an attack is on, and how many lie from its first to its last.
struct Spread {
    int strings = 0;
    int across = 0;
    bool skips() const { return strings > 1 && across > strings; }
};

Spread spreadOf(const Instrument& instrument, const Rows& rows, const Attack& attack) {
    std::set<int> used;
    for (const std::size_t n : attack.notes)
        if (const int string = rows[n].plan.position.value.string; instrument.hasString(string))
            used.insert(string);
    return used.empty() ? Spread{}
                        : Spread{static_cast<int>(used.size()), *used.rbegin() - *used.begin() + 1};
}

// Notes that sound on under the next one on another string.
double heldShare(const Rows& rows) {
    std::size_t held = 0;
    for (std::size_t i = 0; i + 1 < rows.size(); ++i)
        held += rows[i].note.offset_s() > rows[i + 1].note.onset_s() + kOver_s ? 1 : 0;
    return rows.empty() ? 0.0 : static_cast<double>(held) / static_cast<double>(rows.size());
}

// The finger for a string; `index_before`: the index struck just before.
Stroke fingerFor(const Instrument& instrument, int string, bool chords, bool index_before) {
    if (!instrument.isBass() && string > instrument.stringCount() - 3)
        return Stroke::P;
    if (chords)
        return string == 1 ? Stroke::A : string == 2 ? Stroke::M : Stroke::I;
    return index_before ? Stroke::M : Stroke::I;
}

// Strokes of the notes [write.first, write.end) of some rows; the others are as they are.
class Plucking {
  public:
    Plucking(const Instrument& instrument,
             const Timeline& timeline,
             const Rows& rows,
             IndexSpan write)
        : m_instrument(instrument), m_timeline(timeline), m_rows(rows), m_write(write),
          m_attacks(attacksOf(rows.notes())) {
        for (const NotePlan& plan : rows.plans())
            m_strokes.push_back(plan.stroke);
    }

    HandMotion motion() const { return MovingHand(m_timeline, m_attacks).thatAgreesBest(); }

    std::vector<Decision<Stroke>> by(PluckingSchool school, const HandMotion& motion) {
        for (std::size_t i = m_write.first; i < m_write.end; ++i)
            if (m_rows[i].note.slurred())
                give(i,
                     {Stroke::None,
                      Basis::Reasoned,
                      0.8,
                      {},
                      {{ReasonKind::NotStruck, Basis::Reasoned, 0, 0, 0.0}}});
        if (school == PluckingSchool::Pima || school == PluckingSchool::Im)
            withFingers(school == PluckingSchool::Pima);
        else
            withPick(motion, school == PluckingSchool::Hybrid);
        return {m_strokes.begin() + static_cast<std::ptrdiff_t>(m_write.first),
                m_strokes.begin() + static_cast<std::ptrdiff_t>(m_write.end)};
    }

  private:
    bool writes(std::size_t i) const {
        return i >= m_write.first && i < m_write.end && !m_strokes[i].isSet();
    }
    void give(std::size_t i, Decision<Stroke> stroke) {
        if (writes(i))
            m_strokes[i] = std::move(stroke);
    }

    void withPick(const HandMotion& motion, bool with_fingers) {
        const MovingHand hand(m_timeline, m_attacks);
        bool down = false;
        for (std::size_t i = 0; i < m_attacks.size(); ++i) {
            const Attack& attack = m_attacks[i];
            const bool rule = hand.down(i, motion.per_beat, down);
            const double trust =
                attack.notes.size() >= kStrum ? std::max(motion.trust, kStrumTrust) : motion.trust;
            const bool plucked = with_fingers && plucks(attack);
            const Decision<Stroke> solved = pickStroke(attack, plucked || rule, trust);
            down = solved.value == Stroke::Down;
            for (const std::size_t n : attack.notes)
                give(n, solved);
            if (plucked)
                fingersAbove(attack);
            for (const std::size_t n : attack.notes)
                if (m_strokes[n].isSet() || !writes(n))
                    down = m_strokes[n].value == Stroke::Down;
        }
    }

    // Two strings apart, or up to four taken at the same moment: not what one pick does.
    bool plucks(const Attack& attack) const {
        constexpr double kAtOnce_s = 0.004;
        const Spread spread = spreadOf(m_instrument, m_rows, attack);
        const double lasts_s = m_rows[attack.notes.back()].note.onset_s() -
                               m_rows[attack.notes.front()].note.onset_s();
        return spread.skips() || (spread.strings > 1 && spread.strings <= 4 &&
                                  lasts_s < kAtOnce_s * (spread.strings - 1));
    }

    // The pick keeps the thickest string; middle, ring and little finger have the others.
    void fingersAbove(const Attack& attack) {
        std::vector<std::size_t> notes = attack.notes;
        std::ranges::sort(notes, std::greater<>{}, [this](std::size_t n) {
            return m_rows[n].plan.position.value.string;
        });
        constexpr std::array kFingers = {Stroke::M, Stroke::A, Stroke::C};
        for (std::size_t k = 1; k < notes.size(); ++k) {
            const int string = m_rows[notes[k]].plan.position.value.string;
            give(notes[k],
                 {kFingers[std::min(k - 1, kFingers.size() - 1)],
                  Basis::Reasoned,
                  kFingerTrust,
                  {},
                  {{ReasonKind::FingerPerString, Basis::Reasoned, string, 0, 0.0}}});
        }
    }

    void withFingers(bool chords) {
        Stroke last = Stroke::Unknown;
        double last_s = -1e9;
        for (const Attack& attack : m_attacks)
            for (const std::size_t n : attack.notes) {
                const int string = m_rows[n].plan.position.value.string;
                const bool index_before =
                    last == Stroke::I && attack.onset_s - last_s <= kNewStart_s;
                give(n,
                     {fingerFor(m_instrument, string, chords, index_before),
                      Basis::Reasoned,
                      chords ? kHeldFingerTrust : kFingerTrust,
                      {},
                      {{chords ? ReasonKind::FingerPerString : ReasonKind::FingersAlternate,
                        Basis::Reasoned,
                        string,
                        0,
                        0.0}}});
                last = m_strokes[n].value;
                last_s = attack.onset_s;
            }
    }

    const Instrument& m_instrument;
    const Timeline& m_timeline;
    Rows m_rows;
    IndexSpan m_write;
    std::vector<Attack> m_attacks;
    std::vector<Decision<Stroke>> m_strokes;
};

// Tool and school as they are to be used; kept where they are known or enough notes were asked.
Stroking asked(const Instrument& instrument, const Rows& rows, const ReadingHead& head) {
    Stroking now{{}, head.tool, head.plucking_school, {}};
    if (now.tool.value == PluckingTool::Unknown)
        now.tool = {likelyTool(instrument, rows), Basis::Reasoned, kToolTrust, {}, {}};
    if (now.school.value == PluckingSchool::Unknown)
        now.school = {likelySchool(now.tool.value, instrument, rows),
                      Basis::Reasoned,
                      now.tool.probability,
                      {},
                      {}};
    return now;
}

// What so few notes say is not kept.
void keepIfEnough(const Rows& rows, const ReadingHead& head, Stroking& now) {
    if (rows.size() >= kEnoughForTool)
        return;
    now.tool = head.tool;
    now.school = head.plucking_school;
}

// Wide enough that no stroke of the hand is cut.
IndexSpan wholeStrokes(std::span<const Note> notes, IndexSpan part) {
    while (part.first > 0 && part.first < notes.size() &&
           beginTogether(notes[part.first - 1].onset_s(), notes[part.first].onset_s()))
        --part.first;
    while (part.end > 0 && part.end < notes.size() &&
           beginTogether(notes[part.end - 1].onset_s(), notes[part.end].onset_s()))
        ++part.end;
    return part;
}

} // namespace

PluckingTool usualTool(InstrumentKind kind) {
    const bool fingers = kind == InstrumentKind::Nylon || kind == InstrumentKind::Bass ||
                         kind == InstrumentKind::Bass5;
    return fingers ? PluckingTool::Fingers : PluckingTool::Pick;
}

PluckingTool likelyTool(const Instrument& instrument, const Rows& rows) {
    if (usualTool(instrument.kind) == PluckingTool::Fingers)
        return PluckingTool::Fingers;
    int several = 0;
    int skipping = 0;
    int strums = 0;
    const auto attacks = attacksOf(rows.notes());
    for (const Attack& attack : attacks) {
        const Spread spread = spreadOf(instrument, rows, attack);
        several += spread.strings > 1 ? 1 : 0;
        skipping += spread.skips() ? 1 : 0;
        strums += spread.strings >= 3 && spread.across == spread.strings ? 1 : 0;
    }
    if (strums > kStrumShare * static_cast<double>(attacks.size()) || heldShare(rows) < kHeldShare)
        return PluckingTool::Pick;
    const bool pinches = several > 3 && skipping > kSkipShare * several;
    const bool acoustic = instrument.kind == InstrumentKind::Acoustic;
    return acoustic || (pinches && heldShare(rows) > kMostlyHeld) ? PluckingTool::Fingers
                                                                  : PluckingTool::Pick;
}

PluckingSchool likelySchool(PluckingTool tool, const Instrument& instrument, const Rows& rows) {
    if (tool == PluckingTool::Both)
        return PluckingSchool::Hybrid;
    if (tool != PluckingTool::Fingers)
        return PluckingSchool::Alternate;
    return !instrument.isBass() && heldShare(rows) > kHeldShare ? PluckingSchool::Pima
                                                                : PluckingSchool::Im;
}

Stroking strokes(const Instrument& instrument,
                 const Timeline& timeline,
                 const Rows& rows,
                 const ReadingHead& head) {
    Stroking now = asked(instrument, rows, head);
    Plucking plucking(instrument, timeline, rows, {0, rows.size()});
    now.motion = plucking.motion();
    now.strokes = plucking.by(now.school.value, *now.motion);
    keepIfEnough(rows, head, now);
    return now;
}

Stroking strokesOfPart(const Instrument& instrument,
                       const Timeline& timeline,
                       const Rows& rows,
                       const ReadingHead& head,
                       IndexSpan part) {
    Stroking now = asked(instrument, rows, head);
    now.motion = head.motion ? *head.motion : Plucking(instrument, timeline, rows, {0, 0}).motion();
    const std::size_t from = part.first > kStrokeContext ? part.first - kStrokeContext : 0;
    const IndexSpan around =
        wholeStrokes(rows.notes(), {from, std::min(rows.size(), part.end + kStrokeContext)});
    Plucking plucking(instrument,
                      timeline,
                      rows.part(around.first, around.end),
                      {part.first - around.first, part.end - around.first});
    now.strokes = plucking.by(now.school.value, *now.motion);
    keepIfEnough(rows, head, now);
    return now;
}

} // namespace wirenote
