#include "engraving/font_metrics.h"

#include "base/text.h"
#include "engraving/font_data.h"

#include <array>
#include <nlohmann/json.hpp>
#include <unordered_map>

namespace wirenote {
namespace {

using Json = nlohmann::json;

constexpr std::array kNames = {"gClef8vb",
                               "fClef8vb",
                               "noteheadBlack",
                               "noteheadHalf",
                               "noteheadWhole",
                               "noteheadXBlack",
                               "noteheadDiamondBlack",
                               "flag8thUp",
                               "flag8thDown",
                               "flag16thUp",
                               "flag16thDown",
                               "flag32ndUp",
                               "flag32ndDown",
                               "restWhole",
                               "restHalf",
                               "restQuarter",
                               "rest8th",
                               "rest16th",
                               "rest32nd",
                               "accidentalFlat",
                               "accidentalNatural",
                               "accidentalSharp",
                               "augmentationDot",
                               "stringsDownBow",
                               "stringsUpBow",
                               "fingering0",
                               "fingering1",
                               "fingering2",
                               "fingering3",
                               "fingering4",
                               "fingeringTUpper",
                               "fingeringPLower",
                               "fingeringILower",
                               "fingeringMLower",
                               "fingeringALower",
                               "fingeringCLower",
                               "wiggleVibrato",
                               "articAccentAbove",
                               "articStaccatoAbove",
                               "ornamentTrill",
                               "tremolo3",
                               "metNoteHalfUp",
                               "metNoteQuarterUp",
                               "metNote8thUp",
                               "metAugmentationDot",
                               "segno",
                               "coda",
                               "fermataAbove",
                               "dynamicPiano",
                               "dynamicMezzo",
                               "dynamicForte",
                               "dynamicRinforzando",
                               "dynamicSforzando",
                               "dynamicZ"};
static_assert(kNames.size() == static_cast<std::size_t>(Glyph::Time0));

struct Table {
    std::array<GlyphMetrics, kGlyphs> signs;
    EngravingDefaults defaults{};
    TextMetrics text{};
    std::array<std::unordered_map<char32_t, double>, 2> widths; // regular, strong
};

GlyphMetrics signFrom(const Json& json) {
    const Json& box = json["box"];
    return {json["code"].get<char32_t>(), box[0], box[1], box[2], box[3], json["advance"]};
}

Table read() {
    Table table;
    const Json json = Json::parse(kFontText);
    const Json& signs = json["signs"];
    for (std::size_t i = 0; i < kNames.size(); ++i)
        table.signs[i] = signFrom(signs[kNames[i]]);
    for (int d = 0; d < 10; ++d) {
        const auto put = [&](Glyph zero, const char* name) {
            table.signs[static_cast<std::size_t>(digitOf(zero, d))] =
                signFrom(signs[name + std::to_string(d)]);
        };
        put(Glyph::Time0, "timeSig");
        put(Glyph::Tuplet0, "tuplet");
    }
    const Json& d = json["defaults"];
    table.defaults = {d["staffLineThickness"],
                      d["stemThickness"],
                      d["beamThickness"],
                      d["beamSpacing"],
                      d["legerLineThickness"],
                      d["legerLineExtension"],
                      d["slurEndpointThickness"],
                      d["slurMidpointThickness"],
                      d["thinBarlineThickness"],
                      d["thickBarlineThickness"],
                      d["barlineSeparation"],
                      d["tupletBracketThickness"],
                      d["repeatEndingLineThickness"],
                      d["arrowShaftThickness"],
                      d["textEnclosureThickness"],
                      d["repeatBarlineDotSeparation"]};
    const Json& t = json["text"];
    table.text = {t["capital"], t["small"], t["ascent"], t["descent"]};
    std::size_t k = 0;
    for (const char* weight : {"regular", "strong"}) {
        for (const auto& [code, width] : t[weight].items())
            table.widths[k][static_cast<char32_t>(std::stoul(code))] = width;
        ++k;
    }
    return table;
}

const Table& table() {
    static const Table shipped = read();
    return shipped;
}

char32_t characterAt(std::string_view text, std::size_t at, std::size_t length) {
    const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(text[at + i]); };
    if (length <= 1)
        return byte(0);
    char32_t code = byte(0) & (0xFFU >> (length + 1));
    for (std::size_t i = 1; i < length; ++i)
        code = (code << 6U) | (byte(i) & 0x3FU);
    return code;
}

} // namespace

const GlyphMetrics& metricsOf(Glyph glyph) {
    return table().signs[static_cast<std::size_t>(glyph)];
}

const EngravingDefaults& engravingDefaults() {
    return table().defaults;
}

const TextMetrics& textMetrics() {
    return table().text;
}

double textWidth(std::string_view utf8, bool strong) {
    double width = 0.0;
    for (const TextRun& run : textRuns(utf8, strong))
        width += run.width;
    return width;
}

std::vector<TextRun> textRuns(std::string_view utf8, bool strong) {
    constexpr double kBeside = 0.04; // room on either side of an accidental, in ems
    const auto& widths = table().widths[strong ? 1 : 0];
    std::vector<TextRun> runs;
    for (std::size_t at = 0; at < utf8.size();) {
        const std::size_t length = std::max<std::size_t>(1, utf8Length(utf8, at));
        const char32_t code = characterAt(utf8, at, length);
        const std::string_view character = utf8.substr(at, length);
        at += length;
        if (code >= U'♭' && code <= U'♯') { // ♭ ♮ ♯ follow one another
            const Glyph sign = code == U'♭'   ? Glyph::Flat
                               : code == U'♮' ? Glyph::Natural
                                              : Glyph::Sharp;
            runs.push_back({"", sign, metricsOf(sign).width() * kAccidentalInText + 2.0 * kBeside});
            continue;
        }
        if (runs.empty() || runs.back().accidental)
            runs.push_back({"", {}, 0.0});
        const auto found = widths.find(code);
        runs.back().text += character;
        runs.back().width += found != widths.end() ? found->second : 1.0;
    }
    return runs;
}

} // namespace wirenote
