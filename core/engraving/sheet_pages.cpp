#include "engraving/sheet_pages.h"

#include "engraving/block.h"
#include "engraving/breaking.h"
#include "engraving/head.h"
#include "engraving/notation_staff.h"
#include "engraving/rows.h"
#include "engraving/tab_staff.h"

#include <algorithm>

namespace wirenote {
namespace {

// A system as it will be put on a page: marks from its own top.
struct DrawnSystem {
    std::vector<Ink> ink;
    SystemPlace place; // by its own origin
    double height = 0.0;
    bool ends_with_rest = false;
};

class Layout {
  public:
    Layout(const Piece& piece, const Sheet& sheet)
        : m_piece(piece), m_sheet(sheet), m_m(measuresFor(piece.sheet.size)),
          m_clef(clefRoom(piece, m_m)) {}

    std::vector<SheetPage> run() {
        // A bar that is too wide for the paper, or a system that is too high, makes everything
        // smaller.
        constexpr int kTries = 10;
        for (int tries = 0;; ++tries) {
            setBars();
            setFrame();
            const bool wide = widest() > musicWidth() - m_clef;
            if (!wide || tries == kTries)
                drawSystems();
            if (tries == kTries || (!wide && highest() <= m_m.page_height - 2.0 * m_m.margin -
                                                              footHeight() - headHeight()))
                break;
            m_m.scale(0.87);
            m_clef = clefRoom(m_piece, m_m);
        }
        return pages();
    }

  private:
    double widest() const {
        double most = 0.0;
        for (const SetBar& bar : m_bars)
            most = std::max(most, bar.widthAt(0.0));
        return most;
    }

    double highest() const {
        double most = 0.0;
        for (std::size_t s = 0; s < m_systems.size(); ++s)
            most = std::max(most, m_systems[s].height);
        return most;
    }

    double textWidthOfPage() const { return m_m.page_width - 2.0 * m_m.margin; }
    // Head and foot in the measures that hold now.
    void setFrame() {
        m_feet = footLines(m_piece, m_sheet, m_m, textWidthOfPage());
        m_head = Block(m_m.page_width);
        drawHead(m_piece, m_sheet, m_m, textWidthOfPage(), m_head);
    }
    double footHeight() const {
        return 1.4 * m_m.foot * (1.0 + static_cast<double>(m_feet.size())) + 2.0;
    }
    double headHeight() const {
        double height = 0.0;
        for (const Ink& ink : m_head.ink())
            height = std::max(height, ink.box.bottom);
        return height + m_m.head_gap;
    }

    void setBars() {
        m_bars.clear();
        const RoomOfMarks room(m_piece, m_sheet, m_m);
        for (std::size_t b = 0; b < m_sheet.bars.size(); ++b) {
            const Score& score = m_sheet.score;
            const std::size_t at = m_sheet.bars[b].bar;
            const bool new_metre =
                b == 0 || score.bars[at].metre != score.bars[m_sheet.bars[b - 1].bar].metre;
            m_bars.push_back(room.set(m_sheet.bars[b], new_metre));
        }
    }

    double left() const { return m_m.margin + m_m.left_margin; }
    double musicWidth() const { return m_m.page_width - m_m.margin - left(); }

    void drawSystems() {
        m_systems.clear();
        const double room = musicWidth() - m_clef;
        const auto firsts = breakLines(m_bars, room, room, m_m);
        for (std::size_t s = 0; s < firsts.size(); ++s) {
            const std::size_t from = firsts[s];
            const std::size_t to = s + 1 < firsts.size() ? firsts[s + 1] : m_bars.size();
            double spread = spreadFor(m_bars, from, to, room);
            if (to == m_bars.size()) // the last line is not pulled apart
                spread = std::min(spread, firsts.size() == 1 ? m_m.loosest : 1.1);
            double x = m_clef;
            for (std::size_t b = from; b < to; ++b) {
                m_bars[b].place(x, spread);
                x += m_bars[b].width;
            }
            m_systems.push_back(drawSystem(from, to, x));
        }
    }

    DrawnSystem drawSystem(std::size_t from, std::size_t to, double width) {
        SystemContext system{m_piece,
                             m_sheet,
                             m_m,
                             {m_bars.begin() + static_cast<std::ptrdiff_t>(from),
                              m_bars.begin() + static_cast<std::ptrdiff_t>(to)},
                             width,
                             from == 0,
                             to == m_bars.size()};
        Block tab(width);
        const bool notation = m_piece.sheet.staves == SheetStaves::TabAndStaff;
        drawTabStaff(system, tab, !notation);
        if (m_piece.sheet.techniques)
            drawTechniques(system, tab);
        drawRowsUnder(system, tab);
        Block staff(width);
        double down = 0.0;
        if (notation) {
            drawNotationStaff(system, staff);
            down = std::max(4.0 * m_m.space + m_m.staves_gap,
                            tab.skyline().clearBelow(staff.skyline(), m_m.staves_gap));
        }
        drawRowsOver(system, notation ? staff : tab);
        tab.moveBy(0.0, down);
        if (notation) // one bracket holds both
            staff.line(Sign::Brace, {0.0, 0.0, 0.0, down + system.tabHeight(), 0.3, false});
        return join(system, staff, tab, down);
    }

