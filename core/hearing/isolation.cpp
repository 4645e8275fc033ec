#include "hearing/isolation.h"

#include "music/pitch.h"
#include "music/string_physics.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace wirenote {

// One sounding note's partials in a frame.
struct NoteMask::Comb {
    struct Tooth {
        double bin = 0.0;
        double half_bins = 2.0;
        double power = 0.0;
        bool free = true; // no other note's partial is near
    };
    std::vector<Tooth> teeth; // rising
    bool chosen = false;
    const Tooth* near(const Tooth& other) const; // one that meets it, or null
    std::optional<double> expected(std::size_t tooth) const;
};

namespace {

double deviationAt(const Note& note, double time_s) {
    if (note.curve.empty())
        return 0.0;
    const auto next = std::ranges::lower_bound(note.curve, time_s, {}, &PitchPoint::time_s);
    if (next == note.curve.begin())
        return next->dev_cents;
    if (next == note.curve.end())
        return note.curve.back().dev_cents;
    const auto before = next - 1;
    const double way = (time_s - before->time_s) / std::max(1e-6, next->time_s - before->time_s);
    return before->dev_cents + std::clamp(way, 0.0, 1.0) * (next->dev_cents - before->dev_cents);
}

bool pitched(const Note& note) {
    return !note.has(Technique::GhostStroke) && !note.has(Technique::Dead);
}

double strongestNear(std::span<const float> power, double bin) {
    double strongest = 0.0;
    for (const double b : {std::floor(bin), std::ceil(bin)})
        if (b >= 0.0 && b < static_cast<double>(power.size()))
            strongest =
                std::max(strongest, static_cast<double>(power[static_cast<std::size_t>(b)]));
    return strongest;
}

// The main lobe of a Hann window in power, 1 in the middle, nothing beyond half_bins.
double lobe(double off_bins, double half_bins) {
    if (std::abs(off_bins) >= half_bins)
        return 0.0;
    const double c = std::cos(0.5 * 3.14159265358979 * off_bins / half_bins);
    return c * c * c * c;
}

} // namespace

NoteMask::NoteMask(std::vector<Note> notes,
                   std::vector<bool> chosen,
                   double a4_hz,
                   double rate_hz,
                   int size,
                   const IsolationParameters& parameters)
    : m_notes(std::move(notes)), m_chosen(std::move(chosen)), m_a4_hz(a4_hz),
      m_bin_hz(rate_hz / size), m_p(parameters) {
    m_chosen.resize(m_notes.size(), false);
    for (const Note& note : m_notes)
        m_longest_s = std::max(m_longest_s, note.time.value.length_s());
}

std::vector<NoteMask::Comb> NoteMask::combsAt(double time_s, std::span<const float> power) const {
    std::vector<Comb> combs;
    const auto from =
        std::ranges::lower_bound(m_notes, time_s - m_longest_s - m_p.ring_s, {}, &Note::onset_s);
    for (auto note = from; note != m_notes.end() && note->onset_s() - m_p.before_s <= time_s;
         ++note) {
        if (time_s > note->offset_s() + m_p.ring_s || !pitched(*note))
            continue;
        Comb comb;
        comb.chosen = m_chosen[static_cast<std::size_t>(note - m_notes.begin())];
        const double f0 =
            hzFromMidi(note->pitch.value + deviationAt(*note, time_s) / 100.0, m_a4_hz);
        const double b = std::exp(note->heard().stiffness.told() ? note->heard().stiffness.log_b
                                                                 : m_p.usual_log_b);
        for (int n = 1; n <= m_p.most_partials; ++n) {
            const double hz = partial_hz(f0, b, n) / std::sqrt(1.0 + b); // f0 is what sounds
            const double bin = hz / m_bin_hz;
            if (hz > m_p.top_hz || bin + 1.0 >= static_cast<double>(power.size()))
                break;
            comb.teeth.push_back(
                {bin, m_p.lobe_bins + m_p.unsteady * bin, strongestNear(power, bin), true});
        }
        combs.push_back(std::move(comb));
    }
    return combs;
}

