#include "session/carried.h"

#include "score/voices.h"

#include <algorithm>
#include <array>
#include <set>

namespace wirenote {
namespace {

constexpr int kParts = static_cast<int>(PiecePart::Takes) + 1;

std::set<PiecePart> carriedBy(FileFormat format) {
    using enum PiecePart;
    switch (format) {
    case FileFormat::Piece: {
        std::set<PiecePart> all;
        for (int i = 0; i < kParts; ++i)
            all.insert(static_cast<PiecePart>(i));
        return all;
    }
    case FileFormat::Notes:
        return {Places, Fingers, Strokes, Slurs, Bends, Techniques, Chords, PlayedTime, Evidence};
    case FileFormat::Midi:
        return {Bends, PlayedTime};
    case FileFormat::MusicXml:
    case FileFormat::Mxl:
        return {Places, Fingers, Strokes, Slurs, Bends, Techniques, Voices, Chords, Sections, Marks, Head};
    case FileFormat::AsciiTab:
        return {Places, Fingers, Strokes, Slurs};
    case FileFormat::Csv:
        return {Places, Fingers, Strokes, Slurs, Techniques, PlayedTime};
    case FileFormat::Jams:
        return {Places, PlayedTime};
    }
    return {};
}

bool anyNote(const Piece& piece, const std::vector<Technique>& techniques) {
    return std::ranges::any_of(piece.notes, [&](const Note& note) {
        return std::ranges::any_of(techniques, [&](Technique t) { return note.has(t); });
    });
}

bool anyPlan(const Piece& piece, bool (*has)(const NotePlan&)) {
    return std::ranges::any_of(piece.asPlayed().plans, has);
}

bool isThere(const Piece& piece, PiecePart part) {
    switch (part) {
    case PiecePart::Places:
        return anyPlan(piece, [](const NotePlan& p) { return p.placed(); });
    case PiecePart::Fingers:
        return anyPlan(piece, [](const NotePlan& p) { return p.finger.value >= Finger::Index; });
    case PiecePart::Strokes:
        return anyPlan(piece, [](const NotePlan& p) {
            return p.stroke.value >= Stroke::Down && p.stroke.value <= Stroke::C;
        });
    case PiecePart::Slurs:
        return anyNote(piece, {Technique::HammerOn, Technique::PullOff, Technique::Slide});
    case PiecePart::Bends:
        return anyNote(piece, {Technique::Bend, Technique::PreBend, Technique::Release});
    case PiecePart::Techniques:
        return std::ranges::any_of(piece.notes, [](const Note& note) {
            return std::ranges::any_of(note.techniques, [](Technique t) {
                return t >= Technique::Vibrato && t != Technique::PreBend;
            });
        });
    case PiecePart::Voices:
        return needsTwoVoices(piece, quantise(piece), voicesOf(piece));
    case PiecePart::Chords:
        return !piece.chord_names.empty();
    case PiecePart::Sections:
        return !piece.timeline.sections.empty();
    case PiecePart::Marks:
        return !piece.marks.empty();
    case PiecePart::Head:
        return piece.about != About{};
    case PiecePart::PlayedTime:
        return piece.lead() != nullptr;
    case PiecePart::Evidence:
        return std::ranges::any_of(piece.notes, [](const Note& n) { return !n.facts.empty(); }) ||
               anyPlan(piece, [](const NotePlan& p) { return !p.position.reasons.empty(); });
    case PiecePart::Readings:
        return piece.readings.size() > 1;
    case PiecePart::Takes:
        return !piece.takes.empty();
    }
    return false;
}

} // namespace

std::vector<PiecePart> notCarried(const Piece& piece, FileFormat format) {
    const auto carried = carriedBy(format);
    std::vector<PiecePart> missing;
    for (int i = 0; i < kParts; ++i)
        if (const auto part = static_cast<PiecePart>(i);
            !carried.contains(part) && isThere(piece, part))
            missing.push_back(part);
    return missing;
}

std::string wordsFor(const std::vector<PiecePart>& parts) {
    static constexpr std::array<const char*, kParts> kWords = {"strings and frets",
                                                               "fingers",
                                                               "strokes",
                                                               "slurs",
                                                               "bends",
                                                               "techniques",
                                                               "the second voice",
                                                               "names of chords",
                                                               "sections",
                                                               "dynamics and other marks",
                                                               "who made it",
                                                               "the time as it was played",
                                                               "how it is known",
                                                               "other readings",
                                                               "the takes"};
    std::string text;
    for (std::size_t i = 0; i < parts.size(); ++i)
        text += (i == 0                  ? ""
                 : i + 1 == parts.size() ? " and "
                                         : ", ") +
                std::string(kWords[static_cast<std::size_t>(parts[i])]);
    return text;
}

} // namespace wirenote
