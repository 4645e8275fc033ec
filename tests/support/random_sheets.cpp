#include "support/random_sheets.h"

#include <algorithm>
#include <random>

namespace wirenote::test {
namespace {

class Maker {
  public:
    explicit Maker(unsigned seed) : m_random(seed) {}

    Piece make() {
        Piece piece;
        piece.title = "Piece of chance";
        piece.about = {"Ada Example", "", "Cleo Example", "", "", ""};
        piece.instrument = standardInstrument(pick<InstrumentKind>({InstrumentKind::Guitar,
                                                                    InstrumentKind::Guitar,
                                                                    InstrumentKind::Nylon,
                                                                    InstrumentKind::Guitar7,
                                                                    InstrumentKind::Bass,
                                                                    InstrumentKind::Bass5}));
        piece.key.fifths = chance(-6, 6);
        piece.timeline.metre = *parseMetre(
            pick<const char*>({"4/4", "3/4", "2/4", "6/8", "12/8", "5/4", "7/8", "3/8", "2/2"}));
        piece.timeline.tempo_bpm = chance(50, 150);
        piece.sheet = style();
        notes(piece);
        beats(piece);
        if (once(0.5))
            marks(piece);
        return piece;
    }

    bool once(double share) { return std::uniform_real_distribution<>(0.0, 1.0)(m_random) < share; }
    int chance(int low, int high) { return std::uniform_int_distribution<>(low, high)(m_random); }

  private:
    template <class T> T pick(std::vector<T> of) {
        return of[static_cast<std::size_t>(chance(0, static_cast<int>(of.size()) - 1))];
    }

    SheetStyle style() {
        SheetStyle s;
        s.staves = once(0.5) ? SheetStaves::TabAndStaff : SheetStaves::Tab;
        s.size = pick<SheetSize>({SheetSize::HandOut, SheetSize::Stand, SheetSize::Screen});
        s.repeats = pick<SheetRepeats>({SheetRepeats::WrittenOut,
                                        SheetRepeats::Signs,
                                        SheetRepeats::ByNumber,
                                        SheetRepeats::Cells});
        for (bool* on : {&s.fingers,
                         &s.holds,
                         &s.positions,
                         &s.strokes,
                         &s.count,
                         &s.chords,
                         &s.grips,
                         &s.techniques,
                         &s.voices,
                         &s.doubts,
                         &s.basis})
            *on = once(0.7);
        return s;
    }

    // Beats through the whole piece, in seconds, a little loose.
    void beats(Piece& piece) {
        const double step = 60.0 / piece.timeline.tempo_bpm;
        const double end = piece.notes.empty() ? 4.0 : piece.notes.back().offset_s() + 2.0;
        for (double t = 0.0; t < end; t += step)
            piece.timeline.beats_s.push_back(t);
        piece.timeline.first_downbeat = once(0.2) ? 1 : 0;
        if (once(0.2))
            piece.timeline.changes.push_back({chance(2, 4), *parseMetre("3/4")});
        if (once(0.5)) {
            piece.timeline.sections.push_back({"Verse", {0.0, end / 2.0}});
            piece.timeline.sections.push_back({"Chorus, twice", {end / 2.0, end}});
        }
    }

    void notes(Piece& piece) {
        const double step = 60.0 / piece.timeline.tempo_bpm;
        double t = once(0.3) ? step : 0.0;
        const int parts_of_all = pick<int>({1, 2, 2, 3, 4});
        const bool thumbed = once(0.4);
        const int attacks = chance(0, 60);
        for (int k = 0; k < attacks; ++k) {
            const int parts = once(0.8) ? parts_of_all : pick<int>({1, 2, 3, 4});
            const double length = step / parts * pick<int>({1, 1, 1, 2, 3});
            if (!once(0.1))
                attack(piece, t, length, thumbed);
            t += length;
        }
    }

