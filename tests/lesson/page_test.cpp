// The page of a lesson and its pictures.
#include "lesson/filming.h"
#include "lesson/page.h"
#include "support/pieces.h"
#include "support/random_sheets.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <regex>

namespace wirenote {
namespace {

using testing::HasSubstr;
using testing::Not;

std::size_t count(const std::string& text, const std::string& part) {
    std::size_t found = 0;
    for (std::size_t at = text.find(part); at != std::string::npos; at = text.find(part, at + 1))
        ++found;
    return found;
}

std::string pageOf(const Piece& piece, bool only_free = false) {
    const LessonFacts facts(piece);
    const Breakdown breakdown = breakdownOf(facts);
    const Speaker speaker(Vocabulary::english(), piece.lesson.manner, piece.instrument, piece.key);
    const LessonWriter writer(facts, breakdown, speaker);
    PageContent content;
    content.title = piece.title;
    content.only_free = only_free;
    content.whole = {{0.5, "sound/whole-50.ogg"}};
    for (std::size_t p = 0; p < breakdown.phrases.size(); ++p)
        content.phrases.push_back(
            {"", {{0.5, "sound/phrase-" + breakdown.phrases[p].letter + ".ogg"}}});
    return lessonPage(writer, stumblesOf(facts), content);
}

Piece tune() {
    std::vector<test::Row> rows;
    for (int i = 0; i < 16; ++i)
        rows.push_back({0.5 * i, 0.5 * i + 0.45, 60 + i % 5, {2, 1 + i % 5}});
    Piece piece = test::pieceOf(rows);
    piece.title = "Reeds & <Rushes>";
    return piece;
}

TEST(LessonPage, NeedsNothingFromElsewhere) {
    const std::string page = pageOf(tune());
    // The name of a namespace is no address that is asked for.
    const std::string without =
        std::regex_replace(page, std::regex("http://www\\.w3\\.org/2000/svg"), "");
    EXPECT_THAT(without, Not(HasSubstr("http:")));
    EXPECT_THAT(without, Not(HasSubstr("https:")));
    EXPECT_THAT(without, Not(HasSubstr("url(")));
    EXPECT_THAT(page, HasSubstr("Content-Security-Policy"));
}

TEST(LessonPage, HasNamesForAScreenReader) {
    const std::string page = pageOf(tune());
    EXPECT_THAT(page, HasSubstr("<html lang=\"en\">"));
    EXPECT_EQ(count(page, "<audio"), count(page, "</audio>"));
    EXPECT_GT(count(page, "<audio"), 1U);
    const std::regex unnamed("<audio(?![^>]*aria-label=\"[^\"]+\")");
    EXPECT_FALSE(std::regex_search(page, unnamed));
    EXPECT_EQ(count(page, "<svg"), count(page, "<title>") - 1); // and that of the page
    EXPECT_EQ(count(page, "role=\"status\""), 1U);
    EXPECT_EQ(count(page, "<section"), count(page, "</section>"));
}

TEST(LessonPage, TextsOfPeopleAreNoMarkUp) {
    Piece piece = tune();
    piece.lesson.credits = "<script>alert(1)</script>";
    piece.lesson.observations = {{0.5, StumbleKind::Seen, 3, "they say \"no\" & <stop>"}};
    const std::string page = pageOf(piece);
    EXPECT_THAT(page, HasSubstr("Reeds &amp; &lt;Rushes&gt;"));
    EXPECT_THAT(page, HasSubstr("&lt;script&gt;alert(1)&lt;/script&gt;"));
    EXPECT_THAT(page, HasSubstr("they say &quot;no&quot; &amp; &lt;stop&gt;"));
    EXPECT_EQ(count(page, "<script>"), 1U);
}

TEST(LessonPage, ThePaidPartIsNotInTheFreeOne) {
    Piece piece = tune();
    piece.lesson.phrases = {{{0.0, 4.0}, "Free one", false, true},
                            {{4.0, 8.0}, "Paid one", false, false}};
    EXPECT_THAT(pageOf(piece), HasSubstr("Paid one"));
    const std::string free = pageOf(piece, true);
    EXPECT_THAT(free, HasSubstr("Free one"));
    EXPECT_THAT(free, Not(HasSubstr("Paid one")));
}

TEST(LessonPage, RandomPiecesHaveAPage) {
    for (unsigned seed = 0; seed < 30; ++seed) {
        const std::string page = pageOf(test::randomSheetPiece(seed));
        EXPECT_TRUE(page.ends_with("</html>\n"));
        EXPECT_EQ(count(page, "<svg"), count(page, "</svg>")) << seed;
        EXPECT_THAT(page, Not(HasSubstr("nan"))) << seed;
    }
}

TEST(Pictures, AGripShowsWhatIsHeld) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    const std::vector<PressedPlace> c = {{{5, 3}, Finger::Ring},
                                         {{4, 2}, Finger::Middle},
                                         {{3, 0}, Finger::Open},
                                         {{2, 1}, Finger::Index},
                                         {{1, 0}, Finger::Open}};
    const std::string svg = gripSvg(guitar, c, "C");
    EXPECT_EQ(count(svg, ">×<"), 1U);           // string 6
    EXPECT_EQ(count(svg, "fill=\"none\""), 2U); // open strings
    for (const char* finger : {">1<", ">2<", ">3<"})
        EXPECT_EQ(count(svg, finger), 1U) << finger;
    // For the left-handed the thickest string is on the right.
    Instrument left = guitar;
    left.left_handed = true;
    EXPECT_NE(gripSvg(left, c, "C"), svg);
    EXPECT_THAT(neckSvg(guitar, c, "where"), HasSubstr("<title>where</title>"));
}

TEST(Pictures, CountAndStrokesStandInTheirColumns) {
    Piece piece = tune();
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        piece.asPlayed().plans[i].stroke.value = i % 2 == 0 ? Stroke::P : Stroke::M;
    const LessonFacts facts(piece);
    const std::string svg = strokesSvg(facts, Rational(0), Rational(4), "strokes");
    EXPECT_EQ(count(svg, ">p<"), 2U);
    EXPECT_EQ(count(svg, ">m<"), 2U);
    for (const char* beat : {">1<", ">2<", ">3<", ">4<"})
        EXPECT_GE(count(svg, beat), 1U) << beat;
    EXPECT_EQ(placesIn(facts, Rational(0), Rational(4)).size(), 4U);
    EXPECT_TRUE(placesIn(facts, Rational(0), Rational(0)).empty());
    EXPECT_EQ(placesOf(facts, {0.0, 0.3}).size(), 1U);
}

// Nothing is pressed, or high up: the neck is drawn all the same.
TEST(Pictures, TheNeckShowsWhatIsNeeded) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    for (const auto& places : {std::vector<PressedPlace>{},
                               std::vector<PressedPlace>{{{3, 0}, Finger::Open}},
                               std::vector<PressedPlace>{{{1, 22}, Finger::Little}}}) {
        const std::string svg = neckSvg(guitar, places, "neck");
        EXPECT_TRUE(svg.ends_with("</svg>"));
        EXPECT_EQ(count(svg, "nan"), 0U);
        EXPECT_GT(count(svg, "<line"), 8U);
    }
    EXPECT_EQ(count(neckSvg(guitar, {{{1, 22}, Finger::Little}}, "neck"), ">22<"), 1U);
}

