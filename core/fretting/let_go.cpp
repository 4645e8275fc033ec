#include "fretting/let_go.h"

#include "hand/hand_shapes.h"
#include "piece/one_stroke.h"

#include <algorithm>

namespace wirenote {
namespace {

class Sounding {
  public:
    Sounding(const Instrument& instrument, const Rows& rows)
        : m_instrument(instrument), m_rows(rows) {
        for (const auto& [note, plan] : rows)
            m_ends_s.push_back(note.offset_s());
    }

    std::vector<double> run() {
        for (const IndexSpan& stroke : strokeSpans(m_rows.notes())) {
            m_now_s = m_rows[stroke.first].note.onset_s();
            std::erase_if(m_held, [this](std::size_t i) { return m_ends_s[i] <= m_now_s; });
            for (std::size_t j = stroke.first; j < stroke.end; ++j)
                if (m_rows[j].plan.placed() && m_rows[j].note.pitched()) {
                    begin(j);
                    for (std::size_t grace = stroke.first; grace < j; ++grace)
                        if (place(grace).string == place(j).string)
                            end(grace);
                }
            for (std::size_t j = stroke.first; j < stroke.end; ++j)
                if (m_rows[j].plan.placed()) {
                    m_held.push_back(j);
                    clearBarres(stroke.first);
                }
        }
        return std::move(m_ends_s);
    }

  private:
    const Position& place(std::size_t i) const { return m_rows[i].plan.position.value; }
    Finger finger(std::size_t i) const { return m_rows[i].plan.finger.value; }

    void end(std::size_t i) {
        if (!m_rows[i].note.time.isSet())
            m_ends_s[i] = std::min(m_ends_s[i], m_now_s);
    }

    void begin(std::size_t j) {
        m_now_s = m_rows[j].note.onset_s();
        for (const std::size_t i : m_held)
            if (place(i).string == place(j).string ||
                (m_rows[i].note.pitched() &&
                 !heldTogether(m_instrument, {place(i), finger(i)}, {place(j), finger(j)})))
                end(i);
    }

    // An open string and the two ends of a barre over it: what began first ends.
    void clearBarres(std::size_t first_of_stroke) {
        const auto sounds = [this](std::size_t i) { return m_ends_s[i] > m_now_s; };
        for (const std::size_t open : m_held) {
            if (place(open).fret != 0 || !sounds(open))
                continue;
            for (const std::size_t thin : m_held)
                for (const std::size_t thick : m_held) {
                    if (place(thin).fret == 0 || finger(thin) != finger(thick) ||
                        place(thin).string >= place(open).string ||
                        place(thick).string <= place(open).string || !sounds(thin) ||
                        !sounds(thick))
                        continue;
                    if (open < first_of_stroke)
                        end(open);
                    else
                        end(std::min(thin, thick));
                }
        }
    }

    const Instrument& m_instrument;
    const Rows& m_rows;
    std::vector<double> m_ends_s;
    std::vector<std::size_t> m_held; // notes that sound
    double m_now_s = 0.0;
};

} // namespace

std::vector<double> endsOnStrings(const Instrument& instrument, const Rows& rows) {
    return Sounding(instrument, rows).run();
}

} // namespace wirenote