const NoteMask::Comb::Tooth* NoteMask::Comb::near(const Tooth& other) const {
    const auto at =
        std::ranges::lower_bound(teeth, other.bin - other.half_bins, {}, &Comb::Tooth::bin);
    return at != teeth.end() && at->bin <= other.bin + other.half_bins ? &*at : nullptr;
}

// What the free partials within four of this one let expect of it, in power; nothing without any.
std::optional<double> NoteMask::Comb::expected(std::size_t tooth) const {
    constexpr std::size_t kReach = 4;
    double log_power = 0.0;
    double weights = 0.0;
    const std::size_t from = tooth > kReach ? tooth - kReach : 0;
    for (std::size_t k = from; k < std::min(teeth.size(), tooth + kReach + 1); ++k) {
        if (!teeth[k].free || teeth[k].power <= 0.0)
            continue;
        const double away = static_cast<double>(k) - static_cast<double>(tooth);
        const double weight = 1.0 / (away * away);
        log_power += weight * std::log(teeth[k].power);
        weights += weight;
    }
    return weights > 0.0 ? std::optional(std::exp(log_power / weights)) : std::nullopt;
}

// Partials that meet another note's are given what the free ones beside them let expect; where all
// of a note's partials meet others', what those leave.
void NoteMask::weigh(std::vector<Comb>& combs) const {
    for (Comb& comb : combs)
        for (Comb::Tooth& tooth : comb.teeth)
            tooth.free = std::ranges::none_of(combs, [&](const Comb& other) {
                return &other != &comb && other.near(tooth) != nullptr;
            });
    std::vector<std::pair<Comb*, std::size_t>> hidden;
    for (Comb& comb : combs)
        for (std::size_t i = 0; i < comb.teeth.size(); ++i)
            if (!comb.teeth[i].free) {
                if (const auto expected = comb.expected(i))
                    comb.teeth[i].power = std::min(comb.teeth[i].power, *expected);
                else
                    hidden.emplace_back(&comb, i);
            }
    for (const auto& [comb, i] : hidden) {
        Comb::Tooth& tooth = comb->teeth[i];
        double others = 0.0;
        for (const Comb& other : combs)
            if (const Comb::Tooth* meeting = &other != comb ? other.near(tooth) : nullptr)
                others += meeting->power;
        // Two that hide each other share.
        tooth.power = std::max(0.25 * tooth.power, tooth.power - others);
    }
}

// How much of an attack is going on, 0..1 …
double NoteMask::beginsWith(double time_s, bool chosen_only) const {
    double begun = 0.0;
    const auto from = std::ranges::lower_bound(m_notes, time_s - m_p.attack_s, {}, &Note::onset_s);
    for (auto note = from; note != m_notes.end() && note->onset_s() - m_p.before_s <= time_s;
         ++note)
        if (!note->slurred() &&
            (!chosen_only || m_chosen[static_cast<std::size_t>(note - m_notes.begin())]))
            begun += 1.0;
    return begun;
}

void NoteMask::shares(double time_s, std::span<const float> power, std::span<float> share) const {
    std::vector<Comb> combs = combsAt(time_s, power);
    weigh(combs);
    std::vector<float> part(power.size(), 0.0F);
    std::vector<float> all(power.size(), 0.0F);
    for (const Comb& comb : combs)
        for (const Comb::Tooth& tooth : comb.teeth) {
            const auto first =
                static_cast<std::size_t>(std::max(0.0, std::ceil(tooth.bin - tooth.half_bins)));
            for (std::size_t b = first;
                 b < power.size() && static_cast<double>(b) < tooth.bin + tooth.half_bins;
                 ++b) {
                const auto p = static_cast<float>(
                    tooth.power * lobe(static_cast<double>(b) - tooth.bin, tooth.half_bins));
                all[b] += p;
                if (comb.chosen)
                    part[b] += p;
            }
        }
    const double begun = beginsWith(time_s, false);
    const double attack = begun > 0.0 ? beginsWith(time_s, true) / begun : 0.0;
    for (std::size_t b = 0; b < power.size(); ++b) {
        const double nobody = m_p.background * power[b] + 1e-20;
        const double total = all[b] + nobody;
        share[b] = static_cast<float>((part[b] + attack * nobody) / total);
    }
}

} // namespace wirenote
