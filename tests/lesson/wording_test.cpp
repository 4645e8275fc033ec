// What a lesson says, read back by a reader of its own.
#include "lesson/ambiguity.h"
#include "lesson/wording.h"
#include "support/pieces.h"
#include "support/random_sheets.h"
#include "support/sentence_reader.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

using testing::HasSubstr;
using testing::IsEmpty;

// A lesson with all that it refers to.
struct Lesson {
    explicit Lesson(Piece of)
        : piece(std::move(of)), words(*Vocabulary::shipped(piece.lesson.manner.language)),
          facts(piece), breakdown(breakdownOf(facts)),
          speaker(words, piece.lesson.manner, piece.instrument, piece.key),
          writer(facts, breakdown, speaker) {}
    std::string text(StepKind kind, std::size_t phrase = 0) const {
        for (std::size_t s = 0; s < breakdown.steps.size(); ++s)
            if (breakdown.steps[s].kind == kind && breakdown.steps[s].phrases[0] == phrase)
                return writer.step(s).text;
        return {};
    }
    Piece piece;
    Vocabulary words;
    LessonFacts facts;
    Breakdown breakdown;
    Speaker speaker;
    LessonWriter writer;
};

TeachingManner mannerOf(unsigned seed) {
    TeachingManner manner;
    manner.strings = static_cast<StringNaming>(seed % 3);
    manner.fingers = static_cast<FingerNaming>(seed / 3 % 2);
    manner.strokes = static_cast<StrokeNaming>(seed / 6 % 2);
    manner.order = static_cast<TeachingOrder>(seed / 12 % 6);
    return manner;
}

std::string fingerSign(Finger finger) {
    if (finger == Finger::Thumb)
        return "T";
    const int n = static_cast<int>(finger) - static_cast<int>(Finger::Index) + 1;
    return n >= 1 && n <= 4 ? std::to_string(n) : std::string();
}

std::string strokeSign(Stroke stroke) {
    static const char* kSigns[] = {"", "down", "up", "p", "i", "m", "a", "c", "ghost", "none"};
    return kSigns[static_cast<std::size_t>(stroke)];
}

// What a sentence must say of one of its notes.
bool saysFretting(const test::ReadPlace& said, const NotePlan& plan) {
    const std::string finger =
        plan.position.value.fret > 0 ? fingerSign(plan.finger.value) : std::string();
    return said.string == plan.position.value.string && said.fret == plan.position.value.fret &&
           said.finger == finger;
}

// Reads every moment of a hand's step back; how many notes were said.
std::size_t readBack(const Lesson& lesson, std::size_t step, bool plucking) {
    std::size_t notes = 0;
    std::optional<int> bar;
    std::vector<test::ReadPlace> last;
    for (const Sentence& sentence : lesson.writer.step(step).sentences) {
        auto read = test::readMoment(sentence.text, lesson.piece.instrument);
        if (!read || (read->places.empty() && !read->again))
            continue;
        if (read->again)
            read->places = last;
        last = read->places;
        bar = read->bar ? read->bar : bar;
        EXPECT_EQ(read->places.size(), sentence.notes.size()) << sentence.text;
        if (read->places.size() != sentence.notes.size())
            continue;
        std::vector<NoteId> left = sentence.notes;
        for (const test::ReadPlace& place : read->places) {
            const auto meant = std::ranges::find_if(left, [&](NoteId id) {
                const NotePlan& plan = *lesson.piece.plan(id);
                return plucking ? place.string == plan.position.value.string &&
                                      place.stroke == strokeSign(plan.stroke.value)
                                : saysFretting(place, plan);
            });
            EXPECT_NE(meant, left.end()) << sentence.text;
            if (meant == left.end())
                continue;
            const auto note = *lesson.piece.indexOf(*meant);
            const auto moment = lesson.facts.momentOf(note);
            EXPECT_TRUE(bar.has_value()) << sentence.text;
            if (moment) {
                EXPECT_EQ(*bar, std::max(0, lesson.facts.moments()[*moment].place.bar));
                EXPECT_EQ(*read->beat, lesson.facts.moments()[*moment].place.beat + 1)
                    << sentence.text;
            }
            left.erase(meant);
            ++notes;
        }
    }
    return notes;
}

