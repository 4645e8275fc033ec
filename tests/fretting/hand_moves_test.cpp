// What it costs a hand to move. The rules are common practice.
#include "fretting/hand_moves.h"
#include "fretting/solver.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

const Instrument& guitar() {
    static const Instrument instrument = standardInstrument(InstrumentKind::Guitar);
    return instrument;
}

struct Held {
    Position position;
    Finger finger = Finger::Index;
    int hand_fret = 5;
};

HandState stateOf(const Held& held, std::uint32_t note) {
    HandState state;
    state.hand_fret = static_cast<std::int8_t>(held.hand_fret);
    state.on(held.position.string) =
        OnString{note, static_cast<std::int8_t>(held.position.fret), held.finger, Why::Begins};
    return state;
}

// Two notes, one after the other, at these places.
double step(const Held& from,
            const Held& to,
            double gap_s = 0.5,
            Slur slur = Slur::None,
            const HandModel& model = {}) {
    std::vector<LineNote> notes(2);
    for (std::size_t i = 0; i < 2; ++i) {
        const Held& held = i == 0 ? from : to;
        notes[i].onset_s = gap_s * static_cast<double>(i);
        notes[i].offset_s = notes[i].onset_s + gap_s;
        notes[i].midi = guitar().midiAt(held.position);
        notes[i].alone = true;
    }
    notes[1].slur = slur;
    const HandLine line(guitar(), notes, model);
    const Moment first{0.0, {0}};
    const Moment second{gap_s, {1}};
    const std::vector<HandState> before{stateOf(from, 0)};
    const std::vector<HandState> now{stateOf(to, 1)};
    return HandMoves(line, first, before, second, now).cost(0, 0);
}

const Held kFifth{{3, 5}, Finger::Index, 5};

TEST(HandMoves, StayingIsCheaperThanShiftingAndAFarShiftDearerThanANearOne) {
    const double stay = step(kFifth, {{2, 6}, Finger::Middle, 5});
    const double near = step(kFifth, {{2, 8}, Finger::Middle, 7});
    const double far = step(kFifth, {{2, 13}, Finger::Middle, 12});
    EXPECT_LT(stay, near);
    EXPECT_LT(near, far);
}

TEST(HandMoves, AHurriedShiftCostsMoreAndAnOpenStringGivesTimeForIt) {
    const Held up{{2, 13}, Finger::Middle, 12};
    EXPECT_GT(step(kFifth, up, 0.08), step(kFifth, up, 0.8));
    EXPECT_LT(step({{3, 0}, Finger::Open, 5}, up), step(kFifth, up));
}

TEST(HandMoves, ASlurStaysOnItsString) {
    const Held above{{3, 7}, Finger::Ring, 5};
    EXPECT_GT(step(kFifth, {{2, 7}, Finger::Ring, 5}, 0.2, Slur::Hammer),
              step(kFifth, above, 0.2, Slur::Hammer) + 3.0);
    EXPECT_LT(step(kFifth, above, 0.2, Slur::Hammer), step(above, kFifth, 0.2, Slur::Hammer))
        << "a hammer-on is done by a higher finger";
    EXPECT_LT(step(above, kFifth, 0.2, Slur::Pull), step(kFifth, above, 0.2, Slur::Pull))
        << "a pull-off uncovers a lower one";
}

// The search relies on it: a step never costs less than nothing, however well it is guided.
TEST(HandMoves, AGuideSavesNoMoreThanTheShiftCosts) {
    HandModel guided;
    guided.guided = 100.0;
    const Held up{{3, 7}, Finger::Index, 7};
    EXPECT_GE(step(kFifth, up, 0.5, Slur::None, guided), 0.0);
    EXPECT_LT(step(kFifth, up, 0.5, Slur::None, guided), step(kFifth, up));
}

TEST(HandMoves, ARollIsCheaperThanAHop) {
    EXPECT_LT(step(kFifth, {{2, 5}, Finger::Index, 5}), step(kFifth, {{2, 6}, Finger::Index, 5}));
}

TEST(HandMoves, AnOctaveFromTheIndexFingerIsForTheLittleOne) {
    EXPECT_LT(step({{4, 5}, Finger::Index, 5}, {{2, 8}, Finger::Little, 5}),
              step({{4, 5}, Finger::Index, 5}, {{2, 8}, Finger::Ring, 5}));
}

TEST(HandMoves, AStateCannotHoldWhatTheOneBeforeDidNot) {
    std::vector<LineNote> notes(2);
    notes[0].midi = guitar().midiAt({3, 5});
    notes[0].offset_s = 2.0;
    notes[1].midi = guitar().midiAt({2, 6});
    notes[1].onset_s = 0.5;
    const HandModel model;
    const HandLine line(guitar(), notes, model);
    const std::vector<HandState> before{stateOf(kFifth, 0)};
    const Moment first{0.0, {0}};
    const Moment second{0.5, {1}};
    std::vector<HandState> now(3, stateOf({{2, 6}, Finger::Middle, 5}, 1));
    now[1].on(3) = OnString{0, 5, Finger::Index, Why::Rings};
    now[2].on(3) = OnString{0, 7, Finger::Ring, Why::Rings};
    const HandMoves moves(line, first, before, second, now);
    EXPECT_NEAR(moves.cost(0, 0), moves.cost(0, 1) + model.cut_off, 1e-9);
    EXPECT_TRUE(std::isinf(moves.cost(0, 2)));
}

// One note: the string against which nothing speaks.
TEST(HandMoves, EvidenceAgainstAStringIsAdded) {
    LineNote note;
    note.offset_s = 0.4;
    note.midi = 64;
    note.evidence = {{ReasonKind::StiffnessFits, Basis::Heard, {4.0, 4.0, 0.0, 4.0, 4.0, 4.0}},
                     {ReasonKind::CombFits, Basis::Heard, {1.0, 1.0, 0.0, 1.0, 1.0, 1.0}}};
    EXPECT_EQ(note.against(1), 5.0);
    const auto solved = solveLine(guitar(), std::vector{note});
    EXPECT_EQ(solved.notes[0].position, (Position{3, 9}));
}

TEST(HandMoves, ABendWantsTheRingFinger) {
    LineNote note;
    note.offset_s = 0.4;
    note.midi = 64;
    note.fixed_position = Position{3, 9};
    note.drawn_semitones = 2.0;
    EXPECT_EQ(solveLine(guitar(), std::vector{note}).notes[0].finger, Finger::Ring);
}

} // namespace
} // namespace wirenote
