// Pieces with everything the formats carry.
#pragma once

#include "support/pieces.h"

namespace wirenote::test {

// Two bars and a pick-up: open strings, a hammer-on, a slide, a tie over the bar line, a triplet, a
// rest.
inline Piece richPiece() {
    Piece piece = pieceOf({{0.5, 0.98, 52, {4, 2}},
                           {1.0, 1.2, 55, {3, 0}},
                           {1.25, 1.45, 57, {3, 2}, {Technique::HammerOn}},
                           {1.5, 1.6, 59, {2, 0}},
                           {1.667, 1.8, 60, {2, 1}},
                           {1.833, 1.98, 62, {2, 3}},
                           {2.5, 3.48, 67, {2, 8}},
                           {3.5, 3.98, 69, {2, 10}, {Technique::Slide}},
                           {4.5, 4.98, 66, {1, 2}}});
    piece.timeline.first_downbeat = 2; // the first note is a pick-up
    piece.key = guessKey(piece.notes);
    piece.about = {"Ada Example", "Ben Example", "Cleo Example"};
    for (std::size_t i = 0; i < piece.asPlayed().plans.size(); ++i) {
        NotePlan& plan = piece.asPlayed().plans[i];
        plan.position.runners_up = {{{5, 7}, 0.1}};
        plan.position.reasons = {{ReasonKind::OtherNeedsShift, Basis::Reasoned, 5, 3, 0.0}};
        plan.finger.value = plan.position.value.fret == 0 ? Finger::Open : Finger::Middle;
        plan.finger.probability = 0.6;
        plan.stroke.value = piece.notes[i].slurred() ? Stroke::None
                            : i % 2 == 0             ? Stroke::Down
                                                     : Stroke::Up;
        plan.stroke.probability = 0.6;
        plan.hand_fret = 1;
    }
    piece.notes[0].ownSound().stiffness = {-9.25, 0.125};
    piece.notes[0].ownSound().attack = {0.8125, false};
    piece.notes[0].ownSound().attack.edge_db = -17.25;
    piece.notes[0].ownSound().thick_first = 0.75;
    piece.notes[2].ownSound().attack = {-1.0, true};
    NoteFacts lent; // by another repeat
    lent.span = {4.5, 5.0};
    lent.heard.stiffness = {-9.5, 0.25, true, false};
    piece.notes[1].facts.push_back(lent);
    piece.notes[1].facts.back().seen = {{{1, 4.625, 2.25}, {3, 6.5, 3.0}}, 0.75, 0.6875};
    piece.string_traits.assign(6, {0.125, 0.25, Basis::Heard});
    piece.string_traits[5].basis = Basis::Set;
    piece.misses = {{{1.5, 1.75}, 71, 0.25, {2, 12}}, {{2.5, 2.75}, 40, 0.5, {6, 0}}};
    piece.notes[0].curve = {{0.55, -3.5}, {0.6, 2.0}};
    Reading easier = piece.asPlayed();
    easier.head.name = "easier";
    easier.head.purpose = "for a first lesson";
    easier.head.tool.set(PluckingTool::Fingers);
    easier.head.plucking_school.set(PluckingSchool::Pima);
    easier.plans[0].position.set({0, 0}); // left out
    piece.readings.push_back(easier);
    piece.asPlayed().head.motion = HandMotion{2, 0.75, true};
    piece.log = {{"2026-01-01T00:00:00Z", "accepted", 1}};
    return piece;
}

} // namespace wirenote::test