// A thousand phrases of random pieces, in all conventions: what is said of strings, frets, fingers
// and strokes is what the reading has.
TEST(Wording, AThousandPhrasesAreReadBackAsTheyAre) {
    std::size_t phrases = 0, fretted = 0, plucked = 0;
    for (unsigned seed = 0; phrases < 1000; ++seed) {
        Piece piece = test::randomSheetPiece(seed);
        piece.lesson.manner = mannerOf(seed);
        const Lesson lesson(std::move(piece));
        phrases += lesson.breakdown.phrases.size();
        for (std::size_t s = 0; s < lesson.breakdown.steps.size(); ++s) {
            SCOPED_TRACE(seed);
            if (lesson.breakdown.steps[s].kind == StepKind::Fretting)
                fretted += readBack(lesson, s, false);
            if (lesson.breakdown.steps[s].kind == StepKind::Plucking)
                plucked += readBack(lesson, s, true);
        }
        if (HasFailure())
            return;
    }
    EXPECT_GT(fretted, 5000U);
    EXPECT_GT(plucked, 5000U);
}

// Nothing that is written by itself may be misunderstood.
TEST(Wording, NothingInItIsAmbiguous) {
    for (unsigned seed = 0; seed < 60; ++seed)
        for (const char* language : {"en", "es"}) {
            Piece piece = test::randomSheetPiece(seed);
            piece.lesson.manner = mannerOf(seed);
            piece.lesson.manner.language = language;
            const Lesson lesson(std::move(piece));
            std::vector<std::string> texts;
            for (const Sentence& sentence : lesson.writer.introduction())
                texts.push_back(sentence.text);
            for (std::size_t s = 0; s < lesson.breakdown.steps.size(); ++s)
                texts.push_back(lesson.writer.step(s).text);
            for (const Stumble& stumble : stumblesOf(lesson.facts)) {
                texts.push_back(lesson.writer.stumbleText(stumble));
                texts.push_back(lesson.writer.remedyText(stumble));
            }
            for (const std::string& text : texts)
                for (const AmbiguousWord& word : ambiguitiesIn(text, lesson.words))
                    ADD_FAILURE() << seed << " " << language << ": \"" << word.word << "\" in "
                                  << text.substr(word.from > 60 ? word.from - 60 : 0, 120);
            if (HasFailure())
                return;
        }
}

// Two bars that begin alike, a pedal and what repeats.
Piece study() {
    std::vector<test::Row> rows;
    const int frets[] = {3, 0, 2, 0};
    for (int bar = 0; bar < 8; ++bar)
        for (int beat = 0; beat < 4; ++beat) {
            if (bar == 5 && beat == 3)
                continue; // the repeat lacks its last note
            const double at_s = 2.0 * bar + 0.5 * beat;
            const int string = beat % 2 == 0 ? 5 : 4;
            const int fret = bar % 4 >= 2 && bar < 4 ? frets[3 - beat] + 2 : frets[beat];
            rows.push_back({at_s, at_s + 0.45, (string == 5 ? 45 : 50) + fret, {string, fret}});
        }
    Piece piece = test::pieceOf(rows);
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        NotePlan& plan = piece.asPlayed().plans[i];
        plan.finger.value = plan.position.value.fret == 0
                                ? Finger::Open
                                : static_cast<Finger>(static_cast<int>(Finger::Index) +
                                                      std::min(3, plan.position.value.fret - 1));
        plan.stroke.value = i % 2 == 0 ? Stroke::Down : Stroke::Up;
        plan.hand_fret = 1;
    }
    return piece;
}

TEST(Wording, WhatComesAgainIsSaidByWhatItLacks) {
    const Lesson lesson(study());
    bool said = false;
    for (std::size_t p = 0; p < lesson.breakdown.phrases.size(); ++p) {
        const TeachPhrase& phrase = lesson.breakdown.phrases[p];
        if (phrase.first_bar > 6 || phrase.last_bar < 6)
            continue;
        ASSERT_TRUE(phrase.same_as.has_value()) << lesson.writer.phraseTitle(p);
        const std::string text = lesson.text(StepKind::Fretting, p);
        EXPECT_THAT(text, HasSubstr("the same as"));
        EXPECT_THAT(text, HasSubstr("Without the note D on bar 6, beat 4."));
        said = true;
    }
    EXPECT_TRUE(said);
}

