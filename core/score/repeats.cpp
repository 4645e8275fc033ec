#include "score/repeats.h"

#include <algorithm>
#include <iterator>

namespace wirenote {
namespace {

constexpr std::size_t kLongestRepeat = 32; // bars
constexpr std::size_t kMostEnding = 2;     // bars of an ending
constexpr std::size_t kLeastWithEndings = 4;

// What of a note is written.
std::string writtenAs(const Piece& piece, std::size_t i) {
    const Note& note = piece.notes[i];
    const NotePlan& plan = piece.asPlayed().plans[i];
    std::string text = std::to_string(note.midi()) + "@" +
                       std::to_string(plan.position.value.string) + "." +
                       std::to_string(plan.position.value.fret) + "f" +
                       std::to_string(static_cast<int>(plan.finger.value)) + "s" +
                       std::to_string(static_cast<int>(plan.stroke.value));
    std::vector<Technique> techniques = note.techniques;
    std::ranges::sort(techniques);
    for (const Technique t : techniques)
        text += "t" + std::to_string(static_cast<int>(t));
    return text;
}

std::vector<std::string>
writtenBars(const Piece& piece, const Score& score, const std::vector<MarkSign>& marks) {
    std::vector<std::string> bars;
    auto mark = marks.begin();
    for (const Bar& bar : score.bars) {
        std::string text = bar.metre.text() + " " + bar.length.toString() + " " +
                           writtenAs(piece, bar.values, Rational(0)) + "/ " +
                           writtenAs(piece, bar.lower, Rational(0));
        for (; mark != marks.end() && mark->from < bar.start + bar.length; ++mark)
            text += "m" + (mark->from - bar.start).toString() + "-" +
                    (mark->to - bar.start).toString() + mark->text +
                    std::to_string(static_cast<int>(mark->kind));
        bars.push_back(std::move(text));
    }
    return bars;
}

// A stretch of `length` bars, the last `ending` of which differ in its second playing; `times` all
// in all.
struct Fold {
    std::size_t length = 0;
    std::size_t ending = 0;
    std::size_t times = 2;
    std::size_t saved() const { return (times - 1) * (length - ending); }
};

class Folder {
  public:
    Folder(const Piece& piece,
           const Score& score,
           const std::vector<MarkSign>& marks,
           const std::set<int>& keep)
        : m_score(score), m_keep(keep), m_bars(writtenBars(piece, score, marks)) {}

    std::vector<PrintedBar> run() const {
        std::vector<PrintedBar> out;
        for (std::size_t at = 0; at < m_bars.size();) {
            const Fold fold = bestAt(at);
            if (fold.length == 0) {
                out.push_back(plain(at++));
                continue;
            }
            print(at, fold, out);
            at += fold.times * fold.length;
        }
        return out;
    }

  private:
    static PrintedBar plain(std::size_t bar) {
        PrintedBar printed;
        printed.bar = bar;
        return printed;
    }

    bool same(std::size_t a, std::size_t b, std::size_t bars) const {
        for (std::size_t k = 0; k < bars; ++k)
            if (m_bars[a + k] != m_bars[b + k])
                return false;
        return true;
    }
    // Nothing of its own begins inside the bars that are not printed.
    bool mayGo(std::size_t from, std::size_t to) const {
        for (std::size_t b = from; b < to; ++b)
            if (m_keep.contains(m_score.bars[b].number))
                return false;
        return true;
    }
    bool isEmpty(std::size_t from, std::size_t bars) const {
        for (std::size_t b = from; b < from + bars; ++b)
            for (const auto* values : {&m_score.bars[b].values, &m_score.bars[b].lower})
                for (const Value& value : *values)
                    if (!value.rest())
                        return false;
        return true;
    }

    Fold bestAt(std::size_t at) const {
        Fold best;
        const std::size_t most = std::min(kLongestRepeat, (m_bars.size() - at) / 2);
        for (std::size_t length = 1; length <= most; ++length) {
            const std::size_t endings =
                length >= kLeastWithEndings ? std::min(kMostEnding, length - 2) : 0;
            for (std::size_t ending = 0; ending <= endings; ++ending) {
                if (!same(at, at + length, length - ending) || isEmpty(at, length - ending) ||
                    !mayGo(at + length, at + 2 * length - ending))
                    continue;
                Fold fold{length, ending, 2};
                while (ending == 0 && at + (fold.times + 1) * length <= m_bars.size() &&
                       same(at, at + fold.times * length, length) &&
                       mayGo(at + fold.times * length, at + (fold.times + 1) * length))
                    ++fold.times;
                if (best.length == 0 || fold.saved() > best.saved())
                    best = fold;
                break;
            }
        }
        // One bar printed once for two is not worth its signs.
        return best.saved() >= 2 || best.times > 2 ? best : Fold{};
    }

    static void print(std::size_t at, const Fold& fold, std::vector<PrintedBar>& out) {
        const std::size_t first = out.size();
        for (std::size_t k = 0; k < fold.length; ++k)
            out.push_back(plain(at + k));
        for (std::size_t time = 1; time < fold.times; ++time)
            for (std::size_t k = 0; k < fold.length - fold.ending; ++k)
                out[first + k].also.push_back(at + time * fold.length + k);
        out[first].repeat_begins = true;
        out.back().repeat_ends = true;
        out.back().times = static_cast<int>(fold.times);
        if (fold.ending == 0)
            return;
        bracket(out, out.size() - fold.ending, 1);
        for (std::size_t k = fold.length - fold.ending; k < fold.length; ++k)
            out.push_back(plain(at + fold.length + k));
        bracket(out, out.size() - fold.ending, 2);
    }

