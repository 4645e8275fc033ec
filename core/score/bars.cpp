#include "score/bars.h"

#include "piece/timeline.h"
#include "score/beams.h"
#include "score/voices.h"

#include <algorithm>
#include <array>
#include <map>

namespace wirenote {
namespace {

struct Shape {
    Rational length;
    NoteType type;
    int dots;
    int actual; // of a tuplet; 1 for none
    int normal;
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
                list.push_back({length * Rational(3, 2), type, 1, 1, 1});
            list.push_back({length, type, 0, 1, 1});
            if (type != NoteType::Whole) {
                list.push_back({length * Rational(2, 3), type, 0, 3, 2});
                list.push_back({length * Rational(4, 5), type, 0, 5, 4});
                list.push_back({length * Rational(6, 5), type, 1, 5, 4});
            }
            length = length / Rational(2);
        }
        std::sort(list.begin(), list.end(), [](const Shape& a, const Shape& b) {
            return a.length > b.length;
        });
        return list;
    }();
    return all;
}

// The tuplet a place belongs to: 3, 5, or 1 for none.
int tupletOf(Rational t) {
    return t.den() % 5 == 0 ? 5 : t.den() % 3 == 0 ? 3 : 1;
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
    if (tupletOf(from) == 1 && next_beat - from == beat / Rational(2) &&
        to == next_beat + beat / Rational(2))
        return to;
    return next_beat;
}

class BarWriter {
  public:
    BarWriter(const Bar& bar, std::vector<Value>& values, Rational beat)
        : m_values(values), m_beat(beat), m_offset(bar.metre.barLength() - bar.length) {}

    // Appends values from `from` to `to`; returns nothing but keeps ties between them.
    void rest(Rational from, Rational to) { append(from, to, {}, {}, false, false); }
    void append(Rational from,
                Rational to,
                const std::vector<std::size_t>& notes,
                const std::vector<std::size_t>& graces,
                bool tied_in,
                bool tied_out) {
        while (from < to) {
            // A pick-up counts its beats from the bar line it leads to.
            const Rational end = breakAfter(from + m_offset, to + m_offset, m_beat) - m_offset;
            const Shape shape = longestFitting(from + m_offset, end + m_offset);
            Value value;
            value.start = from;
            value.length = shape.length;
            value.type = shape.type;
            value.dots = shape.dots;
            value.actual = shape.actual;
            value.normal = shape.normal;
            value.notes = notes;
            const bool last = from + shape.length >= to;
            if (!notes.empty()) {
                if (!tied_in)
                    value.graces = graces;
                value.tied_from_before = tied_in;
                value.tied_to_next = !last || tied_out;
                tied_in = true;
            }
            m_values.push_back(value);
            from += shape.length;
        }
    }

  private:
    static Shape longestFitting(Rational from, Rational end) {
        const Rational room = end - from;
        const int tuplet = std::max(tupletOf(from), tupletOf(end));
        for (const Shape& shape : shapes())
            if (shape.length <= room && shape.actual == tuplet && isWritable(from, shape))
                return shape;
        return {room, NoteType::ThirtySecond, 0, 1, 1}; // no division of ours comes here
    }

    // After a tuplet's value the rest of the beat must still be writable in its parts.
    static bool isWritable(Rational from, const Shape& shape) {
        return shape.actual == 1 || ((from + shape.length) * Rational(shape.actual)).den() <=
                                        (shape.actual == 3 ? 2 : 1);
    }

    std::vector<Value>& m_values;
    Rational m_beat;
    Rational m_offset; // what is missing at the front of the bar
};

struct Group {
    Rational start;
    Rational end;
    std::vector<std::size_t> notes;
    std::vector<std::size_t> graces;
};

