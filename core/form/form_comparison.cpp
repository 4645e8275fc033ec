#include "form/form_comparison.h"

#include <algorithm>
#include <map>

namespace wirenote {
namespace {

using Tie = FormComparison::Tie;
constexpr double kJoined_s = 0.8; // of the piece: two ties that go on are one

// From where to where the leading take plays the piece itself.
TimeRange pieceItself(const Piece& piece) {
    TimeRange span;
    const auto take_in = [&span](double from_s, double to_s) {
        span = span.empty() ? TimeRange{from_s, to_s}
                            : TimeRange{std::min(span.start_s, from_s), std::max(span.end_s, to_s)};
    };
    for (const Demonstration& one : piece.takes[0].demonstrations)
        if (one.isItself())
            take_in(one.ofPiece().start_s, one.ofPiece().end_s);
    if (span.empty())
        for (const Note& note : piece.notes)
            take_in(note.onset_s(), note.offset_s());
    return span;
}

std::vector<Tie> tiesOf(const Take& take) {
    std::vector<Tie> ties;
    for (std::size_t d = 0; d < take.demonstrations.size(); ++d) {
        const Demonstration& one = take.demonstrations[d];
        if (!one.inPiece() || one.isItself())
            continue;
        const TimeRange in_take{one.moments.front().take_s, one.moments.back().take_s};
        if (!ties.empty() && ties.back().semitones == one.semitones &&
            std::abs(one.ofPiece().start_s - ties.back().of_piece.end_s) < kJoined_s &&
            std::abs(in_take.start_s - ties.back().in_take.end_s) < kJoined_s) {
            ties.back().of_piece.end_s = one.ofPiece().end_s;
            ties.back().in_take.end_s = in_take.end_s;
        } else {
            ties.push_back({one.ofPiece(), in_take, one.semitones, d});
        }
    }
    return ties;
}

int mostCommonKey(const std::vector<Tie>& ties) {
    std::map<int, double> in_key_s;
    for (const Tie& tie : ties)
        in_key_s[tie.semitones] += tie.in_take.length_s();
    return std::ranges::max_element(in_key_s, {}, [](const auto& key) { return key.second; })
        ->first;
}

// Walks the take from tie to tie and notes what is otherwise.
class Comparing {
  public:
    Comparing(FormComparison& comparison, double shortest_s)
        : m_to(comparison), m_shortest_s(shortest_s), m_key(mostCommonKey(comparison.ties)) {}

    void run() {
        double reached_s = m_to.piece.start_s; // of the piece, by what was played so far
        double played_s = m_to.take.start_s;
        for (std::size_t i = 0; i < m_to.ties.size(); ++i) {
            const Tie& tie = m_to.ties[i];
            between(
                {reached_s, tie.of_piece.start_s}, {played_s, tie.in_take.start_s}, i == 0, false);
            if (tie.semitones != m_key)
                add({FormDifferenceKind::OtherKey,
                     tie.of_piece,
                     tie.in_take,
                     tie.semitones - m_key});
            against(i);
            reached_s = std::max(reached_s, tie.of_piece.end_s);
            played_s = tie.in_take.end_s;
        }
        between({reached_s, m_to.piece.end_s}, {played_s, m_to.take.end_s}, false, true);
    }

  private:
    bool isLong(TimeRange range) const { return range.length_s() >= m_shortest_s; }
    void add(FormDifference difference) { m_to.differences.push_back(difference); }

    // What the piece has between two ties and what the take has there.
    void between(TimeRange of_piece, TimeRange in_take, bool at_start, bool at_end) {
        of_piece = missingOf(of_piece);
        const bool lacks = isLong(of_piece);
        const bool adds = isLong(in_take);
        if (lacks && adds)
            add({FormDifferenceKind::Instead, of_piece, in_take, 0, at_start, at_end});
        else if (lacks)
            add({FormDifferenceKind::Lacks,
                 of_piece,
                 {in_take.start_s, in_take.start_s},
                 0,
                 at_start,
                 at_end});
        else if (adds)
            add({FormDifferenceKind::Adds,
                 {of_piece.start_s, of_piece.start_s},
                 in_take,
                 0,
                 at_start,
                 at_end});
    }

    // What no tie has, also none that comes later: the longest stretch of it.
    TimeRange missingOf(TimeRange of_piece) const {
        std::vector<TimeRange> missing{of_piece};
        for (const Tie& tie : m_to.ties) {
            std::vector<TimeRange> left;
            for (const TimeRange& one : missing) {
                left.push_back({one.start_s, std::min(one.end_s, tie.of_piece.start_s)});
                left.push_back({std::max(one.start_s, tie.of_piece.end_s), one.end_s});
            }
            std::erase_if(left, [](const TimeRange& r) { return r.empty(); });
            missing = std::move(left);
        }
        const auto longest = std::ranges::max_element(missing, {}, &TimeRange::length_s);
        return longest == missing.end() ? TimeRange{of_piece.start_s, of_piece.start_s} : *longest;
    }

    // What the ties before it have too, or should have had after it.
    void against(std::size_t i) {
        const Tie& tie = m_to.ties[i];
        TimeRange again;
        double reached_s = 0.0;
        for (std::size_t k = 0; k < i; ++k) {
            const TimeRange both = tie.of_piece.clippedTo(m_to.ties[k].of_piece);
            if (both.length_s() > std::max(0.0, again.length_s()))
                again = both;
            reached_s = std::max(reached_s, m_to.ties[k].of_piece.end_s);
        }
        if (isLong(again))
            add({FormDifferenceKind::Again, again, tie.in_take});
        else if (i > 0 && tie.of_piece.end_s < reached_s)
            add({FormDifferenceKind::Earlier, tie.of_piece, tie.in_take});
    }

    FormComparison& m_to;
    double m_shortest_s;
    int m_key;
};

} // namespace

FormComparison compareForms(const Piece& piece, std::size_t take, double shortest_s) {
    FormComparison comparison;
    if (take >= piece.takes.size())
        return comparison;
    comparison.piece = pieceItself(piece);
    const Take& other = piece.takes[take];
    comparison.ties = tiesOf(other);
    if (comparison.ties.empty())
        return comparison;
    comparison.take = {comparison.ties.front().in_take.start_s,
                       comparison.ties.back().in_take.end_s};
    for (const Demonstration& one : other.demonstrations)
        if (!one.isItself())
            comparison.take = {std::min(comparison.take.start_s, one.span.start_s),
                               std::max(comparison.take.end_s, one.span.end_s)};
    Comparing(comparison, shortest_s).run();
    return comparison;
}

} // namespace wirenote
