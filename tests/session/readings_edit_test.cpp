// Edits in a reading other than "as played", and what was written from it.
#include "base/atomic_file.h"
#include "formats/journal.h"
#include "piece/in_reading.h"
#include "session/compare_sources.h"
#include "session/exporting.h"
#include "session/files.h"
#include "session/other_readings.h"
#include "session/resolve.h"
#include "session/workspace.h"
#include "support/pieces.h"
#include "support/scratch.h"

#include <array>
#include <fstream>
#include <functional>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <random>

namespace wirenote {
namespace {

Piece withReading(const char* kind) {
    Piece piece = test::scalePiece(24);
    placeAndStroke(piece);
    const auto recipe = parseRecipe(kind, piece.instrument);
    EXPECT_TRUE(makeReading(piece, *recipe, "2026-01-01T00:00:00Z").ok());
    return piece;
}

TEST(EditIn, SolvesTheNeighbourhoodOfThatReadingAlone) {
    const Piece piece = withReading("transpose:3");
    const Piece view = inReading(piece, 1);
    const NoteId note = piece.notes[8].id;
    const Position was = view.plan(note)->position.value;
    int other = 0;
    for (int string = 1; string <= 6 && other == 0; ++string)
        if (string != was.string && view.instrument.fretFor(string, view.note(note)->midi()) >= 0)
            other = string;
    ASSERT_GT(other, 0);
    const auto outcome = tryEditIn(piece, 1, piece.notes[8].onset_s(), [&](PieceEditor& editor) {
        return editor.moveToString(note, other);
    });
    ASSERT_TRUE(outcome.ok());
    Piece edited = piece;
    apply(outcome->delta, edited);
    EXPECT_TRUE(checkPiece(edited).ok());
    EXPECT_EQ(edited.notes, piece.notes);
    EXPECT_EQ(edited.asPlayed().plans, piece.asPlayed().plans);
    const Piece now = inReading(edited, 1);
    EXPECT_EQ(now.plan(note)->position.value.string, other);
    EXPECT_TRUE(now.plan(note)->position.isSet());
    for (std::size_t i = 0; i < now.notes.size(); ++i)
        EXPECT_EQ(now.instrument.midiAt(now.asPlayed().plans[i].position.value),
                  now.notes[i].midi());
    revert(outcome->delta, edited);
    EXPECT_EQ(edited, piece) << "undone to the last bit";
}

TEST(EditIn, AnEditOfWhatWasPlayedIsSolvedInEveryReading) {
    const Piece piece = withReading("transpose:3+capo:1");
    const NoteId note = piece.notes[5].id;
    const auto outcome = tryEdit(piece, piece.notes[5].onset_s(), [&](PieceEditor& editor) {
        return editor.setPitch(note, piece.notes[5].midi() + 1);
    });
    ASSERT_TRUE(outcome.ok()) << outcome.error().message;
    Piece edited = piece;
    apply(outcome->delta, edited);
    const Piece there = inReading(edited, 1);
    EXPECT_EQ(there.note(note)->midi(), piece.notes[5].midi() + 4);
    EXPECT_EQ(there.instrument.midiAt(there.plan(note)->position.value), there.note(note)->midi());
}

TEST(Readings, AllTheySayIsKeptInTheFile) {
    const test::Scratch scratch;
    Piece piece = withReading("easier:2+transpose:2+capo:2");
    ReadingHead& head = piece.readings[1].head;
    head.tempi = {60.0, 96.0};
    head.claim = Exactness::Adapted;
    head.origins = {{{0.0, 1.0}, "as played", "the opening as it is"}};
    AddedNote added{piece.notes[3], piece.readings[1].plans[3]};
    added.note.id = added.plan.note = piece.next_id++;
    added.plan.departure = {};
    head.added.push_back(added);
    piece.readings[1].plans[4].departure = {
        DepartureWhy::Person, false, -2, std::vector{Technique::Vibrato}};
    piece.notes[2].need = {Necessity::MayGo, 120.0, "only the second time"};
    piece.notes[2].left_open = {{DoubtKind::Finger, "does not matter"}};
    piece.papers = {{"old edition", "pages.pdf", TakeRights::Permitted, {{1, 0, 0.25, 0.5}}}};
    noteExport(piece, 1, "sheet.pdf");
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    editor.because({"N. N.", SetWhy::Memory, "as I remember it"});
    ASSERT_TRUE(editor.accept(piece.notes[0].id).ok());
    ASSERT_TRUE(checkPiece(piece).ok()) << checkPiece(piece).error().message;
    ASSERT_TRUE(writeAny(piece, scratch / "kept.wirenote").ok());
    const auto read = readAny(scratch / "kept.wirenote");
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_EQ(read->readings.size(), piece.readings.size());
    for (std::size_t r = 0; r < piece.readings.size(); ++r) {
        const ReadingHead& was = piece.readings[r].head;
        const ReadingHead& is = read->readings[r].head;
        EXPECT_EQ(is.semitones, was.semitones);
        ASSERT_EQ(is.instrument.has_value(), was.instrument.has_value());
        if (is.instrument) { // gauges are written to a ten-thousandth of a millimetre
            EXPECT_EQ(is.instrument->capo, was.instrument->capo);
            EXPECT_EQ(tuningText(*is.instrument), tuningText(*was.instrument));
        }
        EXPECT_TRUE(is.added == was.added && is.origins == was.origins) << r;
        EXPECT_TRUE(is.tempi == was.tempi && is.claim == was.claim && is.wish == was.wish) << r;
        EXPECT_TRUE(is.tool == was.tool && is.motion == was.motion) << r;
        for (std::size_t i = 0; i < piece.notes.size(); ++i)
            EXPECT_TRUE(read->readings[r].plans[i] == piece.readings[r].plans[i]) << r << " " << i;
    }
    EXPECT_EQ(read->notes, piece.notes);
    EXPECT_EQ(read->log, piece.log);
    EXPECT_EQ(read->papers, piece.papers);
    EXPECT_EQ(read->exported, piece.exported);
}

TEST(Exporting, WhatNoLongerSaysWhatThePieceSaysIsOutOfDate) {
    Piece piece = withReading("no-open");
    noteExport(piece, 0, "played.pdf");
    noteExport(piece, 1, "other.pdf");
    EXPECT_TRUE(outOfDate(piece).empty());
    piece.notes[2].pitch.probability = 0.99; // only evidence
    EXPECT_TRUE(outOfDate(piece).empty());
    Piece fingered = piece;
    fingered.asPlayed().plans[0].finger.set(Finger::Little);
    ASSERT_EQ(outOfDate(fingered).size(), 1U);
    EXPECT_EQ(outOfDate(fingered)[0].reading, "as played");
    Piece titled = piece;
    titled.title = "another";
    EXPECT_EQ(outOfDate(titled).size(), 2U);
    Piece gone = piece;
    gone.readings.pop_back();
    ASSERT_EQ(outOfDate(gone).size(), 1U) << "its reading is gone";
    noteExport(fingered, 0, "played.pdf");
    EXPECT_TRUE(outOfDate(fingered).empty()) << "written again";
}

TEST(CompareSources, ReadingsByNameOrNumberAndScoresByFile) {
    const test::Scratch scratch;
    const Piece piece = withReading("no-open");
    const auto named = compareSources(piece, "as played", "no open strings");
    const auto numbered = compareSources(piece, "1", "2");
    ASSERT_TRUE(named.ok() && numbered.ok());
    EXPECT_FALSE(named->comparison.differences.empty());
    EXPECT_EQ(named->comparison.differences.size(), numbered->comparison.differences.size());
    // Written as a score and read again, it is what it was.
    const std::string score = (scratch / "played.musicxml").string();
    ASSERT_TRUE(writeAny(piece, score).ok());
    const auto same = compareSources(piece, "1", score);
    ASSERT_TRUE(same.ok());
    EXPECT_TRUE(same->comparison.differences.empty())
        << same->comparison.differences.front().a_text << " "
        << same->comparison.differences.front().b_text;
    EXPECT_FALSE(compareSources(piece, "1", "3").ok());
    EXPECT_FALSE(compareSources(piece, "slower", "1").ok());
}

TEST(Readings, AScoreInAFileBecomesOne) {
    const test::Scratch scratch;
    Piece piece = test::scalePiece(16);
    placeAndStroke(piece);
    Piece score = piece;
    for (Note& note : score.notes)
        note.pitch.value += note.id == 4 ? 1 : 0;
    placeAndStroke(score);
    const std::string file = (scratch / "edition.musicxml").string();
    ASSERT_TRUE(writeAny(score, file).ok());
    const auto recipe = parseRecipe("score:" + file, piece.instrument);
    ASSERT_TRUE(recipe.ok());
    const auto made = makeReading(piece, *recipe, "now");
    ASSERT_TRUE(made.ok());
    const Piece view = inReading(piece, made->index);
    EXPECT_EQ(view.note(4)->midi(), piece.note(4)->midi() + 1);
    EXPECT_EQ(view.notes.size(), piece.notes.size());
    EXPECT_EQ(piece.readings[made->index].head.name, "as in edition.musicxml");
    EXPECT_FALSE(makeReading(piece, *parseRecipe("score:none.xml", piece.instrument), "now").ok());
}

// One edit of some kind of some note of a view, as chance has it. False: there is nothing to do.
Status randomEdit(PieceEditor& editor, const Piece& view, std::mt19937& chance) {
    const Note& note = view.notes[chance() % view.notes.size()];
    switch (chance() % 9) {
    case 0:
        return editor.moveToString(
            note.id, 1 + static_cast<int>(chance() % view.instrument.strings.size()));
    case 1:
        return editor.setFret(note.id, static_cast<int>(chance() % 13));
    case 2:
        return editor.setPitch(note.id, note.midi() + static_cast<int>(chance() % 5) - 2);
    case 3:
        return editor.setFinger(note.id, static_cast<Finger>(1 + chance() % 5));
    case 4:
        return editor.setStroke(note.id, chance() % 2 == 0 ? Stroke::Down : Stroke::Up);
    case 5:
        return editor.toggleTechnique(note.id, static_cast<Technique>(chance() % kTechniqueCount));
    case 6:
        return editor.remove(note.id);
    case 7: {
        const auto added = editor.add({note.offset_s(), note.offset_s() + 0.2}, note.midi(), {});
        return added ? Status{} : Status{added.error()};
    }
    default:
        return editor.accept(note.id);
    }
}

TEST(EditIn, NoEditOfAReadingTouchesWhatWasPlayed) {
    constexpr std::array kKinds{"transpose:3", "capo:2", "easier:2", "no-open", "instrument:bass"};
    constexpr std::array kHow{
        Resolve::Neighbourhood, Resolve::WholePiece, Resolve::AroundWhatIsSure, Resolve::Nothing};
    std::mt19937 chance(1);
    int done = 0;
    for (const char* kind : kKinds) {
        SCOPED_TRACE(kind);
        Piece piece = withReading(kind);
        const std::vector<Note> played = piece.notes;
        const Reading as_played = piece.asPlayed();
        for (int edit = 0; edit < 60; ++edit) {
            const Piece view = inReading(piece, 1);
            const auto outcome = tryEditIn(
                piece,
                1,
                view.notes.front().onset_s() + 0.25 * edit,
                [&](PieceEditor& editor) {
                    std::mt19937 same = chance; // an edit may run twice
                    return randomEdit(editor, view, same);
                },
                kHow[static_cast<std::size_t>(edit) % kHow.size()]);
            chance.discard(7);
            if (!outcome)
                continue; // refused, in one sentence
            Piece edited = piece;
            apply(outcome->delta, edited);
            ASSERT_TRUE(edited.notes == played) << edit;
            ASSERT_TRUE(edited.asPlayed() == as_played) << edit;
            ASSERT_TRUE(checkPiece(edited).ok()) << checkPiece(edited).error().message;
            ASSERT_TRUE(edited == edited) << "no number in it is none";
            Piece back = edited;
            revert(outcome->delta, back);
            ASSERT_TRUE(back.readings == piece.readings) << edit;
            ASSERT_TRUE(back.notes == piece.notes) << edit;
            ASSERT_TRUE(back.log == piece.log) << edit;
            ASSERT_TRUE(sameFrame(back, piece)) << edit;
            ASSERT_TRUE(back == piece) << edit;
            piece = std::move(edited);
            ++done;
        }
    }
    EXPECT_GT(done, 150) << "most are possible";
}

TEST(EditIn, ManyNotesAtOnceGoFromTheReadingAlone) {
    const Piece piece = withReading("no-open");
    const auto outcome = tryEditIn(
        piece,
        1,
        0.0,
        [&](PieceEditor& editor) -> Status {
            for (std::size_t i = 0; i < 20; ++i)
                if (const Status gone = editor.remove(piece.notes[i].id); !gone)
                    return gone;
            return {};
        },
        Resolve::WholePiece);
    ASSERT_TRUE(outcome.ok());
    Piece edited = piece;
    apply(outcome->delta, edited);
    EXPECT_EQ(edited.notes, piece.notes);
    EXPECT_EQ(inReading(edited, 1).notes.size(), piece.notes.size() - 20);
}

TEST(EditIn, TheKeyOfATransposedReadingIsThatOfThePieceMoved) {
    const Piece piece = withReading("transpose:2");
    const auto outcome = tryEditIn(
        piece, 1, 0.0, [](PieceEditor& editor) { return editor.setKey({2}); }, Resolve::Nothing);
    ASSERT_TRUE(outcome.ok());
    Piece edited = piece;
    apply(outcome->delta, edited);
    EXPECT_EQ(edited.key.fifths, 0) << "D major there is C major here";
    EXPECT_EQ(inReading(edited, 1).key.fifths, 2);
    const auto named = tryEditIn(
        piece,
        1,
        0.0,
        [](PieceEditor& editor) { return editor.nameChord(0.0, "D"); },
        Resolve::Nothing);
    EXPECT_FALSE(named.ok()) << "chords are named where they sound";
}

TEST(EditIn, GoesThroughTheJournal) {
    Piece piece = withReading("transpose:3");
    JournalHeader header;
    header.when = "2026-01-01T00:00:00Z";
    std::string journal = journalStart(header, piece);
    std::mt19937 chance(5);
    for (int edit = 0; edit < 12; ++edit) {
        const Piece view = inReading(piece, 1);
        const auto outcome = tryEditIn(piece, 1, 1.0, [&](PieceEditor& editor) {
            std::mt19937 same = chance;
            return randomEdit(editor, view, same);
        });
        chance.discard(3);
        if (!outcome)
            continue;
        journal += journalStep(outcome->delta, true);
        apply(outcome->delta, piece);
    }
    const auto kept = readJournal(journal);
    ASSERT_TRUE(kept.ok()) << kept.error().message;
    EXPECT_EQ(kept->piece.notes, piece.notes);
    ASSERT_EQ(kept->piece.readings.size(), 2U);
    EXPECT_EQ(kept->piece.readings[1].plans, piece.readings[1].plans);
    EXPECT_EQ(kept->piece.readings[1].head.added, piece.readings[1].head.added);
}

TEST(Readings, WhatAPersonWorkedOnIsNotMadeAnew) {
    Piece piece = withReading("no-barre");
    const auto recipe = parseRecipe("no-barre", piece.instrument);
    ASSERT_TRUE(makeReading(piece, *recipe, "now").ok());
    EXPECT_EQ(piece.readings.size(), 2U) << "nothing is lost with the first";
    piece.readings[1].plans[3].finger.set(Finger::Little);
    const Reading worked_on = piece.readings[1];
    const auto second = makeReading(piece, *recipe, "now");
    ASSERT_TRUE(second.ok());
    EXPECT_EQ(second->index, 2U);
    EXPECT_EQ(piece.readings[1], worked_on);
    EXPECT_EQ(piece.readings[2].head.name, "no barre (2)");
    const auto from_itself = makeReading(piece, *recipe, "now", 2);
    ASSERT_TRUE(from_itself.ok());
    EXPECT_EQ(piece.readings[from_itself->index].head.name, "no barre (3)");
    EXPECT_EQ(piece.readings[from_itself->index].head.made_from, "no barre (2)");
}

// Each field of a reading, given a value that cannot be.
TEST(Readings, ADamagedOneIsRefusedWithASentence) {
    const test::Scratch scratch;
    Piece piece = withReading("easier:1+capo:2");
    piece.readings[1].head.origins = {{{0.0, 1.0}, "as played", ""}};
    AddedNote added{piece.notes[3], piece.readings[1].plans[3]};
    added.note.id = added.plan.note = piece.next_id++;
    piece.readings[1].head.added = {added};
    piece.readings[1].plans[4].departure = {DepartureWhy::Person, false, -2, {}};
    piece.notes[2].need = {Necessity::MayGo, 120.0, ""};
    piece.notes[2].left_open = {{DoubtKind::Finger, ""}};
    piece.papers = {{"pages", "pages.pdf", TakeRights::Unknown, {{1, 0, 0.2, 0.5}}}};
    noteExport(piece, 1, "sheet.pdf");
    ASSERT_TRUE(writeAny(piece, scratch / "good.wirenote").ok());
    const auto good = nlohmann::json::parse(*readWholeFile(scratch / "good.wirenote", 10'000'000));
    using Json = nlohmann::json;
    const std::vector<std::function<void(Json&)>> faults{
        [](Json& j) { j["readings"][1]["semitones"] = 900; },
        [](Json& j) { j["readings"][1]["semitones"] = 100; }, // no note has a pitch then
        [](Json& j) { j["readings"][1]["origins"][0]["end_s"] = -1.0; },
        [](Json& j) { j["readings"][1]["origins"] = 3; },
        [](Json& j) { j["readings"][1]["added"][0].erase("plan"); },
        [](Json& j) { j["readings"][1]["added"][0]["note"]["id"] = 1; },
        [](Json& j) { j["readings"][1]["added"][0]["plan"]["position"]["value"] = {6, 36}; },
        [](Json& j) { j["readings"][1]["claim"] = "exactly"; },
        [](Json& j) { j["readings"][1]["instrument"]["capo"] = 99; },
        [](Json& j) { j["readings"][1]["tempi"] = {{"from_bpm", -3}, {"to_bpm", 0}}; },
        [](Json& j) { j["readings"][1]["plans"][4]["departure"]["why"] = "because"; },
        [](Json& j) { j["readings"][1]["plans"][4]["departure"]["semitones"] = 0.5; },
        [](Json& j) { j["readings"][0]["plans"][0]["departure"] = {{"why", "person"}, {"left_out", true}}; },
        [](Json& j) { j["notes"][2]["need"]["kind"] = "perhaps"; },
        [](Json& j) { j["notes"][2]["need"]["above_bpm"] = 1e9; },
        [](Json& j) { j["notes"][2]["left_open"][0]["doubt"] = "all"; },
        [](Json& j) { j["notes"][2]["left_open"].push_back(j["notes"][2]["left_open"][0]); },
        [](Json& j) { j["papers"][0]["pins"][0]["x"] = 1.5; },
        [](Json& j) { j["papers"][0]["pins"][0]["page"] = -1; },
        [](Json& j) { j["exported"] = Json::object(); },
        [](Json& j) { j["log"][0]["why"] = "so"; }};
    for (std::size_t f = 0; f < faults.size(); ++f) {
        Json damaged = good;
        faults[f](damaged);
        std::ofstream(scratch / "bad.wirenote") << damaged.dump();
        const auto read = readAny(scratch / "bad.wirenote");
        ASSERT_FALSE(read.ok()) << f;
        EXPECT_FALSE(read.error().message.empty());
        EXPECT_EQ(read.error().file, (scratch / "bad.wirenote").string());
    }
}

TEST(Readings, PagesBesideThePieceAreFoundAndNoneElsewhere) {
    const test::Scratch scratch;
    Piece piece = withReading("no-open");
    piece.papers = {{"pages", (scratch / "pages.pdf").string(), TakeRights::Unknown, {}}};
    ASSERT_TRUE(writeAny(piece, scratch / "p.wirenote").ok());
    EXPECT_EQ(readAny(scratch / "p.wirenote")->papers[0].path, "pages.pdf") << "kept beside it";
    const auto opened = openAny(scratch / "p.wirenote", {}, {});
    ASSERT_TRUE(opened.ok());
    EXPECT_EQ(opened->piece.papers[0].path, (scratch / "pages.pdf").string());
    piece.papers[0].path = "../../elsewhere.pdf";
    ASSERT_TRUE(writeAny(piece, scratch / "q.wirenote").ok());
    const auto outside = openAny(scratch / "q.wirenote", {}, {});
    EXPECT_TRUE(outside->piece.papers[0].path.empty()) << "no way out of the folder";
}

} // namespace
} // namespace wirenote