std::vector<Group> groupsOf(const std::vector<ScoreNote>& notes) {
    std::map<Rational, Group> by_start;
    for (const ScoreNote& n : notes) {
        Group& group = by_start[n.start];
        const Rational end = n.start + n.length;
        if (n.grace) {
            group.graces.push_back(n.index);
            group.start = n.start;
            continue;
        }
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

using Groups = std::vector<Group>;

// What one voice plays of the quantised notes, lengths up to its own next note.
std::vector<ScoreNote> ofVoice(const std::vector<ScoreNote>& notes,
                               const std::vector<VoiceOfNote>& voices,
                               Voice voice,
                               const BarGrid& grid) {
    std::vector<ScoreNote> own;
    for (const ScoreNote& note : notes)
        if (voices[note.index].voice == voice)
            own.push_back(note);
    for (std::size_t i = 0; i < own.size(); ++i) {
        if (own[i].grace)
            continue;
        const auto next =
            std::find_if(own.begin() + static_cast<std::ptrdiff_t>(i),
                         own.end(),
                         [&](const ScoreNote& n) { return !n.grace && n.start > own[i].start; });
        own[i].length = writtenLength(own[i],
                                      next != own.end() ? std::optional(next->start) : std::nullopt,
                                      grid.barAt(own[i].start).metre.barLength());
    }
    return own;
}

// Graces that lead to nothing of their own voice are written before what begins there in the other.
void giveGracesAway(Groups& from, Groups& to) {
    std::erase_if(from, [&](Group& group) {
        if (!group.notes.empty())
            return false;
        const auto there = std::ranges::find(to, group.start, &Group::start);
        if (there != to.end())
            there->graces.insert(there->graces.end(), group.graces.begin(), group.graces.end());
        return there != to.end();
    });
}

// One voice through all bars.
void fill(std::vector<Bar>& bars, std::vector<Value> Bar::*voice, const Groups& groups) {
    std::size_t g = 0;
    for (Bar& bar : bars) {
        BarWriter writer(bar, bar.*voice, bar.metre.beatLength());
        Rational at = 0;
        while (at < bar.length) {
            while (g < groups.size() && groups[g].end <= bar.start + at)
                ++g;
            if (g == groups.size() || groups[g].start >= bar.start + bar.length) {
                writer.rest(at, bar.length);
                break;
            }
            const Group& group = groups[g];
            const Rational from = std::max(group.start - bar.start, at);
            writer.rest(at, from);
            const Rational to = std::min(group.end - bar.start, bar.length);
            const bool tied_in = group.start < bar.start + from;
            const bool tied_out = group.end > bar.start + to;
            writer.append(from, to, group.notes, group.graces, tied_in, tied_out);
            at = to;
        }
        groupValues(bar, bar.*voice);
    }
}

// Empty bars from the first that sounds (bar 1 at the latest) to the last.
std::vector<Bar> barsFrom(const BarGrid& grid, Rational start, Rational end) {
    std::vector<Bar> bars;
    const int first = std::min(1, grid.barAt(start).number);
    int last = grid.barAt(end).number;
    if (grid.bar(last).start == end && last > first)
        --last;
    for (int b = first; b <= last; ++b) {
        const GridBar bar = grid.bar(b);
        bars.push_back({b, bar.metre, bar.start, bar.metre.barLength(), {}, {}});
    }
    // A pick-up bar begins with its first note.
    if (Bar& bar = bars.front(); bar.number < 1 && start > bar.start) {
        bar.length = bar.length - (start - bar.start);
        bar.start = start;
    }
    return bars;
}

} // namespace

Score writeScore(const Piece& piece, WrittenVoices wish) {
    Score score{piece.timeline.metre, piece.key, piece.timeline.tempo_bpm, {}};
    const BarGrid grid(piece.timeline);
    const Quantised quantised = quantise(piece);
    Groups upper;
    Groups lower;
    const auto voices = wish == WrittenVoices::One ? std::vector<VoiceOfNote>{} : voicesOf(piece);
    if (wish == WrittenVoices::One || !needsTwoVoices(piece, quantised, voices)) {
        upper = groupsOf(quantised.notes);
    } else {
        upper = groupsOf(ofVoice(quantised.notes, voices, Voice::Upper, grid));
        lower = groupsOf(ofVoice(quantised.notes, voices, Voice::Lower, grid));
        giveGracesAway(upper, lower);
        giveGracesAway(lower, upper);
    }
    if (upper.empty() && lower.empty()) {
        const GridBar bar = grid.bar(1);
        score.bars.push_back({1, bar.metre, bar.start, bar.metre.barLength(), {}, {}});
        fill(score.bars, &Bar::values, upper);
        return score;
    }
    const auto first = [](const Groups& a, const Groups& b) {
        return a.empty()   ? b.front().start
               : b.empty() ? a.front().start
                           : std::min(a.front().start, b.front().start);
    };
    const auto last = [](const Groups& a, const Groups& b) {
        return a.empty()   ? b.back().end
               : b.empty() ? a.back().end
                           : std::max(a.back().end, b.back().end);
    };
    score.bars = barsFrom(grid, first(upper, lower), last(upper, lower));
    fill(score.bars, &Bar::values, upper);
    if (!lower.empty())
        fill(score.bars, &Bar::lower, lower);
    for (Bar& bar : score.bars)
        if (std::ranges::all_of(bar.lower, &Value::rest))
            bar.lower.clear();
    return score;
}

} // namespace wirenote
