// Small examples that have every sign among them, held against accepted pictures.
#include "engraving/sheet_pages.h"
#include "formats/ascii_tab.h"
#include "painting/fonts.h"
#include "painting/paint_page.h"
#include "session/sheet.h"
#include "support/pictures.h"

#include <QGuiApplication>
#include <QPainter>
#include <functional>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kPixels = 8.0; // a millimetre

// Six strings of a bar or more, with rows under them.
Piece tab(const std::string& lines, const std::string& facts = "guitar, 4/4, 96 beats a minute") {
    auto read = readAsciiTab("Example\n" + facts + "\n\n" + lines);
    if (!read) {
        ADD_FAILURE() << read.error().message;
        return {};
    }
    for (const std::string& unread : read->unread)
        ADD_FAILURE() << unread;
    Piece piece = std::move(read->piece);
    piece.sheet.key_to_signs = false;
    return piece;
}

void give(Piece& piece, std::size_t note, std::vector<Technique> techniques, double semitones = 0) {
    piece.notes.at(note).techniques = std::move(techniques);
    if (semitones > 0.0)
        piece.notes[note].curve = {{0.0, 0.0}, {0.2, 100.0 * semitones}};
    if (semitones < 0.0)
        piece.notes[note].curve = {{0.0, 0.0}, {0.2, 100.0 * semitones}};
}

constexpr const char* kLine = "e|-------------------------|\n"
                              "B|-----------------5-------|\n"
                              "G|-----4--5--7--5-----7----|\n"
                              "D|--7----------------------|\n"
                              "A|-------------------------|\n"
                              "E|-------------------------|\n"
                              "r:  e  e  e  e  e  e  q    |\n";

struct Example {
    const char* name;
    std::function<Piece()> make;
};
void PrintTo(const Example& example, std::ostream* out) {
    *out << example.name;
}

Piece values() {
    Piece piece = tab("  1        2               3                       4\n"
                      "e|-0-----|-0-----3-|-0--0--3-5--0-3-5-7-|---------------0-1----|\n"
                      "B|-------|---------|--------------------|-1----3---------------|\n"
                      "G|-------|---------|--------------------|----------------------|\n"
                      "D|-------|---------|--------------------|----------------------|\n"
                      "A|-------|---------|--------------------|----------------------|\n"
                      "E|-------|---------|--------------------|----------------------|\n"
                      "r: w       h.    q   q. e  e e  s s s s   e re q.    rs t t rq\n");
    return piece;
}

Piece tuplets() {
    return tab("e|-0--1--3--0----3----0----|\n"
               "B|-------------------------|\n"
               "G|-------------------------|\n"
               "D|-------------------------|\n"
               "A|-------------------------|\n"
               "E|-------------------------|\n"
               "r: e3 e3 e3 q    e3   q3 q\n");
}

Piece ties() {
    Piece piece = tab("e|-----0--3--5-|----0--3--5-|\n"
                      "B|-1-----------|------------|\n"
                      "G|-------------|------------|\n"
                      "D|-------------|------------|\n"
                      "A|-------------|------------|\n"
                      "E|-------------|------------|\n"
                      "r: e   q  e  h   ~q e  e  h\n");
    piece.sheet.staves = SheetStaves::TabAndStaff;
    return piece;
}

Piece metres() {
    return tab("  0    1                2 (6/8)\n"
               "e|---|-----------|\n"
               "B|-1-|-1--3--5---|\n"
               "G|---|-----------|\n"
               "D|---|-----------|\n"
               "A|---|-----------|\n"
               "E|---|-----------|\n"
               "r: q   q  q  q\n\n"
               "  2 (6/8)\n"
               "e|-0-1-3-0-1-3-|\n"
               "B|-------------|\n"
               "G|-------------|\n"
               "D|-------------|\n"
               "A|-------------|\n"
               "E|-------------|\n"
               "r: e e e e e e\n",
               "guitar, 3/4, 96 beats a minute");
}

Piece voices() {
    Piece piece = tab("e|-0----3----2----0--|\n"
                      "B|-------------------|\n"
                      "G|-------------------|\n"
                      "D|-------------------|\n"
                      "A|-0--------------2--|\n"
                      "E|-------------------|\n"
                      "r: q    q    q    q\n"
                      "s: pa   a    a    pa\n");
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        if (piece.asPlayed().plans[i].position.value.string == 5) {
            piece.notes[i].voice = Voice::Lower;
            if (i == 0 || piece.notes[i].onset_s() < 1.0)
                piece.notes[i].time.value.end_s = piece.notes[i].onset_s() + 3 * 0.625;
        }
    piece.sheet.staves = SheetStaves::TabAndStaff;
    return piece;
}

