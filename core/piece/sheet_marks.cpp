#include "piece/sheet_marks.h"

#include "base/text.h"

#include <algorithm>
#include <array>
#include <utility>

namespace wirenote {
namespace {

constexpr std::array kDynamics = {
    "pppp", "ppp", "pp", "p", "mp", "mf", "f", "ff", "fff", "ffff", "fp", "sf", "sfz", "rf", "rfz"};

// The first word of a kind is how it is told.
constexpr std::array<std::pair<const char*, MarkKind>, 10> kTyped = {
    {{"louder", MarkKind::Louder},
     {"<", MarkKind::Louder},
     {"cresc.", MarkKind::Louder},
     {"softer", MarkKind::Softer},
     {">", MarkKind::Softer},
     {"dim.", MarkKind::Softer},
     {"decresc.", MarkKind::Softer},
     {"fermata", MarkKind::Fermata},
     {"segno", MarkKind::Segno},
     {"coda", MarkKind::Coda}}};

} // namespace

bool isDynamic(const std::string& text) {
    return std::ranges::find(kDynamics, text) != kDynamics.end();
}

Result<SheetMark> markFromText(const std::string& text, double at_s, double to_s) {
    const auto typed =
        std::ranges::find(kTyped, text, [](const auto& one) { return std::string(one.first); });
    if (typed != kTyped.end()) {
        if (goesOn(typed->second) && to_s <= at_s)
            return badCall("getting louder or softer needs a stretch; choose the notes from where "
                           "it begins to where it ends");
        return SheetMark{typed->second, at_s, goesOn(typed->second) ? to_s : at_s, {}};
    }
    if (text.empty() || !isPlain(text))
        return badCall("a mark says something, in no more than " + std::to_string(kLongestName) +
                       " bytes; type it again, shorter");
    return SheetMark{isDynamic(text) ? MarkKind::Dynamic : MarkKind::Words, at_s, at_s, text};
}

std::string markText(const SheetMark& mark) {
    const auto found =
        std::ranges::find(kTyped, mark.kind, [](const auto& one) { return one.second; });
    return found != kTyped.end() ? found->first : mark.text;
}

bool soundMarks(const std::vector<SheetMark>& marks, double longest_s) {
    return marks.size() <= kMaxSheetMarks && std::ranges::is_sorted(marks, {}, &SheetMark::at_s) &&
           std::ranges::all_of(marks, [longest_s](const SheetMark& mark) {
               const bool told = mark.kind == MarkKind::Dynamic ? isDynamic(mark.text)
                                 : mark.kind == MarkKind::Words
                                     ? isPlain(mark.text) && !mark.text.empty()
                                     : mark.text.empty();
               return told && mark.at_s >= 0.0 && mark.to_s <= longest_s &&
                      (goesOn(mark.kind) ? mark.to_s > mark.at_s : mark.to_s == mark.at_s);
           });
}

} // namespace wirenote