TEST(Wording, ATextOfAPersonStaysAndItIsSaidWhenTheReadingChanged) {
    Piece piece = study();
    const Lesson before(piece);
    const std::string made = before.text(StepKind::Fretting);
    piece.lesson.words = {
        {before.breakdown.phrases[0].span.start_s, StepKind::Fretting, 0, "My own words.", made}};
    const auto stepOf = [](const Lesson& lesson) {
        for (std::size_t s = 0; s < lesson.breakdown.steps.size(); ++s)
            if (lesson.breakdown.steps[s].kind == StepKind::Fretting)
                return lesson.writer.step(s);
        return StepText{};
    };
    const StepText own = stepOf(Lesson(piece));
    EXPECT_EQ(own.text, "My own words.");
    EXPECT_TRUE(own.edited);
    EXPECT_FALSE(own.made_anew);
    piece.asPlayed().plans[0].position.value = {6, 8};
    const StepText after = stepOf(Lesson(piece));
    EXPECT_EQ(after.text, "My own words.");
    EXPECT_TRUE(after.made_anew);
}

TEST(Wording, ATeachersWordsAreUsedThroughout) {
    Piece piece = study();
    piece.lesson.manner.glossary = {{"down-stroke", "pick downstairs"}, {"finger 3", "ringman"}};
    const Lesson lesson(piece);
    EXPECT_THAT(lesson.text(StepKind::Fretting), HasSubstr("ingman on string 5, fret 3"));
    EXPECT_THAT(lesson.text(StepKind::Plucking), HasSubstr("pick downstairs on string 5"));
    EXPECT_EQ(lesson.speaker.plain("Pick downstairs"), "Down-stroke");
}

TEST(Wording, AnotherLanguageIsAFileWithItsOwnNamesOfNotes) {
    Piece piece = study();
    piece.lesson.manner.language = "es";
    const Lesson lesson(piece);
    EXPECT_THAT(lesson.text(StepKind::Fretting),
                HasSubstr("dedo 3 en cuerda 5, traste 3, nota do"));
}

// One finger over two strings, one after the other, is a roll (facts of the trade: common
// practice).
TEST(Wording, ARollIsCalledSo) {
    Piece piece =
        test::pieceOf({{0.0, 0.4, 64, {2, 5}}, {0.5, 0.9, 69, {1, 5}}, {1.0, 1.4, 71, {1, 7}}});
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.finger.value = plan.position.value.fret == 5 ? Finger::Index : Finger::Ring;
    const Lesson lesson(piece);
    EXPECT_THAT(lesson.text(StepKind::Fretting),
                HasSubstr("roll finger 1 from string 2 over to string 1 at fret 5"));
}

struct Naming {
    const char* name;
    StringNaming strings;
    int string;
    const char* said;
};

TEST(Speaker, StringsAreNeverCalledAlike) {
    const Naming cases[] = {
        {"number", StringNaming::Number, 6, "string 6"},
        {"letter", StringNaming::Letter, 4, "the D string"},
        {"thin letter", StringNaming::Letter, 1, "the thin E string"},
        {"thick letter", StringNaming::Letter, 6, "the thick E string"},
        {"thickest", StringNaming::ThickThin, 6, "the thickest string"},
        {"second thickest", StringNaming::ThickThin, 5, "the second thickest string"},
        {"third thinnest", StringNaming::ThickThin, 3, "the third thinnest string"}};
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    for (const Naming& one : cases) {
        TeachingManner manner;
        manner.strings = one.strings;
        const Speaker speaker(Vocabulary::english(), manner, guitar, {});
        EXPECT_EQ(speaker.string(one.string), one.said) << one.name;
    }
    // Three strings of one letter (D A D F♯ A D): thick, middle and thin.
    Instrument open_d = guitar;
    ASSERT_TRUE(setTuning(open_d, "D2 A2 D3 F#3 A3 D4").ok());
    for (const StringNaming naming : {StringNaming::Letter, StringNaming::ThickThin}) {
        TeachingManner manner;
        manner.strings = naming;
        const Speaker speaker(Vocabulary::english(), manner, open_d, {});
        for (int s = 1; s <= 6; ++s)
            EXPECT_EQ(test::readString(speaker.string(s), open_d), s) << speaker.string(s);
    }
}

