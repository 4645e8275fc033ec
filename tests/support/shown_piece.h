// An invented piece in notes, and playings of its bars at other tempi and with other notes.
#pragma once

#include "piece/piece.h"
#include "support/pieces.h"

#include <algorithm>
#include <cstdint>
#include <functional>

namespace wirenote::test {

constexpr double kBar_s = 2.0;
constexpr int kNotesOfBar = 8;

// Bars that are unlike each other, the same for the same number: a line in eighths.
inline std::vector<Row> barRows(int bar, double at_s, double tempo = 1.0) {
    std::uint32_t state = 977U * (static_cast<std::uint32_t>(bar) + 3U);
    static constexpr int kScale[] = {52, 55, 57, 59, 62, 64, 67, 69, 71, 74};
    std::vector<Row> rows;
    const double step_s = kBar_s / kNotesOfBar / tempo;
    for (int i = 0; i < kNotesOfBar; ++i) {
        state = state * 1664525U + 1013904223U;
        const double on_s = at_s + i * step_s;
        rows.push_back({on_s, on_s + 0.9 * step_s, kScale[(state >> 16U) % 10U]});
    }
    return rows;
}

inline std::vector<Row> barsRows(int first, int count, double at_s, double tempo = 1.0) {
    std::vector<Row> rows;
    for (int b = 0; b < count; ++b)
        for (const Row& row : barRows(first + b, at_s + b * kBar_s / tempo, tempo))
            rows.push_back(row);
    return rows;
}

inline TimeRange spanOf(const std::vector<Row>& rows) {
    return {rows.front().start_s - 0.05, rows.back().end_s + 0.05};
}

// A recording in which these are played one after the other, talk between them.
class Recorded {
  public:
    Recorded& play(const std::vector<Row>& rows) {
        if (!m_take.sound_spans.empty())
            m_take.sound_spans.push_back(
                {{m_take.sound_spans.back().span.end_s, spanOf(rows).start_s},
                 SoundKind::Talk,
                 0.99});
        m_take.sound_spans.push_back({spanOf(rows), SoundKind::Playing, 0.99});
        m_rows.insert(m_rows.end(), rows.begin(), rows.end());
        return *this;
    }
    double end_s() const {
        return m_take.sound_spans.empty() ? 0.0 : m_take.sound_spans.back().span.end_s;
    }
    // As the leading take of a piece.
    Piece lead() const {
        Piece piece = pieceOf(m_rows);
        piece.takes = {take()};
        return piece;
    }
    // As another take.
    Take other() const {
        Take other = take();
        for (const Row& row : m_rows)
            other.notes.push_back({{row.start_s, row.end_s}, row.midi, 0.95, row.techniques});
        return other;
    }

  private:
    Take take() const {
        Take take = m_take;
        take.name = "take";
        take.length_s = end_s() + 1.0;
        return take;
    }

    std::vector<Row> m_rows;
    Take m_take;
};

} // namespace wirenote::test
