#include "engraving/notation.h"

#include <algorithm>
#include <array>
#include <map>

namespace wirenote {
namespace {

constexpr double kAccidentalGap = 0.2; // staff spaces, as all below
constexpr double kDotGap = 0.45;
constexpr double kLedger = 0.35;
constexpr double kGraceRoom = 1.6;
constexpr double kDotRoom = 0.75; // each
constexpr int kApart = 7;         // steps between accidentals that may stand above one another

int letterOf(char step) {
    static constexpr std::array<int, 7> kLetters = {5, 6, 0, 1, 2, 3, 4}; // A … G, from C
    return kLetters[static_cast<std::size_t>(step - 'A')];
}

Glyph headFor(NoteType type, const Note& note) {
    if (!note.pitched())
        return Glyph::NoteheadX;
    if (note.has(Technique::Harmonic))
        return Glyph::NoteheadDiamond;
    return type == NoteType::Whole  ? Glyph::NoteheadWhole
           : type == NoteType::Half ? Glyph::NoteheadHalf
                                    : Glyph::NoteheadBlack;
}

// What the key says of each letter: F C G D A E B get sharps in this order, flats in the other.
int alterOfKey(KeySignature key, int letter) {
    static constexpr std::array<int, 7> kSharps = {3, 0, 4, 1, 5, 2, 6};
    for (int i = 0; i < std::min(7, std::abs(key.fifths)); ++i) {
        const int which = key.fifths > 0 ? kSharps[static_cast<std::size_t>(i)]
                                         : kSharps[static_cast<std::size_t>(6 - i)];
        if (which == letter)
            return key.fifths > 0 ? 1 : -1;
    }
    return 0;
}

class Writer {
  public:
    explicit Writer(const Piece& piece) : m_piece(piece) {}

    WrittenChord chord(const Value& value, Voice voice) {
        WrittenChord chord{&value, voice, {}, {}, true, false, 0.0, 0.0, 0, 0, {}};
        for (const std::size_t i : value.graces)
            chord.graces.push_back(head(i, value, false));
        for (const std::size_t i : value.notes)
            chord.heads.push_back(head(i, value, value.tied_from_before));
        std::ranges::stable_sort(chord.heads, {}, &WrittenHead::step);
        return chord;
    }

  private:
    WrittenHead head(std::size_t i, const Value& value, bool tied) {
        const Note& note = m_piece.notes[i];
        const SpelledPitch pitch = spell(note.midi(), m_piece.key.spelling());
        WrittenHead head{i,
                         staffStep(pitch, m_piece.instrument.isBass()),
                         headFor(value.type, note),
                         {},
                         0,
                         false};
        if (tied || !note.pitched())
            return head;
        const auto said = m_said.find(head.step);
        const int usual =
            said != m_said.end() ? said->second : alterOfKey(m_piece.key, letterOf(pitch.step));
        if (usual != pitch.alter)
            head.accidental = pitch.alter > 0   ? Glyph::Sharp
                              : pitch.alter < 0 ? Glyph::Flat
                                                : Glyph::Natural;
        m_said[head.step] = pitch.alter;
        return head;
    }

