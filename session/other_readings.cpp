#include "session/other_readings.h"

#include "fretting/wishes.h"
#include "piece/edits.h"
#include "piece/timeline_map.h"
#include "session/resolve.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <cstdio>

namespace wirenote {
namespace {

// What can be wished, and within which bounds its number lies; none has none.
struct Kind {
    WishKind kind = WishKind::Easiest;
    const char* word = "";
    const char* name = "";
    double least = 0.0;
    double most = 0.0;
    bool needs_number = false;
};
constexpr std::array kKinds{Kind{WishKind::Easiest, "easiest", "easiest"},
                            Kind{WishKind::OnePosition, "one-position", "one position", 1.0, 20.0},
                            Kind{WishKind::NoOpen, "no-open", "no open strings"},
                            Kind{WishKind::NoBarre, "no-barre", "no barre"},
                            Kind{WishKind::Stretch, "stretch", "stretch of", 2.0, 6.0, true},
                            Kind{WishKind::SmallHand, "small-hand", "small hand"},
                            Kind{WishKind::Tempo, "tempo", "tempo ×", 0.25, 4.0, true}};

const Kind& kindOf(WishKind kind) {
    return *std::ranges::find(kKinds, kind, &Kind::kind);
}

std::string shortNumber(double value) {
    std::array<char, 32> text{};
    std::snprintf(text.data(), text.size(), "%g", value);
    return text.data();
}

Error noSuchWish(std::string_view text) {
    std::string all;
    for (const Kind& one : kKinds)
        all += std::string(all.empty() ? "" : ", ") + one.word +
               (one.needs_number ? ":NUMBER"
                : one.most > 0.0 ? "[:NUMBER]"
                                 : "");
    return badCall("\"" + std::string(text) + "\" is none of: " + all);
}

void forgetPlans(Reading& reading) {
    for (NotePlan& plan : reading.plans) {
        const NoteId note = plan.note;
        plan = {};
        plan.note = note;
        plan.position.value = {0, 0};
    }
}

std::vector<NoteId> solve(Piece& piece, std::size_t index, const ReadingWish& wish) {
    Reading& reading = piece.readings[index];
    reading.head.wish = wish;
    forgetPlans(reading);
    placeAll(piece, index);
    return unmetWishes(piece.rows(index), wish);
}

// The position in which the fewest notes are out of it, the lowest of these.
ReadingWish withBestPosition(Piece& piece, std::size_t index, ReadingWish wish) {
    ReadingWish best = wish;
    std::size_t fewest = piece.notes.size() + 1;
    const int highest = std::min(12, std::max(1, piece.instrument.highestFret() - 3));
    for (int fret = 1; fret <= highest; ++fret) {
        wish.value = fret;
        const std::size_t unmet = solve(piece, index, wish).size();
        if (unmet < fewest) {
            fewest = unmet;
            best = wish;
        }
    }
    return best;
}

} // namespace

Result<ReadingWish> parseWish(std::string_view text) {
    const std::size_t colon = text.find(':');
    const std::string_view word = text.substr(0, colon);
    const auto found = std::ranges::find(kKinds, word, &Kind::word);
    if (found == kKinds.end())
        return noSuchWish(text);
    ReadingWish wish{found->kind, 0.0};
    if (colon == std::string_view::npos) {
        if (found->needs_number)
            return noSuchWish(text);
        return wish;
    }
    const std::string_view number = text.substr(colon + 1);
    const auto [end, failed] =
        std::from_chars(number.data(), number.data() + number.size(), wish.value);
    if (found->most == 0.0 || failed != std::errc{} || end != number.data() + number.size() ||
        !(wish.value >= found->least && wish.value <= found->most))
        return badCall("\"" + std::string(text) + "\": " +
                       (found->most == 0.0
                            ? std::string(found->word) + " takes no number"
                            : "the number must be from " + shortNumber(found->least) + " to " +
                                  shortNumber(found->most)));
    return wish;
}

std::string wishName(const ReadingWish& wish) {
    if (wish.kind == WishKind::None)
        return "as played";
    std::string name = kindOf(wish.kind).name;
    if (wish.value > 0.0)
        name += (wish.kind == WishKind::Tempo ? "" : " ") + shortNumber(wish.value);
    return wish.kind == WishKind::Stretch ? name + " frets" : name;
}

Result<MadeReading> makeReading(Piece& piece, const ReadingWish& wish, const std::string& when) {
    const std::string name = wishName(wish);
    const auto known = std::ranges::find_if(
        piece.readings, [&](const Reading& reading) { return reading.head.name == name; });
    MadeReading made;
    made.index = static_cast<std::size_t>(known - piece.readings.begin());
    if (known == piece.readings.end()) {
        PieceEditor editor(piece, when);
        if (const Status added = editor.addReading(name, ""); !added)
            return added.error();
    }
    const ReadingWish wished = wish.kind == WishKind::OnePosition && wish.value == 0.0
                                   ? withBestPosition(piece, made.index, wish)
                                   : wish;
    made.unmet = solve(piece, made.index, wished);
    strokeAll(piece, made.index);
    return made;
}

std::string whereText(const Piece& piece, NoteId id) {
    const Note* note = piece.note(id);
    if (!note)
        return {};
    const auto at = TimelineMap(piece.timeline).barBeatAt(note->onset_s());
    return "bar " + std::to_string(at.bar) + ", beat " +
           shortNumber(std::round(at.beat * 100.0) / 100.0);
}

} // namespace wirenote