Piece accidentals() {
    Piece piece = tab("e|--------------------0----|\n"
                      "B|--------1--2--------0----|\n"
                      "G|--0--1-----------0--1----|\n"
                      "D|-----------------2--2----|\n"
                      "A|-----------------2--2----|\n"
                      "E|-----------------0--0----|\n"
                      "r:  q  e  e  e  e  q  q    \n",
                      "guitar, 5/4, 96 beats a minute");
    piece.key.fifths = 4;
    piece.sheet.staves = SheetStaves::TabAndStaff;
    return piece;
}

Piece bass() {
    Piece piece = tab("G|-------------|\n"
                      "D|----------5--|\n"
                      "A|----3--5-----|\n"
                      "E|-3-----------|\n"
                      "B|-------------|\n"
                      "r: q  q  q  q\n"
                      "s: i  m  i  m\n"
                      "f: 2  1  4  4\n",
                      "bass-5, 4/4, 96 beats a minute");
    piece.key.fifths = -3;
    piece.sheet.staves = SheetStaves::TabAndStaff;
    return piece;
}

Piece slurs() {
    return tab("e|-5-h7-p5------------|\n"
               "B|---------5--/8--5h7-|\n"
               "G|--------------------|\n"
               "D|--------------------|\n"
               "A|--------------------|\n"
               "E|--------------------|\n"
               "r: q e  e  q  e   e\n");
}

Piece bends() {
    Piece piece = tab("e|-8----8----8----|---8----|\n"
                      "B|----------------|---8----|\n"
                      "G|----------------|-7------|\n"
                      "D|----------------|--------|\n"
                      "A|----------------|--------|\n"
                      "E|----------------|--------|\n"
                      "r: q    q    h      h h\n");
    give(piece, 0, {Technique::Bend}, 2.0);
    give(piece, 1, {Technique::Bend, Technique::Release}, 1.0);
    give(piece, 2, {Technique::PreBend}, -2.0);
    give(piece, 3, {Technique::Bend}, 0.5);
    give(piece, 4, {Technique::Bend}, 1.5);
    give(piece, 5, {Technique::Bend}, 2.0);
    return piece;
}

Piece ornaments() {
    Piece piece = tab("e|-5--5--5--5--|-12-5--0--|\n"
                      "B|-------------|----5--1--|\n"
                      "G|-------------|-------2--|\n"
                      "D|-------------|-------2--|\n"
                      "A|-------------|-------0--|\n"
                      "E|-------------|----------|\n"
                      "r: q  q  q  q    q  q  h\n");
    give(piece, 0, {Technique::Vibrato});
    give(piece, 1, {Technique::Trill});
    give(piece, 2, {Technique::Tremolo});
    give(piece, 3, {Technique::Tap});
    give(piece, 4, {Technique::Harmonic});
    give(piece, 5, {Technique::Rake});
    for (std::size_t i = 7; i < piece.notes.size(); ++i)
        give(piece, i, {Technique::Roll});
    return piece;
}

Piece mutes() {
    Piece piece = tab("e|-----------------------|\n"
                      "B|-----------------------|\n"
                      "G|-------------------0--2|\n"
                      "D|-------------2--x------|\n"
                      "A|-----------------------|\n"
                      "E|-0--0--0--3------------|\n"
                      "r: e  e  e  e  e  e  e  e\n");
    for (std::size_t i = 0; i < 3; ++i)
        give(piece, i, {Technique::PalmMute});
    give(piece, 3, {Technique::Staccato, Technique::Accent});
    give(piece, 6, {Technique::LetRing});
    give(piece, 7, {Technique::LetRing});
    return piece;
}

Piece fingers() {
    Piece piece = tab("e|----------0--|\n"
                      "B|----3-----1--|\n"
                      "G|-2-----4--0--|\n"
                      "D|----------2--|\n"
                      "A|----------3--|\n"
                      "E|-------------|\n"
                      "r: q  q  q  q\n"
                      "s: D  U  D  D\n"
                      "f: 1  2  3  32010\n");
    piece.asPlayed().plans[1].position = {{2, 3}, Basis::Reasoned, 0.4, {{{3, 7}, 0.38}}, {}};
    return piece;
}

Piece holds() {
    Piece piece = fingers();
    piece.sheet.holds = true;
    return piece;
}

