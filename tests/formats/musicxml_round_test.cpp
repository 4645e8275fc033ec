// What goes out as MusicXML and comes back loses nothing that the standard can carry: 500 pieces
// made by chance. Every file is valid by the published schema, MusicXML 3.0
// (tests/data/musicxml-3.0), by xmllint.
#include "base/atomic_file.h"
#include "formats/musicxml.h"
#include "piece/timeline_map.h"
#include "score/bars.h"
#include "score/sheet.h"
#include "support/only_in.h"
#include "support/random_sheets.h"
#include "support/scratch.h"
#include "support/shell.h"

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>
#include <map>

namespace wirenote {
namespace {

constexpr unsigned kPieces = 500;

struct Written {
    Rational from, length;
    bool lower = false;
};

std::map<std::size_t, Written> placesOf(const Piece& piece) {
    std::map<std::size_t, Written> places;
    for (const Bar& bar :
         writeScore(piece, piece.sheet.voices ? WrittenVoices::AsNeeded : WrittenVoices::One).bars)
        for (const auto* values : {&bar.values, &bar.lower})
            for (const Value& value : *values) {
                for (const std::size_t i : value.notes) {
                    auto& place = places[i];
                    if (!value.tied_from_before)
                        place = {bar.start + value.start, 0, values == &bar.lower};
                    place.length += value.length;
                }
                for (const std::size_t i : value.graces)
                    places[i] = {bar.start + value.start, 0, values == &bar.lower};
            }
    return places;
}

// One line for what MusicXML can say of a note.
std::string described(const Piece& piece, std::size_t i, const Written& place, bool two) {
    const Note& note = piece.notes[i];
    const NotePlan& plan = piece.asPlayed().plans[i];
    std::string text = place.from.toString() + "+" + place.length.toString() + " " +
                       std::to_string(note.midi()) + " ";
    if (plan.placed())
        text += "s" + std::to_string(plan.position.value.string) + "f" +
                std::to_string(plan.position.value.fret) + " ";
    if (plan.finger.value >= Finger::Index)
        text += "finger" + std::to_string(static_cast<int>(plan.finger.value)) + " ";
    // Graces take no stroke of their own in the standard's notation.
    if (plan.stroke.value >= Stroke::Down && plan.stroke.value <= Stroke::C)
        text += "stroke" + std::to_string(static_cast<int>(plan.stroke.value)) + " ";
    std::vector<Technique> techniques = note.techniques;
    std::ranges::sort(techniques);
    for (const Technique t : techniques)
        text += "t" + std::to_string(static_cast<int>(t));
    text += " bend" + std::to_string(note.bendSemitones()) + " from" +
            std::to_string(note.frettedMidi());
    return text + (two && place.lower ? " lower" : "");
}

// What was read stands where it says, whatever anybody would write for it again.
void setHeardPlaces(const Piece& piece, std::map<std::size_t, Written>& places) {
    constexpr double kFine = 240.0;
    const TimelineMap map(piece.timeline);
    for (auto& [i, place] : places) {
        const Note& note = piece.notes[i];
        if (note.has(Technique::Grace))
            continue;
        const auto at = [&](double time_s) {
            return Rational(std::llround(kFine * map.quartersAt(time_s)), 240);
        };
        place.from = at(note.onset_s());
        place.length = at(note.offset_s()) - place.from;
        place.lower = note.voice == Voice::Lower;
    }
}

std::vector<std::string> contentsOf(const Piece& piece, bool read = false) {
    auto places = placesOf(piece);
    if (read)
        setHeardPlaces(piece, places);
    const bool two = std::ranges::any_of(places, [](const auto& p) { return p.second.lower; });
    std::vector<std::string> lines;
    for (const auto& [i, place] : places)
        lines.push_back(described(piece, i, place, two));
    std::ranges::sort(lines);
    return lines;
}

// What stands beside the notes, and where.
std::vector<std::string> marksOf(const Piece& piece) {
    std::vector<std::string> lines;
    for (const MarkSign& mark : writeSheet(piece, {}, CountSchool::Numbers).marks)
        lines.push_back(std::to_string(static_cast<int>(mark.kind)) + mark.text + " " +
                        mark.from.toString() + " to " + mark.to.toString());
    std::ranges::sort(lines);
    lines.erase(std::unique(lines.begin(), lines.end()), lines.end());
    return lines;
}

// Slurs from nowhere cannot be said, a bend of nothing is none, and a grace that leads to nothing
// is written as a note.
Piece sayable(Piece piece) {
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        Note& note = piece.notes[i];
        const auto drop = [&note](Technique t) { std::erase(note.techniques, t); };
        for (const Technique t : {Technique::HammerOn, Technique::PullOff, Technique::Slide})
            drop(t);
        if (note.has(Technique::Dead))
            drop(Technique::GhostStroke);
        if (note.bendSemitones() <= 0.0)
            drop(Technique::Release);
        if (note.has(Technique::Trill))
            drop(Technique::Vibrato);
        drop(Technique::PreBend);
        drop(Technique::Harmonic); // its fret does not give its pitch here
    }
    for (auto note = piece.notes.rbegin();
         note != piece.notes.rend() && note->has(Technique::Grace);
         ++note)
        std::erase(note->techniques, Technique::Grace);
    return piece;
}

TEST(MusicXmlRoundTrip, LosesNothingThatItCanCarry) {
    for (unsigned seed = 0; seed < kPieces; ++seed) {
        const Piece piece = sayable(test::randomSheetPiece(seed));
        if (piece.notes.empty())
            continue;
        auto read = readMusicXml(writeMusicXml(piece));
        ASSERT_TRUE(read.ok()) << seed << ": " << read.error().message;
        read->sheet = piece.sheet; // what is shown is no part of the standard
        EXPECT_EQ(test::onlyIn(contentsOf(piece), contentsOf(*read, true)), "")
            << "lost from " << seed;
        EXPECT_EQ(test::onlyIn(contentsOf(*read, true), contentsOf(piece)), "")
            << "new in " << seed;
        EXPECT_EQ(marksOf(*read), marksOf(piece)) << seed;
        EXPECT_EQ(read->title, piece.title);
        EXPECT_EQ(read->about, piece.about);
        EXPECT_EQ(read->key, piece.key);
        EXPECT_EQ(read->timeline.metre, piece.timeline.metre);
        if (::testing::Test::HasFailure())
            return;
    }
}

TEST(MusicXmlRoundTrip, EveryFileIsValid) {
    const test::Scratch scratch;
    std::string files;
    for (unsigned seed = 0; seed < kPieces; ++seed) {
        const auto path = scratch / (std::to_string(seed) + ".musicxml");
        ASSERT_TRUE(writeFileAtomically(path, writeMusicXml(test::randomSheetPiece(seed))).ok());
        files += " " + path.string();
    }
    const auto valid = test::shell("xmllint --nonet --noout --schema " WIRENOTE_SOURCE_DIR
                                   "/tests/data/musicxml-3.0/musicxml.xsd" +
                                   files + " 2>&1 | grep -v validates | head -5");
    EXPECT_EQ(valid.output, "");
}

} // namespace
} // namespace wirenote
