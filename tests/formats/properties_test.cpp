// Round trips as properties (RapidCheck): whatever piece a person could make comes back as it was.
#include "base/text.h"
#include "formats/journal.h"
#include "formats/midi_file.h"
#include "formats/musicxml.h"
#include "formats/notes_json.h"
#include "formats/piece_json.h"
#include "piece/edits.h"
#include "support/pieces.h"

#include <gtest/gtest.h>
#include <rapidcheck.h>

namespace wirenote {
namespace {

// Any bytes as a title, any line on the neck, any tempo.
Piece anyPiece() {
    std::vector<test::Row> rows;
    double at_s = *rc::gen::inRange(0, 1000) / 100.0;
    const int count = *rc::gen::inRange(1, 40);
    for (int i = 0; i < count; ++i) {
        const int string = *rc::gen::inRange(1, 7);
        const int fret = *rc::gen::inRange(0, 20);
        static constexpr std::array<int, 6> kOpen = {64, 59, 55, 50, 45, 40};
        at_s += *rc::gen::inRange(0, 200) / 100.0;
        const double length_s = *rc::gen::inRange(5, 300) / 100.0;
        std::vector<Technique> techniques;
        if (*rc::gen::inRange(0, 3) == 0)
            techniques.push_back(static_cast<Technique>(*rc::gen::inRange(0, kTechniqueCount)));
        rows.push_back({at_s,
                        at_s + length_s,
                        kOpen[static_cast<std::size_t>(string - 1)] + fret,
                        {string, fret},
                        techniques});
    }
    Piece piece = test::pieceOf(rows, *rc::gen::inRange(30, 300));
    piece.title = cleanText(*rc::gen::arbitrary<std::string>());
    piece.timeline.sections = {{cleanText(*rc::gen::arbitrary<std::string>()), {0.0, at_s}}};
    return piece;
}

void holds(const char* what, const std::function<void()>& property) {
    EXPECT_TRUE(rc::check(what, property));
}

TEST(Properties, APieceComesBackAsItWas) {
    holds("piece file", [] {
        const Piece piece = anyPiece();
        RC_ASSERT(checkPiece(piece).ok());
        const auto read = readPieceJson(writePieceJson(piece));
        RC_ASSERT(read.ok());
        RC_ASSERT(writePieceJson(*read) == writePieceJson(piece));
    });
}

TEST(Properties, NotesKeepTheirPitchesAndPlaces) {
    holds("notes JSON", [] {
        const Piece piece = anyPiece();
        const auto read = readNotesJson(writeNotesJson(piece));
        RC_ASSERT(read.ok());
        RC_ASSERT(read->notes.size() == piece.notes.size());
        for (std::size_t i = 0; i < piece.notes.size(); ++i) {
            RC_ASSERT(read->notes[i].midi() == piece.notes[i].midi());
            RC_ASSERT(read->asPlayed().plans[i].position.value ==
                      piece.asPlayed().plans[i].position.value);
        }
    });
}

TEST(Properties, MidiAndMusicXmlCanBeReadAgain) {
    holds("MIDI and MusicXML", [] {
        const Piece piece = anyPiece();
        RC_ASSERT(readMidi(writeMidi(piece)).ok());
        const auto musicxml = readMusicXml(writeMusicXml(piece));
        RC_ASSERT(musicxml.ok());
        RC_ASSERT(musicxml->notes.size() == piece.notes.size());
    });
}

TEST(Properties, AJournalLeadsToTheSamePiece) {
    holds("journal", [] {
        Piece piece = *readPieceJson(writePieceJson(anyPiece()));
        std::string journal = journalStart({}, piece);
        for (int k = *rc::gen::inRange(0, 8); k > 0; --k) {
            Piece after = piece;
            PieceEditor editor(after, "2026-01-01T00:00:00Z");
            const auto& some = piece.notes[static_cast<std::size_t>(
                *rc::gen::inRange(0, static_cast<int>(piece.notes.size())))];
            if (*rc::gen::inRange(0, 2) == 0)
                static_cast<void>(editor.toggleTechnique(some.id, Technique::Accent));
            else
                static_cast<void>(editor.split(some.id, some.onset_s() + 0.02));
            const PieceDelta delta = difference(piece, after);
            journal += journalStep(delta, true);
            if (*rc::gen::inRange(0, 3) == 0)
                journal += journalStep(delta, false);
            else
                piece = after;
        }
        const auto read = readJournal(journal);
        RC_ASSERT(read.ok());
        RC_ASSERT(writePieceJson(read->piece) == writePieceJson(piece));
    });
}

TEST(Properties, CleanTextIsCleanAndPercentCodingLosesNothing) {
    holds("text", [] {
        const std::string bytes = *rc::gen::arbitrary<std::string>();
        RC_ASSERT(isUtf8(cleanText(bytes)));
        RC_ASSERT(cleanText(cleanText(bytes)) == cleanText(bytes));
        RC_ASSERT(percentDecoded(percentEncoded(bytes)) == bytes);
    });
}

} // namespace
} // namespace wirenote