Piece barres() {
    Piece piece = tab("e|-1----------1--|----5-----|\n"
                      "B|-1-------1--1--|----5-----|\n"
                      "G|-2-------------|-5-----7--|\n"
                      "D|-3-------------|----------|\n"
                      "A|-3-------------|----------|\n"
                      "E|-1-------------|----------|\n"
                      "r: q       q  h    q  h  q\n"
                      "f: 134211  1  11   1  11 3\n");
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.hand_fret = plan.position.value.fret >= 5 ? 5 : 1;
    return piece;
}

Piece strokes() {
    return tab("e|-0-----3--0----0--|\n"
               "B|-1--------1----1--|\n"
               "G|-0-------------0--|\n"
               "D|---------------2--|\n"
               "A|-3--------3----3--|\n"
               "E|------------------|\n"
               "r: q     q  q    q\n"
               "s: pima  a  pma  D\n");
}

Piece count() {
    Piece piece = tab(kLine);
    piece.sheet.count = true;
    return piece;
}

Piece chords() {
    Piece piece = tab("e|-0--0--|-3--3--|\n"
                      "B|-1--1--|-3--3--|\n"
                      "G|-0--0--|-0--0--|\n"
                      "D|-2--2--|-0--0--|\n"
                      "A|-3--3--|-2--2--|\n"
                      "E|-------|-3--3--|\n"
                      "r: h  h    h  h\n"
                      "s: D  D    D  U\n");
    piece.sheet.grips = true;
    piece.instrument.left_handed = true;
    return piece;
}

Piece words() {
    std::string bars = "e|";
    std::string rest = "|";
    std::string rows = "r:";
    for (int b = 0; b < 4; ++b) {
        bars += "-0-1-3-5-|";
        rest += "---------|";
        rows += " q q q q  ";
    }
    Piece piece = tab(bars + "\nB" + rest + "\nG" + rest + "\nD" + rest + "\nA" + rest + "\nE" +
                      rest + "\n" + rows + "\n");
    auto& beats = piece.timeline.beats_s;
    const double bar_s = beats[4] - beats[0];
    piece.timeline.sections = {{"Verse", {0.0, 2 * bar_s}}, {"Ending", {2 * bar_s, 4 * bar_s}}};
    // The last bar slows down, notes with it.
    const double from_s = beats[12];
    const auto slower = [&](double t) { return t > from_s ? from_s + (t - from_s) * 1.4 : t; };
    for (double& beat : beats)
        beat = slower(beat);
    for (Note& note : piece.notes)
        note.time.value = {slower(note.onset_s()), slower(note.offset_s())};
    return piece;
}

Piece repeats() {
    std::string bars = "e|";
    std::string rest = "|";
    std::string rows = "r:";
    for (const char* bar : {"0-1-3-5",
                            "5-3-1-0",
                            "0-0-1-1",
                            "3-3-3-3",
                            "0-1-3-5",
                            "5-3-1-0",
                            "0-0-1-1",
                            "8-7-5-3",
                            "1-1-1-1",
                            "1-1-1-1",
                            "1-1-1-1"}) {
        bars += std::string("-") + bar + "-|";
        rest += "---------|";
        rows += " q q q q  ";
    }
    Piece piece = tab(bars + "\nB" + rest + "\nG" + rest + "\nD" + rest + "\nA" + rest + "\nE" +
                      rest + "\n" + rows + "\n");
    piece.sheet.repeats = SheetRepeats::Signs;
    return piece;
}

Piece byNumber() {
    Piece piece = tab("e|-0--1--3--5--|-5--3--1--0--|-3--1-----1--|-0--1--3--5--|-5--3--1-----|\n"
                      "B|-------------|-------------|-------3-----|-------------|-------------|\n"
                      "G|-------------|-------------|-------------|-------------|-------------|\n"
                      "D|-------------|-------------|-------------|-------------|-------------|\n"
                      "A|-------------|-------------|-------------|-------------|-------------|\n"
                      "E|-------------|-------------|-------------|-------------|-------------|\n"
                      "r: q  q  q  q    q  q  q  q    q  q  q  q    q  q  q  q    q  q  q  rq\n");
    piece.sheet.repeats = SheetRepeats::ByNumber;
    return piece;
}

Piece knownBy() {
    Piece piece = tab(kLine);
    piece.sheet.basis = true;
    for (std::size_t i = 0; i < 4; ++i)
        piece.asPlayed().plans[i].position.basis = static_cast<Basis>(i);
    piece.asPlayed().plans[5].position = {};
    piece.asPlayed().plans[5].position.value = {0, 0};
    return piece;
}