// Facts of the trade 73 (common practice): do re mi fa sol la si; in German-type naming H is B and
// B is B flat.
TEST(Speaker, NotesAreNamedAsTheLearnerKnowsThem) {
    TeachingManner manner;
    manner.notes_as_language = false;
    const auto name = [&](NoteNaming notes, int pitch_class, int fifths) {
        manner.notes = notes;
        return Speaker(Vocabulary::english(),
                       manner,
                       standardInstrument(InstrumentKind::Guitar),
                       {fifths})
            .pitchClass(pitch_class);
    };
    EXPECT_EQ(name(NoteNaming::Letters, 1, 2), "C♯");
    EXPECT_EQ(name(NoteNaming::Syllables, 7, 0), "sol");
    EXPECT_EQ(name(NoteNaming::Syllables, 10, -1), "si♭");
    EXPECT_EQ(name(NoteNaming::GermanLetters, 11, 0), "H");
    EXPECT_EQ(name(NoteNaming::GermanLetters, 10, -1), "B");
}

TEST(Speaker, BarsBeatsAndListsSayWhatTheyCount) {
    const Speaker speaker(
        Vocabulary::english(), {}, standardInstrument(InstrumentKind::Guitar), {});
    EXPECT_EQ(speaker.bars(3, 3), "bar 3");
    EXPECT_EQ(speaker.bars(3, 4), "bars 3 and 4");
    EXPECT_EQ(speaker.bars(3, 6), "bars 3 to 6");
    EXPECT_EQ(speaker.bars(0, 0), "the pick-up");
    EXPECT_EQ(speaker.bars(0, 2), "the pick-up and bars 1 and 2");
    const Metre four{4, 4}, six{6, 8};
    EXPECT_EQ(speaker.beat(four, {1, 1, Rational(0)}), "beat 2");
    EXPECT_EQ(speaker.beat(four, {1, 1, Rational(1, 2)}), "the “&” of beat 2");
    EXPECT_EQ(speaker.beat(four, {1, 1, Rational(1, 4)}), "the “e” of beat 2");
    EXPECT_EQ(speaker.beat(four, {1, 1, Rational(5, 8)}), "shortly after the “&” of beat 2");
    EXPECT_FALSE(speaker.beat(six, {1, 0, Rational(1, 3)}).empty());
    EXPECT_EQ(speaker.list({}), "");
    EXPECT_EQ(speaker.list({"a"}), "a");
    EXPECT_EQ(speaker.list({"a", "b", "c"}), "a, b and c");
}

TEST(Speaker, OnlyWholeWordsBecomeATeachersOwn) {
    EXPECT_EQ(withWord("Thumb and thumbs, THUMB.", "thumb", "hook"), "Hook and thumbs, Hook.");
    EXPECT_EQ(withWord("no such word", "thumb", "hook"), "no such word");
    EXPECT_EQ(withWord("x", "", "y"), "x");
    EXPECT_EQ(capital("índice"), "Índice");
    EXPECT_EQ(capital(""), "");
}

TEST(Vocabulary, ALanguageThatLacksAWordIsRefusedWithItsKey) {
    const auto read = Vocabulary::read(R"({"code":"xx","language":"X","notes":"letters",
        "note_names":["1","2","3","4","5","6","7"],"words":{}})");
    ASSERT_FALSE(read.ok());
    EXPECT_THAT(read.error().message, HasSubstr("is missing"));
    EXPECT_FALSE(Vocabulary::read("{").ok());
    const auto unknown = Vocabulary::shipped("tlh");
    ASSERT_FALSE(unknown.ok());
    EXPECT_THAT(unknown.error().message, HasSubstr("en, es"));
    for (const std::string& code : shippedLanguages())
        EXPECT_TRUE(Vocabulary::shipped(code).ok()) << code;
}

struct Doubtful {
    const char* text;
    std::vector<Ambiguity> found;
};

