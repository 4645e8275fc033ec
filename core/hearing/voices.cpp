#include "hearing/voices.h"

#include <algorithm>
#include <array>
#include <limits>

namespace wirenote {
namespace {

constexpr double kForever_s = std::numeric_limits<double>::max();

// A knock, a click or a shout says nothing.
bool speaks(const ChordEvent& event, const VoiceParameters& p) {
    return !event.notes.empty() && event.flatness < p.noisy;
}

// What each attack says for several voices.
std::vector<double> witnesses(const std::vector<ChordEvent>& events, const VoiceParameters& p) {
    std::vector<double> said;
    std::vector<const ChordNote*> before;
    for (const ChordEvent& event : events) {
        if (!speaks(event, p)) {
            said.push_back(0.0);
            continue;
        }
        std::erase_if(
            before, [&](const ChordNote* n) { return n->offset_s < event.onset_s + p.ringing_s; });
        const bool over_ringing = std::ranges::any_of(before, [&event](const ChordNote* n) {
            return std::ranges::none_of(event.notes,
                                        [n](const ChordNote& now) { return now.midi == n->midi; });
        });
        for (const ChordNote& note : event.notes)
            before.push_back(&note);
        said.push_back(beginsUnrelated(event, p.believed) ? p.unrelated
                       : over_ringing                     ? p.over_ringing
                                                          : p.alone);
    }
    return said;
}

} // namespace

bool unrelated(int midi_a, int midi_b) {
    return midi_a != midi_b && !sharesPartials(std::min(midi_a, midi_b), std::max(midi_a, midi_b));
}

bool beginsUnrelated(const ChordEvent& event, double least_probability) {
    for (const ChordNote& a : event.notes)
        for (const ChordNote& b : event.notes)
            if (unrelated(a.midi, b.midi) &&
                std::min(a.probability, b.probability) >= least_probability)
                return true;
    return false;
}

std::vector<VoiceSpan> voiceSpans(const std::vector<ChordEvent>& events,
                                  const Instrument& instrument,
                                  const VoiceParameters& p) {
    if (instrument.isBass() || events.empty())
        return {{{0.0, kForever_s}, Voices::Line}};
    const auto said = witnesses(events, p);
    // Scores of being a line [0] or several voices [1] up to each attack, and where they came from.
    std::array<double, 2> score{0.0, 0.0};
    std::vector<std::array<int, 2>> from;
    double last_s = events.front().onset_s; // what spoke
    for (std::size_t i = 0; i < said.size(); ++i) {
        const double w = said[i];
        const bool paused = speaks(events[i], p) && events[i].onset_s - last_s > p.pause_s;
        last_s = speaks(events[i], p) ? events[i].onset_s : last_s;
        const double change = paused ? p.change_paused : p.change;
        const std::array<double, 2> last = score;
        std::array<int, 2> came{0, 1};
        for (const int now : {0, 1}) {
            const auto n = static_cast<std::size_t>(now);
            if (last[1 - n] - change > last[n])
                came[n] = 1 - now;
            score[n] = std::max(last[n], last[1 - n] - change) + (now == 1 ? 0.5 : -0.5) * w;
        }
        from.push_back(came);
    }
    std::vector<int> course(events.size());
    int now = score[1] > score[0] ? 1 : 0;
    for (std::size_t i = events.size(); i-- > 0;) {
        course[i] = now;
        now = from[i][static_cast<std::size_t>(now)];
    }
    std::vector<VoiceSpan> spans;
    for (std::size_t i = 0; i < events.size(); ++i) {
        const Voices voices = course[i] == 1 ? Voices::Several : Voices::Line;
        if (spans.empty() || spans.back().voices != voices) {
            const double start_s = spans.empty() ? 0.0 : events[i].onset_s - 0.03;
            if (!spans.empty())
                spans.back().span.end_s = start_s;
            spans.push_back({{start_s, kForever_s}, voices});
        }
    }
    return spans;
}

} // namespace wirenote
