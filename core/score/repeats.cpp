#include "score/repeats.h"

#include <algorithm>

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

void write(const Piece& piece, const std::vector<Value>& values, std::string& text) {
    for (const Value& value : values) {
        text += value.start.toString() + ":" + value.length.toString() +
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
}

std::vector<std::string> writtenBars(const Piece& piece, const Score& score) {
    std::vector<std::string> bars;
    for (const Bar& bar : score.bars) {
        std::string text = bar.metre.text() + " " + bar.length.toString() + " ";
        write(piece, bar.values, text);
        text += "/ ";
        write(piece, bar.lower, text);
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
    Folder(const Piece& piece, const Score& score, const std::set<int>& keep)
        : m_score(score), m_keep(keep), m_bars(writtenBars(piece, score)) {}

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
    static PrintedBar plain(std::size_t bar) { PrintedBar printed;
        printed.bar = bar;
        return printed; }

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

std::vector<PrintedBar> writtenOut(const Score& score) {
    std::vector<PrintedBar> bars(score.bars.size());
    for (std::size_t i = 0; i < bars.size(); ++i)
        bars[i].bar = i;
    return bars;
}

std::vector<PrintedBar> folded(const Piece& piece, const Score& score, const std::set<int>& keep) {
    return Folder(piece, score, keep).run();
}

} // namespace wirenote