    // From there to the last.
    static void bracket(std::vector<PrintedBar>& out, std::size_t from, int ending) {
        for (std::size_t k = from; k < out.size(); ++k)
            out[k].ending = ending;
        out[from].ending_begins = true;
        out.back().ending_ends = true;
    }

    const Score& m_score;
    const std::set<int>& m_keep;
    std::vector<std::string> m_bars;
};

} // namespace

std::string writtenAs(const Piece& piece, std::span<const Value> values, Rational from) {
    std::string text;
    for (const Value& value : values) {
        text += (value.start - from).toString() + ":" + value.length.toString() +
                (value.tied_from_before ? "~" : "") + (value.tied_to_next ? "^" : "") + " ";
        std::vector<std::string> notes;
        for (const std::size_t i : value.graces)
            notes.push_back("g" + writtenAs(piece, i));
        for (const std::size_t i : value.notes)
            notes.push_back(writtenAs(piece, i));
        std::ranges::sort(notes);
        for (const std::string& note : notes)
            text += note + " ";
    }
    return text;
}

std::vector<PrintedBar> writtenOut(const Score& score) {
    std::vector<PrintedBar> bars(score.bars.size());
    for (std::size_t i = 0; i < bars.size(); ++i)
        bars[i].bar = i;
    return bars;
}

std::vector<PrintedBar> folded(const Piece& piece,
                               const Score& score,
                               const std::vector<MarkSign>& marks,
                               const std::set<int>& keep) {
    return Folder(piece, score, marks, keep).run();
}

namespace {

// What is struck where, without how long it lasts: what is left out lets others last.
struct Struck {
    Rational at;
    int string = 0;
    int midi = 0;
    std::string written;
    auto operator<=>(const Struck&) const = default;
    bool operator==(const Struck&) const = default;
};

std::vector<Struck> struckIn(const Piece& piece, const Bar& bar) {
    std::vector<Struck> all;
    for (const auto* values : {&bar.values, &bar.lower})
        for (const Value& value : *values) {
            for (const std::size_t i : value.notes)
                if (!value.tied_from_before)
                    all.push_back({value.start,
                                   piece.asPlayed().plans[i].position.value.string,
                                   piece.notes[i].midi(),
                                   writtenAs(piece, i)});
            for (const std::size_t i : value.graces)
                all.push_back({value.start, 0, 0, "g" + writtenAs(piece, i)});
        }
    std::ranges::sort(all);
    return all;
}

bool reachesOver(const Bar& bar) {
    for (const auto* values : {&bar.values, &bar.lower})
        for (const Value& value : *values)
            if (!value.rest() && (value.tied_from_before || value.tied_to_next))
                return true;
    return false;
}

// "without the high note": of one stroke the highest or lowest by that, others by their string and
// beat.
std::string
missing(const std::vector<Struck>& whole, const std::vector<Struck>& lacks, const Metre& metre) {
    std::string text;
    for (const Struck& one : lacks) {
        int lowest = 1000;
        int highest = -1;
        std::size_t together = 0;
        for (const Struck& other : whole) {
            lowest = std::min(lowest, other.midi);
            highest = std::max(highest, other.midi);
            together += other.at == one.at ? 1 : 0;
        }
        const auto times = std::ranges::count(whole, one.midi, &Struck::midi);
        const Rational beat = one.at / metre.beatLength() + Rational(1);
        text += text.empty() ? "without " : " and ";
        if (times == 1 && one.midi == highest)
            text += "the high note";
        else if (times == 1 && one.midi == lowest)
            text += "the low note";
        else
            text += (together > 1 ? "string " + std::to_string(one.string) + " on beat "
                                  : "the note on beat ") +
                    (beat.den() == 1 ? std::to_string(beat.num())
                                     : std::to_string(beat.floor()) + " and");
    }
    return text;
}

} // namespace

void shorten(const Piece& piece,
             const Score& score,
             const std::set<int>& keep,
             std::vector<PrintedBar>& bars) {
    constexpr std::size_t kFewest = 3; // strokes
    constexpr std::size_t kMostMissing = 2;
    constexpr std::size_t kReach = 256; // bars
    struct Before {
        const Bar* bar;
        std::vector<Struck> struck;
    };
    std::vector<Before> before;
    for (PrintedBar& printed : bars) {
        const Bar& bar = score.bars[printed.bar];
        auto struck = struckIn(piece, bar);
        const bool may = !keep.contains(bar.number) && !reachesOver(bar) &&
                         !printed.repeat_begins && !printed.repeat_ends && printed.ending == 0;
        const Before* best = nullptr;
        std::vector<Struck> lacks;
        for (const Before& one : before) {
            if (!may || one.bar->metre != bar.metre || one.bar->length != bar.length ||
                one.struck.size() < struck.size() ||
                one.struck.size() > struck.size() + kMostMissing ||
                !std::ranges::includes(one.struck, struck))
                continue;
            std::vector<Struck> rest;
            std::ranges::set_difference(one.struck, struck, std::back_inserter(rest));
            if (!best || rest.size() < lacks.size()) {
                best = &one;
                lacks = std::move(rest);
            }
        }
        if (best && struck.size() >= kFewest) {
            printed.as_bar = best->bar->number;
            printed.except = missing(best->struck, lacks, bar.metre);
        } else if (!struck.empty() && !reachesOver(bar)) {
            before.push_back({&bar, std::move(struck)});
            if (before.size() > kReach) // nobody turns back that many pages
                before.erase(before.begin());
        }
    }
}

} // namespace wirenote
