// How much room the shipped fonts take, known without the fonts: signs of Bravura (SIL OFL), texts
// in Inter (SIL OFL). A test holds the table against the fonts themselves.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace wirenote {

// Every musical sign that is used. The comments of SMuFL 1.4 name them; see data/fonts.json.
enum class Glyph {
    GClef8vb,
    FClef8vb,
    NoteheadBlack,
    NoteheadHalf,
    NoteheadWhole,
    NoteheadX,
    NoteheadDiamond,
    Flag8Up,
    Flag8Down,
    Flag16Up,
    Flag16Down,
    Flag32Up,
    Flag32Down,
    RestWhole,
    RestHalf,
    RestQuarter,
    Rest8,
    Rest16,
    Rest32,
    Flat,
    Natural,
    Sharp,
    Dot,
    DownBow,
    UpBow,
    Finger0,
    Finger1,
    Finger2,
    Finger3,
    Finger4,
    FingerT,
    PluckP,
    PluckI,
    PluckM,
    PluckA,
    PluckC,
    Vibrato,
    Accent,
    Staccato,
    Trill,
    Tremolo3,
    MetHalf,
    MetQuarter,
    Met8,
    MetDot,
    Segno,
    Coda,
    Fermata,
    DynamicP,
    DynamicM,
    DynamicF,
    DynamicR,
    DynamicS,
    DynamicZ,
    Time0,                // … Time9 follow
    Tuplet0 = Time0 + 10, // … Tuplet9 follow
};
constexpr int kGlyphs = static_cast<int>(Glyph::Tuplet0) + 10;
constexpr Glyph digitOf(Glyph zero, int digit) { // digit: 0..9
    return static_cast<Glyph>(static_cast<int>(zero) + digit);
}

// In staff spaces, y upwards from the sign's origin.
struct GlyphMetrics {
    char32_t code = 0;
    double left = 0.0, bottom = 0.0, right = 0.0, top = 0.0;
    double advance = 0.0;
    double width() const { return right - left; }
    double height() const { return top - bottom; }
};
const GlyphMetrics& metricsOf(Glyph glyph);

// The engraving defaults of the font, in staff spaces (SMuFL 1.4, "engravingDefaults").
struct EngravingDefaults {
    double staff_line, stem, beam, beam_gap, ledger, ledger_extension, slur_end, slur_middle;
    double thin_bar, thick_bar, bar_gap, tuplet, ending, arrow, enclosure, repeat_dots_gap;
};
const EngravingDefaults& engravingDefaults();

// In ems: the width of a text, and what its letters reach. Characters that the font lacks count as
// one em each.
double textWidth(std::string_view utf8, bool strong);
// Accidentals in texts are musical signs, which the font of texts lacks: a staff space of them is
// so many ems.
constexpr double kAccidentalInText = 0.3;
struct TextRun {
    std::string text; // empty for an accidental
    std::optional<Glyph> accidental;
    double width = 0.0; // ems
};
std::vector<TextRun> textRuns(std::string_view utf8, bool strong);
struct TextMetrics {
    double capital, small, ascent, descent;
};
const TextMetrics& textMetrics();

} // namespace wirenote
