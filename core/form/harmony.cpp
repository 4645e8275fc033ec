#include "form/harmony.h"

#include "piece/one_stroke.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr double kRingsOn_s = 0.12; // into what begins next, at the least
constexpr std::size_t kFewest = 2;  // notes that make a chord

// What a person said of them; of what has no name of its own too.
void giveNames(const std::vector<NamedChord>& names, std::vector<ChordSpan>& spans) {
    constexpr double kEarly_s = 0.06;
    constexpr double kAlone_s = 1.0; // where nothing is found
    for (const NamedChord& named : names) {
        const auto there = std::ranges::find_if(spans, [&named](const ChordSpan& span) {
            return named.at_s >= span.span.start_s - kEarly_s && named.at_s < span.span.end_s;
        });
        if (there == spans.end()) {
            spans.push_back({{named.at_s, named.at_s + kAlone_s}, {}, named.name});
        } else if (named.at_s <= there->span.start_s + kEarly_s) {
            there->said = named.name;
        } else { // from within it on
            ChordSpan rest = *there;
            there->span.end_s = rest.span.start_s = named.at_s;
            rest.said = named.name;
            spans.push_back(std::move(rest));
        }
    }
    std::ranges::stable_sort(spans, {}, [](const ChordSpan& span) { return span.span.start_s; });
}

} // namespace

std::string chordText(const ChordSpan& span, Spelling spelling) {
    return span.said.empty() ? chordText(span.chord, spelling) : span.said;
}

std::vector<ChordSpan> chordsOf(const Piece& piece) {
    std::vector<ChordSpan> spans;
    std::vector<const Note*> ringing;
    for (const IndexSpan stroke : strokeSpans(piece.notes)) {
        const double at_s = piece.notes[stroke.first].onset_s();
        std::erase_if(ringing, [at_s](const Note* n) { return n->offset_s() < at_s + kRingsOn_s; });
        for (std::size_t i = stroke.first; i < stroke.end; ++i)
            if (!piece.notes[i].has(Technique::GhostStroke) && !piece.notes[i].has(Technique::Dead))
                ringing.push_back(&piece.notes[i]);
        std::vector<int> midis;
        for (const Note* note : ringing)
            midis.push_back(note->midi());
        const ChordName chord = midis.size() >= kFewest ? nameChord(midis) : ChordName{};
        if (!spans.empty())
            spans.back().span.end_s = std::min(spans.back().span.end_s, at_s);
        if (!chord.named())
            continue;
        double end_s = at_s;
        for (const Note* note : ringing)
            end_s = std::max(end_s, note->offset_s());
        const bool goes_on = !spans.empty() && spans.back().chord.root == chord.root &&
                             spans.back().chord.kind == chord.kind &&
                             spans.back().chord.bass == chord.bass &&
                             at_s - spans.back().span.end_s < 1.0;
        if (goes_on)
            spans.back().span.end_s = end_s;
        else
            spans.push_back({{at_s, end_s}, chord, {}});
    }
    giveNames(piece.chord_names, spans);
    return spans;
}

bool outsideTheKey(const KeySignature& key, int midi) {
    // Steps of a major scale on its circle of fifths: one below to five above the tonic.
    const int fifths = ((midi * 7) % 12 + 12) % 12;               // of the pitch class, C = 0
    const int above = ((fifths - key.fifths + 1) % 12 + 12) % 12; // 0 … 6 are in the scale
    return above > 6;
}

} // namespace wirenote
