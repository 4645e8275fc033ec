#include "form/variants.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

bool isSame(const Variant& one, const VersionDifference& other) {
    return one.kind == other.kind && one.midi == other.midi &&
           std::abs(one.piece_s - other.piece_s) <= kSamePlace_s &&
           (one.kind == VersionDifferenceKind::Added || one.note == other.note);
}

} // namespace

int playingsOf(const std::vector<Version>& versions, double piece_s) {
    return 1 + static_cast<int>(std::ranges::count_if(versions, [piece_s](const Version& v) {
               return !v.refused && v.of_piece.contains(piece_s);
           }));
}

std::vector<Variant> variantsOf(const std::vector<Version>& versions) {
    std::vector<Variant> variants;
    for (std::size_t v = 0; v < versions.size(); ++v) {
        if (versions[v].refused)
            continue;
        for (const VersionDifference& one : versions[v].differences) {
            auto same = std::ranges::find_if(
                variants, [&one](const Variant& known) { return isSame(known, one); });
            if (same == variants.end()) {
                variants.push_back({one.kind, one.piece_s, one.note, one.midi, 0, 0, {}});
                same = variants.end() - 1;
            }
            ++same->times;
            same->versions.push_back(v);
        }
    }
    for (Variant& one : variants)
        one.of = std::max(one.times + 1, playingsOf(versions, one.piece_s));
    std::ranges::stable_sort(variants, {}, &Variant::piece_s);
    std::ranges::stable_sort(variants, std::greater{}, &Variant::times);
    return variants;
}

} // namespace wirenote
