// Questions about the whole piece, before any note, in the real window.
#include "app/bench_fixture.h"

#include "app/top_bar.h"
#include "media/sound_file.h"
#include "session/files.h"
#include "session/resolve.h"
#include "sounding/render.h"
#include "support/pieces.h"
#include "support/wrong_beats.h"

#include <QAction>
#include <QLabel>
#include <QPushButton>
#include <set>

namespace wirenote::app {
namespace {

// Places worked out.
Piece twoThirdsOfTheTempo() {
    Piece piece = test::twoThirdsOfTheTempo({40, 52, 55, 52, 43, 50, 57, 62});
    placeAndStroke(piece);
    return piece;
}

// A bass line, played by the simulated instrument; its lowest string so many semitones lower.
std::filesystem::path bassRecording(const std::filesystem::path& folder, int lower = 0) {
    std::vector<test::Row> rows;
    static constexpr Position kLine[] = {
        {4, 0}, {4, 3}, {3, 0}, {3, 2}, {4, 1}, {3, 3}, {2, 2}, {4, 3}};
    Instrument bass = standardInstrument(InstrumentKind::Bass);
    bass.strings.back().open_midi -= lower;
    for (int i = 0; i < 24; ++i) {
        const Position at = kLine[i % 8];
        rows.push_back({0.5 + 0.5 * i, 0.95 + 0.5 * i, bass.midiAt(at), at});
    }
    Piece piece = test::pieceOf(rows);
    piece.instrument = bass;
    const auto sound = renderPiece(piece, RenderOptions{}, JobControl{});
    const auto file = folder / "line.wav";
    EXPECT_TRUE(sound.ok() && writeWav(file, sound->view()).ok());
    return file;
}

class QuestionsTest : public BenchTest {
  protected:
    QuestionsTest() : BenchTest(BenchKind::Neck) {}
    Questions& questions() { return window.questions(); }
    QString doubtsLine() { return named<QPushButton>("doubts")->text(); }
    void openAll(const Piece& piece) {
        EXPECT_TRUE(writeAny(piece, scratch / "p.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "p.wirenote").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
    }
};

TEST_F(QuestionsTest, StandAtTheHeadAndAreAnsweredByNumber) {
    openAll(twoThirdsOfTheTempo());
    ASSERT_FALSE(window.derived().questions().empty());
    EXPECT_TRUE(doubtsLine().startsWith("1 question")) << doubtsLine().toStdString();
    const Piece before = piece();
    press(Qt::Key_N);
    ASSERT_TRUE(questions().current());
    ASSERT_EQ(questions().current()->kind, QuestionKind::Tempo);
    EXPECT_TRUE(window.findChild<QWidget*>("question")->isVisible());
    EXPECT_FALSE(window.findChild<QWidget*>("why")->isVisible());
    int right = 0;
    const auto choices = questions().current()->choices;
    for (int i = 0; i < static_cast<int>(choices.size()); ++i)
        if (std::abs(choices[static_cast<std::size_t>(i)].timeline.tempo_bpm - 148.0) < 3.0)
            right = i + 1;
    ASSERT_GT(right, 0);
    bool heard = false; // it may be over before anybody looks
    QObject::connect(&window.transport(), &Transport::changed, &window, [&] {
        const auto& audition = window.transport().auditioned();
        heard |= window.transport().playing() && audition && audition->beats;
    });
    press(static_cast<Qt::Key>(Qt::Key_0 + right));
    EXPECT_EQ(questions().chosen(), right - 1);
    EXPECT_TRUE(QTest::qWaitFor([&] { return heard; }, kPatience_ms));
    EXPECT_TRUE(piece() == before) << "hearing decides nothing";
    press(Qt::Key_Return);
    EXPECT_FALSE(window.transport().auditioned());
    EXPECT_NEAR(piece().timeline.tempo_bpm, 148.0, 3.0);
    EXPECT_EQ(piece().timeline.basis, Basis::Set);
    EXPECT_TRUE(piece().settled.tempo);
    EXPECT_FALSE(questions().current() && questions().current()->kind == QuestionKind::Tempo);
    undoAll();
    EXPECT_TRUE(piece() == before);
    settle();
    EXPECT_EQ(window.derived().questions().front().kind, QuestionKind::Tempo) << "it is open again";
}

TEST_F(QuestionsTest, MayBePutOffAndFoundAgain) {
    openAll(twoThirdsOfTheTempo());
    press(Qt::Key_N);
    ASSERT_TRUE(questions().isOpen());
    press(Qt::Key_Escape);
    EXPECT_FALSE(questions().isOpen());
    EXPECT_TRUE(window.findChild<QWidget*>("why")->isVisible());
    press(Qt::Key_N);
    EXPECT_FALSE(questions().isOpen()) << "put off: on to the notes";
    EXPECT_FALSE(doubtsLine().startsWith("no open")) << "nobody is told that all is done";
    press(Qt::Key_N, Qt::ShiftModifier);
    EXPECT_TRUE(questions().isOpen());
    press(Qt::Key_Home);
    EXPECT_FALSE(questions().isOpen()) << "a note that is chosen comes first";
}

TEST_F(QuestionsTest, AsItIsIsAnAnswerToo) {
    openAll(twoThirdsOfTheTempo());
    const Timeline before = piece().timeline;
    press(Qt::Key_N);
    const auto& choices = questions().current()->choices;
    const auto now = std::ranges::find(choices, true, &Choice::now);
    ASSERT_NE(now, choices.end());
    questions().choose(static_cast<int>(now - choices.begin()));
    questions().accept();
    settle();
    EXPECT_TRUE(piece().settled.tempo);
    EXPECT_EQ(piece().timeline, before);
    EXPECT_TRUE(std::ranges::none_of(window.derived().questions(), [](const Question& q) {
        return q.kind == QuestionKind::Tempo;
    }));
}

// Opened without a word about what they are: three keys, and these pitches are there.
struct Unsaid {
    const char* name;
    int bass_lower;     // −1: the demo, a guitar whose lowest string is a whole step low
    std::string right;  // its tuning
    std::set<int> then; // among the notes
};
void PrintTo(const Unsaid& row, std::ostream* out) {
    *out << row.name;
}
class OpenedWithoutAWord : public QuestionsTest, public ::testing::WithParamInterface<Unsaid> {};
INSTANTIATE_TEST_SUITE_P(Takes,
                         OpenedWithoutAWord,
                         ::testing::Values(Unsaid{"bass", 0, "E1 A1 D2 G2", {28, 31}},
                                           Unsaid{"dropped_bass", 2, "D1 A1 D2 G2", {26, 29}},
                                           Unsaid{"dropped_guitar", -1, "D2 A2 D3 G3 B3 E4", {38}}),
                         [](const auto& row) { return std::string(row.param.name); });

TEST_P(OpenedWithoutAWord, ComeOutRightInThreeKeys) {
    const Unsaid& unsaid = GetParam();
    window.openPath(QString::fromStdString(
        unsaid.bass_lower < 0 ? demo().take.string()
                              : bassRecording(scratch / "", unsaid.bass_lower).string()));
    const auto heard = [&] {
        return window.takes().hearing() == TakeCommands::Hearing::Heard && !piece().notes.empty();
    };
    ASSERT_TRUE(QTest::qWaitFor(heard, kPatience_ms));
    settle();
    ASSERT_TRUE(questions().current()) << "what decides most is asked at once";
    ASSERT_EQ(questions().current()->kind, QuestionKind::Instrument);
    int right = 0;
    const auto& choices = questions().current()->choices;
    for (std::size_t i = 0; i < choices.size(); ++i)
        if (tuningText(choices[i].tuning.instrument) == unsaid.right)
            right = static_cast<int>(i) + 1;
    ASSERT_GT(right, 0);
    press(static_cast<Qt::Key>(Qt::Key_0 + right)); // one
    ASSERT_TRUE(window.transport().auditioned());
    EXPECT_TRUE(window.transport().auditioned()->open_strings);
    press(Qt::Key_Return); // two
    EXPECT_EQ(tuningText(piece().instrument), unsaid.right);
    ASSERT_TRUE(questions().hearAgainOffered()) << "it says what is untrue now";
    press(Qt::Key_Return); // three
    EXPECT_EQ(doubtsLine(), "listening to the take …");
    ASSERT_TRUE(QTest::qWaitFor(heard, kPatience_ms));
    settle();
    EXPECT_FALSE(questions().hearAgainOffered());
    std::set<int> midis;
    for (const Note& note : piece().notes)
        midis.insert(note.midi());
    for (const int midi : unsaid.then)
        EXPECT_TRUE(midis.contains(midi)) << midi;
    EXPECT_GE(*midis.begin(), piece().instrument.lowestMidi());
}

// A long piece is placed anew beside the window, and can be stopped.
TEST_F(QuestionsTest, AnotherInstrumentForALongPieceDoesNotHoldUpTheWindow) {
    Piece piece_of_hours = test::scalePiece(2400);
    placeAndStroke(piece_of_hours);
    openAll(piece_of_hours);
    const Instrument seven = standardInstrument(InstrumentKind::Guitar7);
    window.takes().setInstrument(seven);
    EXPECT_TRUE(window.jobs().running());
    EXPECT_NE(piece().instrument, seven) << "not yet";
    ASSERT_TRUE(QTest::qWaitFor([&] { return piece().instrument == seven; }, kPatience_ms));
    undo();
    EXPECT_NE(piece().instrument, seven);
    const Piece before = piece();
    window.takes().setInstrument(seven);
    window.jobs().cancel();
    ASSERT_TRUE(QTest::qWaitFor([&] { return !window.jobs().running(); }, kPatience_ms));
    EXPECT_TRUE(piece() == before);
}

TEST_F(QuestionsTest, AStoppedHearingSaysSo) {
    window.openPath(QString::fromStdString(bassRecording(scratch / "").string()));
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return window.takes().hearing() == TakeCommands::Hearing::Running; }, kPatience_ms));
    EXPECT_EQ(doubtsLine(), "listening to the take …");
    window.jobs().cancel();
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return window.takes().hearing() == TakeCommands::Hearing::Stopped; }, kPatience_ms));
    EXPECT_EQ(doubtsLine(), "hearing was stopped");
    EXPECT_TRUE(piece().notes.empty());
}

} // namespace
} // namespace wirenote::app