TEST(Ambiguity, BareNumbersLettersAndDirectionsAreFlagged) {
    const Doubtful cases[] = {
        {"Put finger 2 on string 3, fret 5.", {}},
        {"Put 2 on the third string.", {Ambiguity::BareNumber}},
        {"Play D7 now.", {Ambiguity::LetterNumber}},
        {"Play the chord D7 now.", {}},
        {"Then comes G.", {Ambiguity::BareLetter}},
        {"Then comes the note G.", {}},
        {"A rest follows.", {}},
        {"Use the top string.", {Ambiguity::Direction}},
        {"Go up two frets.", {Ambiguity::Direction}},
        {"Bars 3 to 5 and beat 2.", {}},
        {"Strings 2, 3 and 4.", {}},
        {"Count “1 & 2 &”, aloud.", {}},
        {"At 92 beats a minute, 60 per cent of the tempo.", {}},
    };
    for (const Doubtful& one : cases) {
        std::vector<Ambiguity> found;
        for (const AmbiguousWord& word : ambiguitiesIn(one.text, Vocabulary::english()))
            found.push_back(word.what);
        EXPECT_EQ(found, one.found) << one.text;
    }
}

// Easier ways are said where the piece has them, and nowhere else.
TEST(Wording, SaysWhatMayBeLeftOutAndWhatMustNot) {
    Piece piece = test::scalePiece(8);
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        piece.asPlayed().plans[i].position = {{3, 2}, Basis::Reasoned, 0.9, {}, {}};
        piece.asPlayed().plans[i].finger = {Finger::Middle, Basis::Reasoned, 0.9, {}, {}};
    }
    const auto said = [&piece] {
        const Lesson lesson(piece);
        std::string text;
        for (const Sentence& sentence : easierWords(lesson.writer, 0))
            text += sentence.text + "\n";
        return text;
    };
    EXPECT_EQ(said(), "");
    piece.notes[2].need = {Necessity::MayGo, 0.0, {}};
    piece.notes[4].need = {Necessity::MayGo, 132.0, {}};
    piece.notes[6].need = {Necessity::MustLand, 0.0, {}};
    EXPECT_THAT(said(), HasSubstr("you may leave out string 3, fret 2"));
    EXPECT_THAT(said(), HasSubstr("from 132 beats a minute on you may leave out"));
    EXPECT_THAT(said(), HasSubstr("has to come"));
    EXPECT_THAT(ambiguitiesIn(said(), Vocabulary::english()), IsEmpty());
}

TEST(Wording, NamesAnotherFingerOnlyWhereTheChoiceWasClose) {
    Piece piece = test::scalePiece(8);
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        piece.asPlayed().plans[i].position = {{3, 2}, Basis::Reasoned, 0.9, {}, {}};
        piece.asPlayed().plans[i].finger = {
            Finger::Middle, Basis::Reasoned, 0.6, {{Finger::Ring, i == 3 ? 0.3 : 0.1}}, {}};
    }
    const Lesson lesson(piece);
    const auto said = easierWords(lesson.writer, 0);
    ASSERT_EQ(said.size(), 1U);
    EXPECT_THAT(said[0].text, HasSubstr("finger 3 on string 3, fret 2 works too"));
    EXPECT_EQ(said[0].notes.front(), piece.notes[3].id);
}

// A lick is taught with what its longest note is of the chord under it.
TEST(Wording, SaysWhatTheLongestNoteOfALickIsOfItsChord) {
    std::vector<test::Row> rows = {{0.0, 0.45, 69, {1, 5}},
                                   {0.5, 0.95, 72, {1, 8}},
                                   {1.0, 2.9, 76, {1, 12}}, // E over A minor
                                   {3.0, 3.4, 74, {1, 10}}};
    Piece piece = test::pieceOf(rows);
    piece.chord_names = {{0.0, "Am"}};
    piece.lesson.manner.order = TeachingOrder::Licks;
    const Lesson lesson(piece);
    EXPECT_THAT(lesson.text(StepKind::Context),
                HasSubstr("Over chord Am the longest note is note E, its fifth."));
    piece.lesson.manner.order = TeachingOrder::FrettingFirst;
    EXPECT_THAT(Lesson(piece).text(StepKind::Context), testing::Not(HasSubstr("its fifth")));
}

} // namespace
} // namespace wirenote
