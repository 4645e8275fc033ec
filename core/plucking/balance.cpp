#include "plucking/balance.h"

#include "base/interpolate.h"
#include "base/median.h"
#include "plucking/attacks.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

namespace wirenote {
namespace {

constexpr std::size_t kFewestNotes = 6;  // of each side
constexpr std::size_t kFewestBars = 4;   // in which a count is struck
constexpr double kLoudCount_db = 1.5;    // less is nothing to speak of
constexpr double kLoudMostly = 0.75;     // of its times
constexpr double kEcho_db = 3.0;         // softer
constexpr int kEchoWithin = 8;           // bars
constexpr std::size_t kFewestOfEcho = 3; // attacks
constexpr std::size_t kAbout = 8;        // attacks on either side
constexpr std::size_t kFewestAbout = 4;  // of them alike
constexpr std::size_t kManyStrings = 3;  // a strum; more make it no louder

// One attack as far as loudness goes.
struct Struck {
    std::vector<std::size_t> notes;
    double loudness_db = 0.0; // of its loudest note
    int bar = 0;
    int half_beat = 0; // within the bar
};

std::vector<Struck> struckOf(const Piece& piece, const Rows& rows) {
    std::vector<Struck> all;
    const auto& beats_s = piece.timeline.beats_s;
    const BarGrid grid(piece.timeline);
    for (Attack& attack : attacksOf(rows.notes())) {
        Struck one{std::move(attack.notes), -300.0, 0, 0};
        for (const std::size_t n : one.notes)
            one.loudness_db = std::max(one.loudness_db, rows[n].note.loudness_db);
        if (beats_s.size() >= 2) {
            const auto halves =
                static_cast<int>(std::lround(2.0 * placeAmong(beats_s, attack.onset_s)));
            const int beat = halves >= 0 ? halves / 2 : (halves - 1) / 2;
            const auto place = grid.at(beat);
            one.bar = place.bar;
            one.half_beat = 2 * place.beat + halves - 2 * beat;
        }
        if (!rows[one.notes.front()].note.has(Technique::GhostStroke))
            all.push_back(std::move(one));
    }
    return all;
}

std::optional<double> difference(std::vector<double> louder, std::vector<double> than) {
    if (louder.size() < kFewestNotes || than.size() < kFewestNotes)
        return std::nullopt;
    return *median(louder) - *median(than);
}

void addHands(const Rows& rows, Balance& balance) {
    std::vector<double> thumb;
    std::vector<double> fingers;
    std::vector<double> pick;
    for (const auto& [note, plan] : rows) {
        const Stroke stroke = plan.stroke.value;
        if (stroke == Stroke::P)
            thumb.push_back(note.loudness_db);
        else if (stroke > Stroke::P && stroke <= Stroke::C)
            fingers.push_back(note.loudness_db);
        else if (stroke == Stroke::Down || stroke == Stroke::Up)
            pick.push_back(note.loudness_db);
    }
    balance.fingers_over_thumb_db = difference(fingers, std::move(thumb));
    balance.fingers_over_pick_db = difference(std::move(fingers), std::move(pick));
}

// Where two and more notes sound at once: the highest when it begins is the tune's. A strum is one
// voice.
void addTune(const Rows& rows, const std::vector<Struck>& struck, Balance& balance) {
    std::vector<double> tune;
    std::vector<double> rest;
    double until_s = -1.0; // how long what was last above sounds
    int above = 0;
    double below_until_s = -1.0;
    for (const Struck& one : struck) {
        if (one.notes.size() >= kManyStrings)
            continue;
        const auto highest = *std::ranges::max_element(
            one.notes, {}, [&rows](std::size_t n) { return rows[n].note.midi(); });
        const Note& top = rows[highest].note;
        const bool under = top.onset_s() < until_s && top.midi() < above;
        const bool over = one.notes.size() > 1 || top.onset_s() < below_until_s;
        for (const std::size_t n : one.notes) {
            const Note& note = rows[n].note;
            if (n != highest || under) {
                rest.push_back(note.loudness_db);
                below_until_s = std::max(below_until_s, note.offset_s());
            } else if (over) {
                tune.push_back(note.loudness_db);
            }
        }
        if (!under) {
            until_s = top.offset_s();
            above = top.midi();
        }
    }
    balance.tune_over_rest_db = difference(std::move(tune), std::move(rest));
}

void addCounts(const std::vector<Struck>& struck, Balance& balance) {
    std::map<int, std::vector<double>> of_bar;
    for (const Struck& one : struck)
        of_bar[one.bar].push_back(one.loudness_db);
    std::map<int, double> middle;
    for (auto& [bar, levels] : of_bar)
        middle[bar] = *median(levels);
    std::map<int, std::vector<double>> of_count;
    for (const Struck& one : struck)
        of_count[one.half_beat].push_back(one.loudness_db - middle[one.bar]);
    for (auto& [half_beat, above] : of_count) {
        const auto times = static_cast<double>(above.size());
        const auto louder = static_cast<double>(
            std::ranges::count_if(above, [](double db) { return db > kLoudCount_db / 2.0; }));
        if (above.size() < kFewestBars || louder < kLoudMostly * times)
            continue;
        if (const double db = *median(above); db >= kLoudCount_db)
            balance.counts.push_back(
                {half_beat / 2, half_beat % 2, static_cast<int>(above.size()), db});
    }
    std::ranges::stable_sort(balance.counts, std::ranges::greater{}, &LoudCount::above_db);
}

void addEchoes(const Rows& rows, const std::vector<Struck>& struck, Balance& balance) {
    struct Bar {
        std::vector<std::pair<int, int>> what; // half beat, highest pitch
        std::vector<double> levels;
    };
    std::map<int, Bar> bars;
    for (const Struck& one : struck) {
        int highest = 0;
        for (const std::size_t n : one.notes)
            highest = std::max(highest, rows[n].note.midi());
        bars[one.bar].what.emplace_back(one.half_beat, highest);
        bars[one.bar].levels.push_back(one.loudness_db);
    }
    for (const auto& [number, bar] : bars)
        for (int of = number - 1; of >= number - kEchoWithin && bar.what.size() >= kFewestOfEcho;
             --of) {
            const auto said = bars.find(of);
            if (said == bars.end() || said->second.what != bar.what)
                continue;
            std::vector<double> softer;
            for (std::size_t i = 0; i < bar.levels.size(); ++i)
                softer.push_back(said->second.levels[i] - bar.levels[i]);
            if (const double db = *median(softer); db >= kEcho_db)
                balance.echoes.push_back({number, of, db});
            break; // the nearest that says it
        }
}

bool hasDynamic(const Piece& piece, double from_s, double to_s) {
    return std::ranges::any_of(piece.marks, [=](const SheetMark& mark) {
        return mark.kind == MarkKind::Dynamic && mark.at_s >= from_s && mark.at_s < to_s;
    });
}

void addDynamics(const Piece& piece,
                 const Rows& rows,
                 const std::vector<Struck>& struck,
                 Balance& balance) {
    constexpr double kBefore_s = 0.05;
    std::map<int, double> begins_s; // bars in which something is struck
    for (const Struck& one : struck)
        begins_s.emplace(one.bar, rows[one.notes.front()].note.onset_s());
    std::map<int, std::string> levels;
    for (const Echo& echo : balance.echoes)
        levels[echo.bar] = "p";
    for (const Echo& echo : balance.echoes) {
        const std::string loud = echo.softer_db >= kMuchSofter_db ? "f" : "mf";
        levels.emplace(echo.of, loud);
        if (const auto after = begins_s.upper_bound(echo.bar); after != begins_s.end())
            levels.emplace(after->first, loud);
    }
    std::string now;
    for (const auto& [bar, level] : levels) {
        const auto begin = begins_s.find(bar);
        const auto next = std::next(begin);
        const double end_s = next == begins_s.end() ? kLongestPiece_s : next->second;
        if (level != now && !hasDynamic(piece, begin->second - kBefore_s, end_s - kBefore_s))
            balance.dynamics.push_back({MarkKind::Dynamic, begin->second, begin->second, level});
        now = level;
    }
}

void addAccents(const Rows& rows, const std::vector<Struck>& struck, Balance& balance) {
    const auto size = [&struck](std::size_t i) {
        return std::min(kManyStrings, struck[i].notes.size());
    };
    for (std::size_t i = 0; i < struck.size(); ++i) {
        std::vector<double> about;
        for (std::size_t k = i > kAbout ? i - kAbout : 0;
             k < std::min(struck.size(), i + kAbout + 1);
             ++k)
            if (k != i && size(k) == size(i))
                about.push_back(struck[k].loudness_db);
        const bool marked = std::ranges::any_of(struck[i].notes, [&rows](std::size_t n) {
            return rows[n].note.has(Technique::Accent);
        });
        if (!marked && about.size() >= kFewestAbout &&
            struck[i].loudness_db >= *median(about) + kStandsOut_db)
            balance.accents.push_back(rows[struck[i].notes.front()].note.id);
    }
}

} // namespace

Balance balanceOf(const Piece& piece, std::size_t reading) {
    const Rows rows = piece.rows(reading);
    const auto struck = struckOf(piece, rows);
    Balance balance;
    addHands(rows, balance);
    addTune(rows, struck, balance);
    if (piece.timeline.beats_s.size() >= 2) {
        addCounts(struck, balance);
        addEchoes(rows, struck, balance);
        addDynamics(piece, rows, struck, balance);
    }
    addAccents(rows, struck, balance);
    return balance;
}

} // namespace wirenote