TEST(Filming, EveryShotNamesItsBarsAndARetakeComesFirst) {
    Piece piece = tune();
    piece.lesson.retakes = {{0.0, StepKind::Fretting}};
    const LessonFacts facts(piece);
    const Breakdown breakdown = breakdownOf(facts);
    const Speaker speaker(Vocabulary::english(), piece.lesson.manner, piece.instrument, piece.key);
    const LessonWriter writer(facts, breakdown, speaker);
    const auto shots = shotList(writer);
    ASSERT_GT(shots.size(), 2U);
    EXPECT_THAT(shots[0], HasSubstr("filmed again"));
    for (const std::string& shot : shots)
        EXPECT_TRUE(std::regex_search(shot, std::regex("[Bb]ars? "))) << shot;
    const auto prompt = promptOf(writer);
    EXPECT_EQ(prompt.size(), breakdown.steps.size());
    EXPECT_EQ(std::ranges::count(prompt, true, &PromptPage::retake), 1);
    EXPECT_TRUE(prompt.back().next.empty());
    const auto cues = filmCaptions(writer);
    ASSERT_FALSE(cues.empty());
    for (std::size_t i = 1; i < cues.size(); ++i)
        EXPECT_GE(cues[i].span.start_s, cues[i - 1].span.end_s - 1e-9);
    EXPECT_EQ(filmChapters(writer).size(), breakdown.phrases.size());
    EXPECT_THAT(handoutHtml(writer, {}, "A & B"), HasSubstr("<h1>A &amp; B</h1>"));
}

} // namespace
} // namespace wirenote