    DrawnSystem join(const SystemContext& system, Block& staff, Block& tab, double tab_top) const {
        DrawnSystem drawn;
        drawn.ink = std::move(staff.ink());
        drawn.ink.insert(drawn.ink.end(),
                         std::make_move_iterator(tab.ink().begin()),
                         std::make_move_iterator(tab.ink().end()));
        double top = 0.0;
        double bottom = 0.0;
        for (const Ink& ink : drawn.ink) {
            top = std::min(top, ink.box.top);
            bottom = std::max(bottom, ink.box.bottom);
        }
        for (Ink& ink : drawn.ink)
            move(ink, 0.0, -top);
        drawn.height = bottom - top;
        drawn.place.box = {0.0, 0.0, system.width, drawn.height};
        drawn.place.staff_top = tab_top - top;
        drawn.place.staff_bottom = tab_top + system.tabHeight() - top;
        drawn.place.line_gap = m_m.line_gap;
        for (const SetBar& bar : system.bars) {
            addPlaces(bar, *bar.bar, drawn.place.bars);
            for (const std::size_t again : bar.print.also)
                addPlaces(bar, m_sheet.score.bars[again], drawn.place.bars);
        }
        const Bar& last = *system.bars.back().bar;
        drawn.ends_with_rest =
            last.values.back().rest() && (last.lower.empty() || last.lower.back().rest());
        return drawn;
    }

    // `played`: the bar that is printed, or one that is written alike. A cell has a place for each
    // time it is played.
    static void addPlaces(const SetBar& bar, const Bar& played, std::vector<BarPlace>& places) {
        const Rational length = bar.print.shown(played);
        for (int k = 0; k < bar.print.cells; ++k) {
            const Rational start = played.start + Rational(k) * length;
            BarPlace place{start, start + length, bar.x, bar.x + bar.width, {}};
            for (const Column& column : bar.columns)
                place.moments.push_back({column.at - bar.bar->start + start, column.x});
            place.moments.push_back({place.end, place.right});
            places.push_back(std::move(place));
        }
    }

    std::vector<SheetPage> pages() {
        const double head_height = headHeight();
        const double foot = footHeight();
        const double room = m_m.page_height - 2.0 * m_m.margin - foot;
        std::vector<SystemHeight> heights;
        for (const DrawnSystem& system : m_systems)
            heights.push_back({system.height, system.ends_with_rest});
        const auto firsts = breakPages(heights,
                                       room - head_height,
                                       room,
                                       m_m.system_gap,
                                       m_piece.sheet.size == SheetSize::Screen);
        std::vector<SheetPage> out;
        for (std::size_t p = 0; p < firsts.size(); ++p) {
            const std::size_t to = p + 1 < firsts.size() ? firsts[p + 1] : m_systems.size();
            SheetPage page;
            page.width = m_m.page_width;
            page.height = m_m.page_height;
            double y = m_m.margin;
            if (p == 0) {
                m_head.moveBy(m_m.margin, m_m.margin);
                page.ink = m_head.ink();
                y += head_height;
            }
            fill(page, firsts[p], to, y, m_m.page_height - m_m.margin - foot);
            out.push_back(std::move(page));
        }
        for (std::size_t p = 0; p < out.size(); ++p)
            footOf(out[p], p, out.size());
        return out;
    }

    // Systems share what room is left, up to a point.
    void fill(SheetPage& page, std::size_t from, std::size_t to, double y, double bottom) {
        double used = 0.0;
        for (std::size_t s = from; s < to; ++s)
            used += m_systems[s].height;
        const double gaps = static_cast<double>(std::max<std::size_t>(1, to - from - 1));
        const double gap =
            std::clamp((bottom - y - used) / gaps,
                       m_m.system_gap,
                       to == m_systems.size() ? 1.3 * m_m.system_gap : m_m.system_gap_most);
        for (std::size_t s = from; s < to; ++s) {
            DrawnSystem& system = m_systems[s];
            for (Ink& ink : system.ink) {
                move(ink, left(), y);
                page.ink.push_back(std::move(ink));
            }
            SystemPlace place = system.place;
            place.box = {left(), y, left() + place.box.right, y + system.height};
            place.staff_top += y;
            place.staff_bottom += y;
            for (BarPlace& bar : place.bars) {
                bar.left += left();
                bar.right += left();
                for (Moment& moment : bar.moments)
                    moment.x += left();
            }
            page.systems.push_back(std::move(place));
            y += system.height + gap;
        }
    }

    void footOf(SheetPage& page, std::size_t number, std::size_t pages) const {
        Block foot(m_m.page_width);
        double y = m_m.page_height - m_m.margin;
        foot.text(Sign::Foot,
                  (m_piece.title_guessed ? "" : m_piece.title + " · ") +
                      std::to_string(number + 1) + " / " + std::to_string(pages),
                  m_m.page_width / 2.0,
                  y,
                  m_m.foot);
        if (number + 1 == pages)
            for (auto line = m_feet.rbegin(); line != m_feet.rend(); ++line) {
                y -= 1.4 * m_m.foot;
                foot.text(Sign::Foot, *line, m_m.page_width / 2.0, y - 1.0, m_m.foot);
            }
        page.ink.insert(page.ink.end(), foot.ink().begin(), foot.ink().end());
    }

    const Piece& m_piece;
    const Sheet& m_sheet;
    Measures m_m;
    double m_clef;
    Block m_head{1.0};
    std::vector<std::string> m_feet;
    std::vector<SetBar> m_bars;
    std::vector<DrawnSystem> m_systems;
};

} // namespace

std::vector<SheetPage> layOutSheet(const Piece& piece, const Sheet& sheet) {
    return Layout(piece, sheet).run();
}

} // namespace wirenote