    // At some notes, one of a kind at each; what goes on ends at a later note, before the next of
    // its kind begins.
    void marks(Piece& piece) {
        static const std::vector<const char*> kTyped = {"p",
                                                        "mf",
                                                        "sfz",
                                                        "ffff",
                                                        "<",
                                                        ">",
                                                        "fermata",
                                                        "segno",
                                                        "coda",
                                                        "D.C. al Fine",
                                                        "freely"};
        double free_from = -1.0;
        for (std::size_t i = 0; i < piece.notes.size(); ++i) {
            const double at = piece.notes[i].onset_s();
            if (!once(0.12) || (!piece.marks.empty() && piece.marks.back().at_s > at - 0.06))
                continue;
            const std::size_t last = std::min(piece.notes.size() - 1, i + 8);
            const auto mark =
                markFromText(pick<const char*>(kTyped), at, piece.notes[last].onset_s());
            if (!mark || (goesOn(mark->kind) && at < free_from))
                continue;
            piece.marks.push_back(*mark);
            free_from = std::max(free_from, mark->to_s + 0.1);
        }
    }

    void attack(Piece& piece, double t, double length, bool thumbed) {
        const int strings = piece.instrument.stringCount();
        const int together = once(0.7) ? 1 : chance(2, strings);
        const int first = chance(1, strings - together + 1);
        const int hand = chance(1, 12);
        const Stroke stroke = once(0.5) ? Stroke::Down : Stroke::Up;
        for (int n = together - 1; n >= 0; --n) {
            const int string = first + n;
            const bool bass = thumbed && string > strings / 2;
            add(piece,
                t,
                bass ? length * 3.0 : length * 0.95,
                {string, once(0.2) ? 0 : hand + chance(0, 3)},
                !thumbed                 ? stroke
                : bass                   ? Stroke::P
                : together > 1 && n == 0 ? Stroke::A
                                         : pick<Stroke>({Stroke::I, Stroke::M, Stroke::A}),
                hand);
        }
    }

    void add(Piece& piece, double t, double length, Position place, Stroke stroke, int hand) {
        Note note;
        note.id = piece.next_id++;
        note.time.value = {t, t + std::max(0.02, length)};
        note.pitch.value = piece.instrument.midiAt(place);
        for (int i = 0; i < kTechniqueCount; ++i)
            if (const auto technique = static_cast<Technique>(i); once(0.03))
                note.add(technique);
        std::erase_if(note.techniques, [&](Technique a) {
            return std::ranges::any_of(note.techniques,
                                       [a](Technique b) { return a < b && excludes(a, b); });
        });
        if (note.has(Technique::Bend) || note.has(Technique::PreBend))
            note.curve = {{0.0, 0.0}, {length / 2.0, 200.0}};
        NotePlan plan;
        plan.note = note.id;
        plan.position.value = once(0.97) ? place : Position{0, 0};
        plan.position.probability = once(0.9) ? 0.95 : 0.4;
        plan.finger.value = place.fret == 0 ? Finger::Open
                            : once(0.5)     ? Finger::Index
                                            : static_cast<Finger>(chance(2, 6));
        plan.finger.probability = 0.9;
        plan.stroke.value = note.slurred() ? Stroke::None : stroke;
        plan.hand_fret = hand;
        piece.notes.push_back(note);
        piece.asPlayed().plans.push_back(plan);
    }

    std::mt19937 m_random;
};

} // namespace

Piece randomSheetPiece(unsigned seed) {
    return Maker(seed).make();
}

std::vector<ChordSign> randomChords(const Piece& piece, unsigned seed) {
    Maker maker(seed + 1000003);
    std::vector<ChordSign> chords;
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        if (maker.once(0.15)) {
            ChordSign chord;
            chord.note = i;
            chord.name = maker.once(0.5) ? "F♯m7♭5/E" : "G";
            if (maker.once(0.5))
                chord.grip = Grip{std::vector<int>(
                    static_cast<std::size_t>(piece.instrument.stringCount()), maker.chance(-1, 9))};
            chords.push_back(chord);
        }
    return chords;
}

} // namespace wirenote::test