    const Piece& m_piece;
    std::map<int, int> m_said; // of each step in this bar
};

// Seconds: every other head goes to the other side of the stem.
void spread(WrittenChord& chord) {
    auto& heads = chord.heads;
    const int n = static_cast<int>(heads.size());
    for (int k = 1; k < n; ++k) {
        const auto at = static_cast<std::size_t>(chord.stem_up ? k : n - 1 - k);
        const auto before = chord.stem_up ? at - 1 : at + 1;
        heads[at].aside =
            std::abs(heads[at].step - heads[before].step) <= 1 && !heads[before].aside;
    }
}

// How far the heads of a chord reach, from the middle of its column.
Sides headSides(const WrittenChord& chord) {
    const double half = headWidth(chord) / 2.0;
    Sides sides{half - offsetOf(chord), half + offsetOf(chord)};
    for (const WrittenHead& head : chord.heads)
        if (head.aside)
            (chord.stem_up ? sides.right : sides.left) += half * 2.0;
    return {sides.left, sides.right};
}

// From the top, each in the first column in which it has room.
void placeAccidentals(std::vector<WrittenHead*> heads) {
    std::ranges::stable_sort(heads, {}, [](const WrittenHead* head) { return -head->step; });
    std::vector<int> lowest;
    for (WrittenHead* head : heads) {
        if (!head->accidental)
            continue;
        std::size_t column = 0;
        while (column < lowest.size() && lowest[column] - head->step < kApart)
            ++column;
        if (column == lowest.size())
            lowest.push_back(0);
        lowest[column] = head->step;
        head->accidental_column = static_cast<int>(column);
    }
}

// In the space of the head; of a head on a line in the one over it (under it in the lower voice).
// Each space once.
void placeDots(WrittenChord& chord, bool down, std::vector<int>& taken) {
    if (chord.value->dots == 0)
        return;
    for (const WrittenHead& head : chord.heads) {
        const int step = head.step % 2 == 0 ? head.step + (down ? -1 : 1) : head.step;
        if (std::ranges::find(taken, step) == taken.end()) {
            taken.push_back(step);
            chord.dots.push_back(step);
        }
    }
}

// What begins together keeps clear of each other.
void placeSigns(std::vector<WrittenChord>& chords) {
    for (std::size_t from = 0; from < chords.size();) {
        std::size_t to = from + 1;
        while (to < chords.size() && chords[to].value->start == chords[from].value->start)
            ++to;
        std::vector<WrittenHead*> heads;
        std::vector<int> taken;
        Sides sides;
        for (std::size_t k = from; k < to; ++k) {
            for (WrittenHead& head : chords[k].heads)
                heads.push_back(&head);
            placeDots(chords[k], chords[k].voice == Voice::Lower, taken);
            const Sides own = headSides(chords[k]);
            sides = {std::max(sides.left, own.left), std::max(sides.right, own.right)};
        }
        placeAccidentals(heads);
        int columns = 0;
        for (const WrittenHead* head : heads)
            if (head->accidental)
                columns = std::max(columns, head->accidental_column + 1);
        int graces = 0;
        for (std::size_t k = from; k < to; ++k) {
            chords[k].graces_first = graces;
            graces += static_cast<int>(chords[k].graces.size());
            chords[k].heads_left = sides.left;
            chords[k].heads_right = sides.right;
            chords[k].accidental_columns = columns;
        }
        from = to;
    }
}

// A chord's stem goes towards the middle line from the head that is furthest off.
bool goesUp(const std::vector<WrittenHead>& heads) {
    return heads.empty() || heads.back().step + heads.front().step < 0;
}

// On one beam all stems go one way, as the furthest head of all wants.
void decideStems(std::vector<WrittenChord>& chords, bool two) {
    for (WrittenChord& chord : chords)
        chord.stem_up = two ? chord.voice == Voice::Upper : goesUp(chord.heads);
    if (two)
        return;
    for (std::size_t from = 0; from < chords.size();) {
        const int beam = chords[from].value->beam;
        std::size_t to = from + 1;
        while (beam > 0 && to < chords.size() && chords[to].value->beam == beam)
            ++to;
        if (beam > 0) {
            int highest = -1000;
            int lowest = 1000;
            for (std::size_t k = from; k < to; ++k) {
                highest = std::max(highest, chords[k].heads.back().step);
                lowest = std::min(lowest, chords[k].heads.front().step);
            }
            for (std::size_t k = from; k < to; ++k)
                chords[k].stem_up = highest + lowest < 0;
        }
        from = to;
    }
}

// Where both voices begin together and their heads would touch, the lower one moves.
void keepVoicesApart(std::vector<WrittenChord>& chords) {
    for (WrittenChord& lower : chords) {
        if (lower.voice != Voice::Lower || lower.heads.empty())
            continue;
        for (const WrittenChord& upper : chords)
            if (upper.voice == Voice::Upper && !upper.heads.empty() &&
                upper.value->start == lower.value->start &&
                upper.heads.front().step - lower.heads.back().step <= 1)
                lower.moved = true;
    }
}

} // namespace

int staffStep(const SpelledPitch& sounding, bool bass) {
    constexpr int kTrebleMiddle = 4 * 7 + 6; // B4
    constexpr int kBassMiddle = 3 * 7 + 1;   // D3
    const int written = (sounding.octave + 1) * 7 + letterOf(sounding.step);
    return written - (bass ? kBassMiddle : kTrebleMiddle);
}

std::vector<WrittenChord> notationOf(const Piece& piece, const Bar& bar) {
    struct Entry {
        const Value* value;
        Voice voice;
    };
    std::vector<Entry> entries;
    for (const Value& value : bar.values)
        entries.push_back({&value, Voice::Upper});
    for (const Value& value : bar.lower)
        entries.push_back({&value, Voice::Lower});
    std::ranges::stable_sort(entries, {}, [](const Entry& e) { return e.value->start; });
    Writer writer(piece);
    std::vector<WrittenChord> chords;
    for (const Entry& entry : entries)
        chords.push_back(writer.chord(*entry.value, entry.voice));
    decideStems(chords, !bar.lower.empty());
    for (WrittenChord& chord : chords)
        spread(chord);
    keepVoicesApart(chords);
    placeSigns(chords);
    return chords;
}

double headWidth(const WrittenChord& chord) {
    double width = 0.0;
    for (const WrittenHead& head : chord.heads)
        width = std::max(width, metricsOf(head.head).width());
    return width;
}

double offsetOf(const WrittenChord& chord) {
    return chord.moved ? headWidth(chord) + 0.15 : 0.0;
}

Sides sidesOf(const WrittenChord& chord) {
    if (chord.heads.empty()) {
        const double half = metricsOf(restGlyph(chord.value->type)).width() / 2.0;
        return {half, half + chord.value->dots * kDotRoom + (chord.value->dots > 0 ? kDotGap : 0)};
    }
    Sides sides{chord.heads_left, chord.heads_right};
    bool ledger = false;
    for (const WrittenHead& head : chord.heads) {
        ledger = ledger || std::abs(head.step) >= 6;
    }
    if (ledger) {
        sides.left += kLedger;
        sides.right += kLedger;
    }
    sides.left += chord.accidental_columns * (metricsOf(Glyph::Sharp).width() + kAccidentalGap);
    if (!chord.graces.empty())
        sides.left += 0.8 + kGraceRoom * static_cast<double>(chord.graces_first +
                                                             static_cast<int>(chord.graces.size()));
    if (const auto flag = flagGlyph(chord.value->type, true); flag && chord.value->beam == 0)
        sides.right += (chord.stem_up ? 1.0 : 0.3) * metricsOf(*flag).width();
    if (chord.value->dots > 0)
        sides.right += kDotGap + kDotRoom * chord.value->dots;
    return sides;
}

Glyph restGlyph(NoteType type) {
    switch (type) {
    case NoteType::Whole:
        return Glyph::RestWhole;
    case NoteType::Half:
        return Glyph::RestHalf;
    case NoteType::Quarter:
        return Glyph::RestQuarter;
    case NoteType::Eighth:
        return Glyph::Rest8;
    case NoteType::Sixteenth:
        return Glyph::Rest16;
    case NoteType::ThirtySecond:
        return Glyph::Rest32;
    }
    return Glyph::RestQuarter;
}

std::optional<Glyph> flagGlyph(NoteType type, bool stem_up) {
    switch (type) {
    case NoteType::Eighth:
        return stem_up ? Glyph::Flag8Up : Glyph::Flag8Down;
    case NoteType::Sixteenth:
        return stem_up ? Glyph::Flag16Up : Glyph::Flag16Down;
    case NoteType::ThirtySecond:
        return stem_up ? Glyph::Flag32Up : Glyph::Flag32Down;
    default:
        return {};
    }
}

} // namespace wirenote
