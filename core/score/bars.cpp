#include "score/bars.h"

#include <algorithm>
#include <array>
#include <map>

namespace wirenote {
namespace {

struct Shape {
    Rational length;
    NoteType type;
    int dots;
    bool triplet;
};

// Every length one written value can have, longest first.
const std::vector<Shape>& shapes() {
    static const std::vector<Shape> all = [] {
        std::vector<Shape> list;
        Rational length = 4;
        for (const NoteType type : {NoteType::Whole,
                                    NoteType::Half,
                                    NoteType::Quarter,
                                    NoteType::Eighth,
                                    NoteType::Sixteenth,
                                    NoteType::ThirtySecond}) {
            if (type != NoteType::ThirtySecond)
                list.push_back({length * Rational(3, 2), type, 1, false});
            list.push_back({length, type, 0, false});
            if (type != NoteType::Whole)
                list.push_back({length * Rational(2, 3), type, 0, true});
            length = length / Rational(2);
        }
        std::sort(list.begin(), list.end(), [](const Shape& a, const Shape& b) {
            return a.length > b.length;
        });
        return list;
    }();
    return all;
}

bool isTripletTime(Rational t) {
    return t.den() % 3 == 0;
}

// Where a value that starts at `from` may end at the latest without hiding the beat: at the next
// beat when it starts off the beat, anywhere when it starts on one. In compound metres the beat is
// the dotted quarter.
Rational breakAfter(Rational from, Rational to, Rational beat) {
    const Rational next_beat = Rational((from / beat).floor() + 1) * beat;
    const bool on_beat = next_beat - from == beat;
    if (on_beat || to <= next_beat)
        return to;
    // Plain syncopation (eighth – quarter – eighth) is readable: half a beat in, at most to half a
    // beat past.
    if (!isTripletTime(from) && next_beat - from == beat / Rational(2) &&
        to == next_beat + beat / Rational(2))
        return to;
    return next_beat;
}

class BarWriter {
  public:
    BarWriter(Bar& bar, Rational beat) : m_bar(bar), m_beat(beat) {}

    // Appends values from `from` to `to`; returns nothing but keeps ties between them.
    void append(Rational from,
                Rational to,
                const std::vector<std::size_t>& notes,
                bool tied_in,
                bool tied_out) {
        while (from < to) {
            Rational end = breakAfter(from, to, m_beat);
            const Shape shape = longestFitting(from, end);
            Value value{
                from, shape.length, shape.type, shape.dots, shape.triplet, notes, false, false};
            const bool last = from + shape.length >= to;
            if (!notes.empty()) {
                value.tied_from_before = tied_in;
                value.tied_to_next = !last || tied_out;
                tied_in = true;
            }
            m_bar.values.push_back(value);
            from += shape.length;
        }
    }

  private:
    static Shape longestFitting(Rational from, Rational end) {
        const Rational room = end - from;
        const bool triplets = isTripletTime(from) || isTripletTime(end);
        for (const Shape& shape : shapes())
            if (shape.length <= room && shape.triplet == triplets &&
                isWritable(from, shape, triplets))
                return shape;
        return {room, NoteType::ThirtySecond, 0, triplets}; // no grid of ours comes here
    }

    // After a triplet value the rest of the beat must still be writable in triplets.
    static bool isWritable(Rational from, const Shape& shape, bool triplets) {
        return !triplets || ((from + shape.length) * Rational(3)).den() <= 2;
    }

    Bar& m_bar;
    Rational m_beat;
};

struct Group {
    Rational start;
    Rational end;
    std::vector<std::size_t> notes;
};

std::vector<Group> groupsOf(const std::vector<ScoreNote>& notes) {
    std::map<Rational, Group> by_start;
    for (const ScoreNote& n : notes) {
        Group& group = by_start[n.start];
        const Rational end = n.start + n.length;
        group.end = group.notes.empty() ? end : std::max(group.end, end);
        group.start = n.start;
        group.notes.push_back(n.index);
    }
    std::vector<Group> groups;
    for (auto& [start, group] : by_start)
        groups.push_back(std::move(group));
    for (std::size_t i = 0; i + 1 < groups.size(); ++i)
        groups[i].end = std::min(groups[i].end, groups[i + 1].start);
    return groups;
}

} // namespace

Score writeScore(const Piece& piece) {
    Score score{piece.timeline.metre, piece.key, piece.timeline.tempo_bpm, {}};
    const auto groups = groupsOf(quantise(piece));
    const Rational bar_length = score.metre.barLength();
    const Rational beat = score.metre.beatLength();
    if (groups.empty()) {
        score.bars.push_back({1, bar_length, {}});
        BarWriter(score.bars.back(), beat).append(0, bar_length, {}, false, false);
        return score;
    }
    const std::int64_t first =
        std::min<std::int64_t>(0, (groups.front().start / bar_length).floor());
    const Rational end = groups.back().end;
    std::int64_t last = (end / bar_length).floor();
    if (Rational(last) * bar_length == end && last > first)
        --last;
    for (std::int64_t b = first; b <= last; ++b)
        score.bars.push_back({static_cast<int>(b) + 1, bar_length, {}});

    std::size_t g = 0;
    for (Bar& bar : score.bars) {
        const Rational bar_start = Rational(bar.number - 1) * bar_length;
        BarWriter writer(bar, beat);
        Rational at = 0;
        while (at < bar_length) {
            while (g < groups.size() && groups[g].end <= bar_start + at)
                ++g;
            if (g == groups.size() || groups[g].start >= bar_start + bar_length) {
                writer.append(at, bar_length, {}, false, false);
                break;
            }
            const Rational from = std::max(groups[g].start - bar_start, at);
            writer.append(at, from, {}, false, false);
            const Rational to = std::min(groups[g].end - bar_start, bar_length);
            writer.append(from,
                          to,
                          groups[g].notes,
                          groups[g].start - bar_start<from, groups[g].end - bar_start> to);
            at = to;
        }
    }
    return score;
}

} // namespace wirenote
