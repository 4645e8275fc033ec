// How players pluck what they are given: cases that teachers agree on (common practice, every one).
#include "plucking/strokes.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

#include <sstream>

namespace wirenote {
namespace {

// Notes, one word for each slot of `parts` to a beat: "3/7" string and fret, "5/0+2/1" together,
// "5:1" a strum over all strings from the one to the other, "h3/7" slurred into, "p6/0" damped by
// the palm, "3/7~" left ringing, "3/7=" held for two slots' length, "-" nothing.
// Strokes, one word for each that is no "-": D U, p i m a c (a letter a note, thickest first), 0.
struct PluckCase {
    const char* name;
    PluckingSchool school;
    int parts;
    const char* notes;
    const char* strokes;
    InstrumentKind kind = InstrumentKind::Guitar;
    double bpm = 100.0;
    Metre metre = {};
};
void PrintTo(const PluckCase& one, std::ostream* out) {
    *out << one.name;
}

struct Written {
    std::vector<test::Row> rows;
    std::vector<std::size_t> words; // of each row
};

Position placeFrom(const std::string& word) {
    const auto slash = word.find('/');
    return {std::stoi(word.substr(0, slash)), std::stoi(word.substr(slash + 1))};
}

void addWord(const Instrument& instrument,
             std::string word,
             double at_s,
             double slot_s,
             std::size_t number,
             Written& out) {
    std::vector<Technique> techniques;
    double length_s = 0.9 * slot_s;
    if (word.front() == 'h') {
        techniques.push_back(Technique::HammerOn);
        word.erase(0, 1);
    }
    if (word.front() == 'p') {
        techniques.push_back(Technique::PalmMute);
        word.erase(0, 1);
    }
    if (word.back() == '~') {
        length_s = 4.0 * slot_s;
        word.pop_back();
    } else if (word.back() == '=') {
        length_s = 1.9 * slot_s;
        word.pop_back();
    }
    const auto add = [&](Position place, double late_s) {
        out.rows.push_back(
            {at_s + late_s, at_s + late_s + length_s, instrument.midiAt(place), place, techniques});
        out.words.push_back(number);
    };
    if (const auto colon = word.find(':'); colon != std::string::npos) {
        const int from = std::stoi(word.substr(0, colon));
        const int to = std::stoi(word.substr(colon + 1));
        const int step = from > to ? -1 : 1;
        int k = 0;
        for (int string = from; string != to + step; string += step)
            add({string, 2}, 0.008 * k++);
        return;
    }
    std::stringstream parts(word);
    for (std::string part; std::getline(parts, part, '+');)
        add(placeFrom(part), 0.0);
}

Written written(const Instrument& instrument, const PluckCase& one) {
    Written out;
    const double slot_s = 60.0 / one.bpm / one.parts;
    std::stringstream words(one.notes);
    std::size_t slot = 0;
    std::size_t number = 0;
    for (std::string word; words >> word; ++slot)
        if (word != "-")
            addWord(instrument, word, slot_s * static_cast<double>(slot), slot_s, number++, out);
    return out;
}

char letterOf(Stroke stroke) {
    switch (stroke) {
    case Stroke::Down:
        return 'D';
    case Stroke::Up:
        return 'U';
    case Stroke::P:
        return 'p';
    case Stroke::I:
        return 'i';
    case Stroke::M:
        return 'm';
    case Stroke::A:
        return 'a';
    case Stroke::C:
        return 'c';
    case Stroke::None:
        return '0';
    default:
        return '?';
    }
}

class PluckCases : public ::testing::TestWithParam<PluckCase> {};

TEST_P(PluckCases, AreStruckAsTaught) {
    const PluckCase& one = GetParam();
    const Instrument instrument = standardInstrument(one.kind);
    const Written notes = written(instrument, one);
    Piece piece = test::pieceOf(notes.rows, one.bpm);
    piece.instrument = instrument;
    piece.timeline.metre = one.metre;
    ReadingHead head;
    if (one.school != PluckingSchool::Unknown)
        head.plucking_school.set(one.school);
    const auto found = strokes(instrument, piece.timeline, piece.rows(), head).strokes;
    std::string said;
    std::size_t before = 0;
    for (std::size_t i = 0; i < found.size(); ++i) {
        if (i > 0 && notes.words[i] != before)
            said += ' ';
        const char letter = letterOf(found[i].value);
        const bool picked = letter == 'D' || letter == 'U';
        if (!picked || said.empty() || said.back() != letter)
            said += letter; // one stroke for all its strings
        before = notes.words[i];
    }
    EXPECT_EQ(said, one.strokes);
}

constexpr auto kAuto = PluckingSchool::Unknown;
constexpr auto kAlternate = PluckingSchool::Alternate;
constexpr auto kSequence = PluckingSchool::Sequence;
constexpr auto kEconomy = PluckingSchool::Economy;
constexpr auto kSweep = PluckingSchool::Sweep;
constexpr auto kDown = PluckingSchool::Down;
constexpr auto kCross = PluckingSchool::Cross;
constexpr auto kStrum = PluckingSchool::Strum;
constexpr auto kHybrid = PluckingSchool::Hybrid;
constexpr auto kPima = PluckingSchool::Pima;
constexpr auto kThumb = PluckingSchool::Thumb;
constexpr auto kIm = PluckingSchool::Im;
constexpr auto kMa = PluckingSchool::Ma;
constexpr auto kSlap = PluckingSchool::Slap;
constexpr auto kNylon = InstrumentKind::Nylon;
constexpr auto kAcoustic = InstrumentKind::Acoustic;
constexpr auto kBass = InstrumentKind::Bass;

INSTANTIATE_TEST_SUITE_P(
    Alternation,
    PluckCases,
    ::testing::Values(
        PluckCase{"eighths", kAlternate, 2, "3/7 3/5 3/7 3/5 3/7 3/5 3/7 3/5", "D U D U D U D U"},
        PluckCase{"quarters", kAlternate, 1, "3/7 3/5 3/7 3/5", "D D D D"},
        PluckCase{"off-beats", kAlternate, 2, "- 3/7 - 3/5 - 3/7 - 3/5", "U U U U"},
        PluckCase{
            "sixteenths", kAlternate, 4, "3/7 3/5 3/7 3/5 4/7 4/5 4/7 4/5", "D U D U D U D U"},
        PluckCase{"number and a", kAlternate, 4, "3/7 - - 3/5 3/7 - - 3/5", "D U D U"},
        PluckCase{"e and a", kAlternate, 4, "- 3/7 3/5 3/7 - 3/7 3/5 3/7", "U D U U D U"},
        PluckCase{"eighth and two sixteenths",
                  kAlternate,
                  4,
                  "3/7 - 3/5 3/7 3/7 - 3/5 3/7",
                  "D D U D D U"},
        PluckCase{"a rest leaves the hand moving",
                  kAlternate,
                  2,
                  "3/7 3/5 - 3/7 3/5 - 3/7 3/5",
                  "D U U D D U"},
        PluckCase{"hammered notes are not struck",
                  kAlternate,
                  2,
                  "3/5 h3/7 3/5 h3/7 2/5 2/8 3/5 h3/7",
                  "D 0 D 0 D U D 0"},
        PluckCase{"pulled off on the beat",
                  kAlternate,
                  2,
                  "2/5 2/8 h2/5 3/7 3/5 3/7 h3/5 4/7",
                  "D U 0 U D U 0 U"},
        PluckCase{"triplets take turns", kAlternate, 3, "3/7 3/5 4/7 3/7 3/5 4/7", "D U D U D U"},
        PluckCase{"three notes a string",
                  kAlternate,
                  4,
                  "5/5 5/7 5/9 4/5 4/7 4/9 3/6 3/7",
                  "D U D U D U D U"},
        PluckCase{"six-note cells begin alike",
                  kSequence,
                  3,
                  "2/8 2/5 3/7 3/5 3/7 2/5 2/8 2/5 3/7 3/5 3/7 2/5",
                  "D U D U D U D U D U D U"},
        PluckCase{"five-note cells begin in turn",
                  kSequence,
                  4,
                  "2/8 2/5 3/7 3/5 4/7 2/8 2/5 3/7 3/5 4/7",
                  "D U D U D U D U D U"},
        PluckCase{
            "sequence goes on over a long note", kSequence, 2, "3/7 3/5= - 3/7 3/5", "D U D U"},
        PluckCase{
            "sequence does not ask for the beat", kSequence, 2, "- 3/7 3/5 3/7 3/5", "D U D U"},
        PluckCase{"skipped strings alternate",
                  kAlternate,
                  2,
                  "5/5 3/5 5/7 3/7 5/5 3/5 5/7 3/7",
                  "D U D U D U D U"},
        PluckCase{"six-eight by eighths",
                  kAlternate,
                  3,
                  "3/7 3/5 3/7 4/5 4/7 4/5",
                  "D U D U D U",
                  InstrumentKind::Guitar,
                  60.0,
                  Metre{6, 8}},
        PluckCase{"cross-picking",
                  kCross,
                  4,
                  "4/5~ 3/5~ 2/5~ 3/5~ 4/5~ 3/5~ 2/5~ 3/5~",
                  "D U D U D U D U"},
        PluckCase{"cross-picking a forward roll",
                  kCross,
                  2,
                  "4/5~ 3/5~ 2/5~ 4/5~ 3/5~ 2/5~ 4/5~ 3/5~",
                  "D U D U D U D U"}));

INSTANTIATE_TEST_SUITE_P(
    Sweeps,
    PluckCases,
    ::testing::Values(
        PluckCase{"three down", kSweep, 3, "3/5 2/5 1/5", "D D D"},
        PluckCase{"three up", kSweep, 3, "1/5 2/5 3/5", "U U U"},
        PluckCase{"three down and three up, the turn-round struck again",
                  kSweep,
                  3,
                  "3/5 2/5 1/5 1/8 2/5 3/5",
                  "D D D U U U"},
        PluckCase{"the same by eighths, without the turn-round",
                  kSweep,
                  2,
                  "3/5 2/5 1/5 2/5",
                  "D D D U",
                  InstrumentKind::Guitar,
                  160.0},
        PluckCase{"four strings and back",
                  kSweep,
                  4,
                  "4/7 3/5 2/5 1/5 1/8 2/5 3/5 4/7",
                  "D D D D U U U U"},
        PluckCase{"five strings", kSweep, 4, "5/7 4/7 3/5 2/5 1/5 1/8", "D D D D D U"},
        PluckCase{"two notes on one string reverse it",
                  kEconomy,
                  4,
                  "4/7 3/5 2/5 2/8 3/5 4/7",
                  "D D D U U U"},
        PluckCase{"economy, three a string",
                  kEconomy,
                  4,
                  "5/5 5/7 5/9 4/5 4/7 4/9 3/6 3/7",
                  "D U D D U D D U"},
        PluckCase{"economy down again", kEconomy, 4, "3/9 3/7 3/6 4/9 4/7 4/5", "U D U U D U"},
        PluckCase{"economy, two a string", kEconomy, 4, "5/5 5/7 4/5 4/7 3/5 3/7", "D U D U D U"},
        PluckCase{"a skip is no sweep", kSweep, 4, "5/7 3/5 1/5 3/5", "D U D U"},
        PluckCase{"a sweep is found in fast triplets",
                  kAuto,
                  3,
                  "3/5 2/5 1/5 1/8 2/5 3/5 3/5 2/5 1/5 1/8 2/5 3/5",
                  "D D D U U U D D D U U U",
                  InstrumentKind::Guitar,
                  140.0},
        PluckCase{"slow broken chords are no sweep",
                  kAuto,
                  2,
                  "4/7 3/5 2/5 3/5 4/7 3/5 2/5 3/5",
                  "D U D U D U D U"}));

INSTANTIATE_TEST_SUITE_P(
    DownStrokes,
    PluckCases,
    ::testing::Values(
        PluckCase{"down only", kDown, 2, "6/0 6/0 6/0 6/0 6/3 6/3 6/5 6/5", "D D D D D D D D"},
        PluckCase{"too fast for downs only",
                  kDown,
                  4,
                  "6/3 6/3 6/5 6/5 6/3 6/3 6/5 6/5",
                  "D U D U D U D U",
                  InstrumentKind::Guitar,
                  180.0},
        PluckCase{"a damped riff",
                  kAuto,
                  2,
                  "p6/0 p6/0 p6/0 p6/0 p6/0 p6/0 p6/0 p6/0",
                  "D D D D D D D D"},
        PluckCase{"fifths between damped strokes",
                  kAuto,
                  2,
                  "6/0+5/2 p6/0 p6/0 6/3+5/5 p6/0 p6/0 6/5+5/7 p6/0",
                  "D D D D D D D D"},
        PluckCase{"a gallop is too fast for downs alone",
                  kAuto,
                  4,
                  "p6/0 p6/0 p6/0 p6/0 p6/0 p6/0 p6/0 p6/0",
                  "D U D U D U D U",
                  InstrumentKind::Guitar,
                  160.0},
        PluckCase{"riff, then a line",
                  kAuto,
                  2,
                  "p6/0 p6/0 p6/0 p6/0 p6/0 p6/0 p6/0 p6/0 - - - - - - 3/5 3/7 2/5 2/8 2/5 3/7 3/5 "
                  "3/7",
                  "D D D D D D D D D U D U D U D U"}));

INSTANTIATE_TEST_SUITE_P(
    Strums,
    PluckCases,
    ::testing::Values(
        PluckCase{"quarters", kStrum, 1, "5:1 5:1 5:1 5:1", "D D D D"},
        PluckCase{"eighths", kStrum, 2, "5:1 1:3 5:1 1:3", "D U D U"},
        PluckCase{
            "down, down-up, up-down-up", kStrum, 2, "5:1 - 5:1 1:3 - 1:3 5:1 1:3", "D D U U D U"},
        PluckCase{"sixteenths with two like strokes in a row",
                  kStrum,
                  4,
                  "5:1 - 5:1 1:3 - 1:3 5:1 1:3",
                  "D D U U D U"},
        PluckCase{"off-beat chops", kStrum, 2, "- 1:3 - 1:3 - 1:3 - 1:3", "U U U U"},
        PluckCase{"bass, then strums", kStrum, 1, "5/3~ 3:1 3:1 5/3~ 3:1 3:1", "D D D D D D"},
        PluckCase{
            "bass, strum down and up", kStrum, 2, "5/3~ - 3:1 1:3 4/2~ - 3:1 1:3", "D D U D D U"},
        PluckCase{"the order of the strings tells", kStrum, 1, "1:5 5:1 1:5 5:1", "U D U D"},
        PluckCase{"a strum is for a pick", kAuto, 2, "5:1 - 5:1 1:3 - 1:3 5:1 1:3", "D D U U D U"},
        PluckCase{"a strum of three beats", kStrum, 2, "6:1 - 6:1 1:4 6:1 1:4", "D D U D U"}));

INSTANTIATE_TEST_SUITE_P(
    FingersOnHeldChords,
    PluckCases,
    ::testing::Values(
        PluckCase{"p i m a", kPima, 2, "5/3~ 3/0~ 2/1~ 1/0~", "p i m a", kNylon},
        PluckCase{"p i m a m i", kPima, 3, "5/3~ 3/0~ 2/1~ 1/0~ 2/1~ 3/0~", "p i m a m i", kNylon},
        PluckCase{"p a m i", kPima, 2, "5/3~ 1/0~ 2/1~ 3/0~", "p a m i", kNylon},
        PluckCase{"p i a m", kPima, 2, "4/0~ 3/2~ 1/1~ 2/3~", "p i a m", kNylon},
        PluckCase{"p i m i",
                  kPima,
                  4,
                  "5/0~ 3/2~ 2/1~ 3/2~ 5/0~ 3/2~ 2/1~ 3/2~",
                  "p i m i p i m i",
                  kNylon},
        PluckCase{
            "one string lower", kPima, 2, "5/2~ 4/4~ 3/4~ 2/4~ 3/4~ 4/4~", "p i m a m i", kNylon},
        PluckCase{"the bass of D", kPima, 2, "4/0~ 3/2~ 2/3~ 1/2~", "p i m a", kNylon},
        PluckCase{"the bass of E", kPima, 2, "6/0~ 3/1~ 2/0~ 1/0~", "p i m a", kNylon},
        PluckCase{
            "a pinch into a broken chord", kPima, 2, "5/3+1/0~ 3/0~ 2/1~ 3/0~", "pa i m i", kNylon},
        PluckCase{"a chord of four", kPima, 1, "5/3+3/0+2/1+1/0", "pima", kNylon},
        PluckCase{"bass, then three together",
                  kPima,
                  1,
                  "5/3~ 3/0+2/1+1/0 3/0+2/1+1/0",
                  "p ima ima",
                  kNylon},
        PluckCase{"bass, then two together", kPima, 1, "5/0~ 3/2+2/1 3/2+2/1", "p im im", kNylon},
        PluckCase{"two basses and two between",
                  kPima,
                  2,
                  "5/3~ 3/0~ 4/2~ 2/1~ 5/3~ 3/0~ 4/2~ 2/1~",
                  "p i p m p i p m",
                  kNylon},
        PluckCase{"found without being told",
                  kAuto,
                  2,
                  "5/3~ 3/0~ 2/1~ 1/0~ 5/3~ 3/0~ 2/1~ 1/0~",
                  "p i m a p i m a",
                  kNylon},
        PluckCase{"found on steel strings",
                  kAuto,
                  2,
                  "5/3~ 3/0~ 2/1~ 1/0~ 5/3~ 3/0~ 2/1~ 1/0~",
                  "p i m a p i m a",
                  kAcoustic},
        PluckCase{"tune over a held bass takes turns",
                  kPima,
                  2,
                  "5/0~+1/0 1/3 1/0 2/3 2/1 2/3 1/0 1/3",
                  "pi m i m i m i m",
                  kNylon}));

INSTANTIATE_TEST_SUITE_P(
    AlternatingThumb,
    PluckCases,
    ::testing::Values(
        PluckCase{"thumb alone", kThumb, 1, "5/3~ 4/2~ 5/3~ 4/2~", "p p p p", kAcoustic},
        PluckCase{"with fingers between",
                  kThumb,
                  2,
                  "5/3~ 2/1 4/2~ 2/1 5/3~ 3/0 4/2~ 1/0",
                  "p i p i p i p m",
                  kAcoustic},
        PluckCase{"a pinch on one",
                  kThumb,
                  2,
                  "5/3+1/0 - 4/2~ 2/1 5/3~ 1/0 4/2~ 2/1",
                  "pm p i p m p i",
                  kAcoustic},
        PluckCase{"bass of three strings",
                  kThumb,
                  1,
                  "5/3~ 4/2~ 6/3~ 4/2~ 5/3~ 4/2~ 6/3~ 4/2~",
                  "p p p p p p p p",
                  kAcoustic},
        PluckCase{"over D it comes to the third string",
                  kThumb,
                  2,
                  "4/0~ 1/2 3/2~ 2/3 4/0~ 1/2 3/2~ 2/3",
                  "p m p i p m p i",
                  kAcoustic},
        PluckCase{"found without being told",
                  kAuto,
                  2,
                  "5/3+1/0~ - 4/2~ 2/1 5/3~ 1/0 4/2~ 2/1 5/3+1/0~ - 4/2~ 2/1 5/3~ 1/0 4/2~ 2/1",
                  "pm p i p m p i pm p i p m p i",
                  kAcoustic}));

INSTANTIATE_TEST_SUITE_P(
    FingersInTurn,
    PluckCases,
    ::testing::Values(
        PluckCase{"i and m", kIm, 2, "1/0 1/1 1/3 1/5 1/3 1/1", "i m i m i m", kNylon},
        PluckCase{"m and a", kMa, 2, "1/0 1/1 1/3 1/5", "m a m a", kNylon},
        PluckCase{"over the strings",
                  kIm,
                  4,
                  "4/0 4/2 4/3 3/0 3/2 2/0 2/1 2/3",
                  "i m i m i m i m",
                  kNylon},
        PluckCase{"a bass", kAuto, 2, "4/5 4/5 3/7 3/5 4/8 4/5 4/3 4/5", "i m i m i m i m", kBass},
        PluckCase{"a slur does not count",
                  kAuto,
                  2,
                  "4/5 3/5 h3/7 2/7 3/7 4/8 3/5 3/5",
                  "i m 0 i m i m i",
                  kBass},
        PluckCase{"one string after another", kIm, 2, "4/0 3/0 2/0 1/0", "i m i m", kBass},
        PluckCase{"repeated notes", kIm, 4, "1/0 1/0 1/0 1/0 1/0 1/0", "i m i m i m", kNylon},
        PluckCase{"slap and pop", kSlap, 2, "4/0 2/2 4/0 2/2 3/0 1/2", "p i p i p i", kBass},
        PluckCase{"slap twice", kSlap, 4, "4/0 4/0 2/2 - 4/0 4/0 2/2 -", "p p i p p i", kBass},
        PluckCase{"a bass run too fast for the thumb goes to the fingers",
                  kPima,
                  4,
                  "6/0 6/2 6/3 5/0 5/2 5/3 4/0 4/2",
                  "p i m i m i m i",
                  kNylon,
                  120.0},
        PluckCase{"tremolo",
                  kPima,
                  4,
                  "5/0~ 1/0 1/0 1/0 4/2~ 1/0 1/0 1/0",
                  "p a m i p a m i",
                  kNylon,
                  120.0},
        PluckCase{"a bass run slow enough for the thumb",
                  kPima,
                  2,
                  "6/0 6/2 6/3 5/0 5/2 5/3",
                  "p p p p p p",
                  kNylon}));

INSTANTIATE_TEST_SUITE_P(
    PickAndFingers,
    PluckCases,
    ::testing::Values(PluckCase{"a pinch is shared", kHybrid, 1, "5/0+2/1+1/0", "Dma"},
                      PluckCase{"a broken chord", kHybrid, 2, "4/2~ 3/2~ 2/3~ 3/2~", "D m a m"},
                      PluckCase{"a line is picked", kHybrid, 2, "5/3 4/0 4/2 4/3", "D U D U"},
                      PluckCase{"two strings apart", kHybrid, 1, "5/3+2/1 4/2+1/0", "Dm Dm"},
                      PluckCase{
                          "strums are the pick's", kHybrid, 2, "5:1 1:3 5:1 1:3", "D U D U"}));

// More of each kind.
INSTANTIATE_TEST_SUITE_P(
    MorePicking,
    PluckCases,
    ::testing::Values(
        PluckCase{"syncopated sixteenths", kAlternate, 4, "3/7 - - 3/5 - 3/7 3/5 -", "D U U D"},
        PluckCase{"eighths in three-four",
                  kAlternate,
                  2,
                  "3/7 3/5 4/7 3/5 3/7 3/9",
                  "D U D U D U",
                  InstrumentKind::Guitar,
                  100.0,
                  Metre{3, 4}},
        PluckCase{"a scale down by sixteenths",
                  kAlternate,
                  4,
                  "1/8 1/7 1/5 2/8 2/6 2/5 3/7 3/5",
                  "D U D U D U D U"},
        PluckCase{
            "pull-offs in triplets", kAlternate, 3, "1/8 h1/7 h1/5 2/8 h2/7 h2/5", "D 0 0 D 0 0"},
        PluckCase{
            "a rest on the beat", kAlternate, 4, "- 3/7 3/5 3/7 - 4/7 4/5 3/7", "U D U U D U"},
        PluckCase{"a held note in between", kAlternate, 2, "3/7 3/5= - 3/7 3/5 3/7", "D U U D U"},
        PluckCase{"triplets in sequence over two strings",
                  kSequence,
                  3,
                  "3/7 3/5 4/7 4/5 4/7 3/5",
                  "D U D U D U"},
        PluckCase{"a minor arpeggio over four strings", kSweep, 4, "5/7 4/5 3/5 2/5", "D D D D"},
        PluckCase{"down the neck of a chord", kSweep, 4, "1/12 2/13 3/12 4/14", "U U U U"},
        PluckCase{"economy, one and then three", kEconomy, 4, "4/7 3/5 3/7 3/9 2/7", "D D U D D"},
        PluckCase{"fifths in eighths, damped",
                  kAuto,
                  2,
                  "p6/3+5/5 p6/3+5/5 p6/3+5/5 p6/3+5/5 p6/5+5/7 p6/5+5/7 p6/5+5/7 p6/5+5/7",
                  "D D D D D D D D"},
        PluckCase{"a pedal between damped strokes",
                  kAuto,
                  2,
                  "p5/0 p5/0 4/2 p5/0 p5/0 4/3 p5/0 p5/0",
                  "D D D D D D D D"},
        PluckCase{"a strummed shuffle", kStrum, 3, "5:1 - 1:4 5:1 - 1:4", "D U D U"},
        PluckCase{"all sixteenths of a strum",
                  kStrum,
                  4,
                  "5:1 1:4 5:1 1:4 5:1 1:4 5:1 1:4",
                  "D U D U D U D U"},
        PluckCase{"three off-beats in a row", kStrum, 2, "5:1 - 5:1 1:3 - 1:3 - 1:3", "D D U U U"},
        PluckCase{"a waltz",
                  kStrum,
                  1,
                  "5/3~ 4:1 4:1 5/0~ 4:1 4:1",
                  "D D D D D D",
                  InstrumentKind::Guitar,
                  120.0,
                  Metre{3, 4}},
        PluckCase{"a pedal under double stops", kHybrid, 2, "4/0 2/3+1/2 4/0 2/3+1/2", "D ma D ma"},
        PluckCase{
            "a roll", kHybrid, 2, "4/0~ 3/2~ 2/3~ 4/0~ 3/2~ 2/3~ 4/0~ 3/2~", "D m a D m a D m"}));

INSTANTIATE_TEST_SUITE_P(
    MoreOfTheFingers,
    PluckCases,
    ::testing::Values(
        PluckCase{"p m i m", kPima, 2, "5/3~ 2/1~ 3/0~ 2/1~", "p m i m", kNylon},
        PluckCase{"p a m i m a", kPima, 3, "5/0~ 1/0~ 2/1~ 3/2~ 2/1~ 1/0~", "p a m i m a", kNylon},
        PluckCase{"p i m i a i m i",
                  kPima,
                  4,
                  "5/0~ 3/2~ 2/1~ 3/2~ 1/0~ 3/2~ 2/1~ 3/2~",
                  "p i m i a i m i",
                  kNylon},
        PluckCase{"bass and chord by turns",
                  kPima,
                  2,
                  "4/0~ 3/2+2/3+1/2 4/0~ 3/2+2/3+1/2",
                  "p ima p ima",
                  kNylon},
        PluckCase{"a pinch with the tune on top",
                  kPima,
                  2,
                  "5/0+1/5~ 3/2~ 2/1~ 3/2~",
                  "pa i m i",
                  kNylon},
        PluckCase{"basses change with the chord",
                  kPima,
                  2,
                  "6/3~ 3/0~ 2/0~ 1/3~ 4/0~ 3/2~ 2/3~ 1/2~",
                  "p i m a p i m a",
                  kNylon},
        PluckCase{
            "an alternating thumb over E", kThumb, 1, "6/0~ 4/2~ 5/2~ 4/2~", "p p p p", kAcoustic},
        PluckCase{"a tune off the beat over it",
                  kThumb,
                  2,
                  "5/3~ 2/1 4/2~ 1/0 5/3~ 2/1 4/2~ 1/0",
                  "p i p m p i p m",
                  kAcoustic},
        PluckCase{"triplets of i and m", kIm, 3, "2/1 2/3 1/0 1/1 1/3 1/5", "i m i m i m", kNylon},
        PluckCase{"quarters on a bass", kAuto, 1, "4/3 4/3 4/3 4/3", "i m i m", kBass},
        PluckCase{"root, fifth and octave on a bass",
                  kAuto,
                  2,
                  "4/3 3/5 2/5 3/5 4/3 3/5 2/5 3/5",
                  "i m i m i m i m",
                  kBass},
        PluckCase{"slapped, hammered and popped", kSlap, 4, "4/0 h4/2 2/2 -", "p 0 i", kBass},
        PluckCase{"octaves slapped and popped", kSlap, 2, "4/3 2/5 4/3 2/5", "p i p i", kBass},
        PluckCase{
            "a scale up by m and a", kMa, 2, "3/0 3/2 2/0 2/1 2/3 1/0", "m a m a m a", kNylon}));

} // namespace
} // namespace wirenote