// The same eighths over and over, and a bar of half-bar cells.
Piece cells() {
    Piece piece = tab("e|-0-3-0-3-0-3-0-3-|-0-3-5-3-0-3-5-3-|-8-----7-------|\n"
                      "B|-----------------|-----------------|---------------|\n"
                      "G|-----------------|-----------------|---------------|\n"
                      "D|-----------------|-----------------|---------------|\n"
                      "A|-----------------|-----------------|---------------|\n"
                      "E|-----------------|-----------------|---------------|\n"
                      "r: e e e e e e e e   e e e e e e e e   q     h.\n");
    piece.sheet.repeats = SheetRepeats::Cells;
    piece.sheet.count = true;
    return piece;
}

Piece marks() {
    Piece piece = tab("e|-0-1-3-5-7-5-3-1-|-0-1-3-5-7-------|-0-1-3-5-8-----|\n"
                      "B|-----------------|-----------------|---------------|\n"
                      "G|-----------------|-----------------|---------------|\n"
                      "D|-----------------|-----------------|---------------|\n"
                      "A|-----------------|-----------------|---------------|\n"
                      "E|-----------------|-----------------|---------------|\n"
                      "r: e e e e e e e e   e e e e h         e e e e h\n");
    const auto at = [&piece](std::size_t note) { return piece.notes.at(note).onset_s(); };
    piece.marks = {{MarkKind::Dynamic, at(0), at(0), "mf"},
                   {MarkKind::Segno, at(0), at(0), {}},
                   {MarkKind::Louder, at(1), at(6), {}},
                   {MarkKind::Dynamic, at(6), at(6), "ff"},
                   {MarkKind::Softer, at(8), at(12), {}},
                   {MarkKind::Fermata, at(12), at(12), {}},
                   {MarkKind::Words, at(12), at(12), "to the coda"},
                   {MarkKind::Dynamic, at(13), at(13), "sfz"},
                   {MarkKind::Coda, at(13), at(13), {}},
                   {MarkKind::Words, at(17), at(17), "D.S. al Coda"}};
    return piece;
}

QImage pictureOf(const Piece& piece) {
    loadFonts();
    const SheetPage page = pagesOf(piece).front();
    Box all{1e9, 1e9, 0.0, 0.0};
    for (const Ink& ink : page.ink)
        if (ink.sign != Sign::Foot && ink.sign != Sign::Head1 && ink.sign != Sign::Head2)
            all = {std::min(all.left, ink.box.left),
                   std::min(all.top, ink.box.top),
                   std::max(all.right, ink.box.right),
                   std::max(all.bottom, ink.box.bottom)};
    constexpr double kRim_mm = 2.0;
    QImage image(
        QSizeF((all.width() + 2 * kRim_mm) * kPixels, (all.height() + 2 * kRim_mm) * kPixels)
            .toSize(),
        QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.translate((kRim_mm - all.left) * kPixels, (kRim_mm - all.top) * kPixels);
    paintPage(painter, page, kPixels);
    return image;
}

class Examples : public ::testing::TestWithParam<Example> {};
TEST_P(Examples, LooksAsItDidWhenItWasLookedAt) {
    EXPECT_EQ(test::differenceFromAccepted(pictureOf(GetParam().make()),
                                           (std::string("sign-") + GetParam().name).c_str()),
              "");
}
INSTANTIATE_TEST_SUITE_P(Signs,
                         Examples,
                         ::testing::Values(Example{"values", values},
                                           Example{"tuplets", tuplets},
                                           Example{"ties", ties},
                                           Example{"metres", metres},
                                           Example{"voices", voices},
                                           Example{"accidentals", accidentals},
                                           Example{"bass", bass},
                                           Example{"slurs", slurs},
                                           Example{"bends", bends},
                                           Example{"ornaments", ornaments},
                                           Example{"mutes", mutes},
                                           Example{"fingers", fingers},
                                           Example{"holds", holds},
                                           Example{"barres", barres},
                                           Example{"strokes", strokes},
                                           Example{"count", count},
                                           Example{"chords", chords},
                                           Example{"words", words},
                                           Example{"repeats", repeats},
                                           Example{"by-number", byNumber},
                                           Example{"cells", cells},
                                           Example{"marks", marks},
                                           Example{"known-by", knownBy}),
                         [](const auto& row) {
                             std::string name = row.param.name;
                             std::ranges::replace(name, '-', '_');
                             return name;
                         });

} // namespace
} // namespace wirenote

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    ::testing::InitGoogleTest(&argc, argv);
    QGuiApplication application(argc, argv);
    return RUN_ALL_TESTS();
}
