#include "hearing/voice_notes.h"

#include "base/median.h"
#include "base/small_network.h"
#include "hearing/voice_weights.h"
#include "music/pitch.h"
#include "signal/fft.h"
#include "signal/hann.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr int kFft = 2048;
constexpr int kPartials = 6;
constexpr double kBefore_s = -0.05; // moments about an onset, as the middle of a frame
constexpr double kAt_s = 0.055;
constexpr double kSoon_s = 0.13;
constexpr double kLater_s = 0.24;
constexpr double kAbout_s = 4.0; // what is near a note
constexpr double kTogether_s = 0.05;
constexpr double kRatherAVoice = 0.5;

// The partials of a pitch at one moment.
struct Partials {
    double level_db = -120.0;
    double sharp_cents = 0.0; // how far its strongest peaks lie above the pitch
};

class Listening {
  public:
    Listening(SoundView sound, double a4_hz) : m_sound(sound), m_a4_hz(a4_hz), m_fft(kFft) {}

    Partials at(double time_s, double midi) {
        putHann(m_sound,
                static_cast<std::ptrdiff_t>(time_s * m_sound.rate_hz) - kFft / 2,
                kFft,
                m_fft.time());
        m_fft.forward();
        const double f0 = hzFromMidi(midi, m_a4_hz);
        double power = 0.0;
        double weighted = 0.0;
        for (int k = 1; k <= kPartials; ++k) {
            const double bin = f0 * k * kFft / m_sound.rate_hz;
            const auto middle = static_cast<std::size_t>(std::lround(bin));
            if (middle + 3 >= m_fft.spectrum().size() || middle < 3)
                break;
            std::size_t best = middle;
            for (std::size_t b = middle - 2; b <= middle + 2; ++b)
                if (std::norm(m_fft.spectrum()[b]) > std::norm(m_fft.spectrum()[best]))
                    best = b;
            const double p = std::norm(m_fft.spectrum()[best]);
            power += p;
            weighted += p * 1200.0 * std::log2(peak(best) / bin);
        }
        return {10.0 * std::log10(power + 1e-12), power > 0.0 ? weighted / power : 0.0};
    }

  private:
    // Between bins, by a parabola through the levels.
    double peak(std::size_t b) {
        const auto level = [this](std::size_t i) {
            return std::log(std::norm(m_fft.spectrum()[i]) + 1e-20);
        };
        const double l = level(b - 1);
        const double m = level(b);
        const double r = level(b + 1);
        const double bend = l - 2.0 * m + r;
        const double off = bend < -1e-9 ? 0.5 * (l - r) / bend : 0.0;
        return static_cast<double>(b) + std::clamp(off, -0.5, 0.5);
    }

    SoundView m_sound;
    double m_a4_hz;
    RealFft m_fft;
};

float meanOdds(const std::vector<float>& sums, double hop_s, double from_s, double to_s) {
    const auto last = static_cast<std::ptrdiff_t>(sums.size()) - 1;
    const auto at = [&](double s) {
        return std::clamp<std::ptrdiff_t>(static_cast<std::ptrdiff_t>(s / hop_s), 0, last);
    };
    const auto a = at(from_s);
    const auto b = std::max(a + 1, at(to_s));
    return b > last ? 0.0F
                    : (sums[static_cast<std::size_t>(b)] - sums[static_cast<std::size_t>(a)]) /
                          static_cast<float>(b - a);
}

} // namespace

std::vector<VoiceFigures>
voiceFigures(SoundView sound, double a4_hz, const TalkFrames& frames, std::span<const Note> notes) {
    std::vector<float> sums(1, 0.0F);
    for (std::size_t i = 0; i < frames.figures.size(); ++i)
        sums.push_back(sums.back() +
                       (frames.sounds[i]
                            ? static_cast<float>(std::clamp(talkOdds(frames.figures[i]), -6.0, 6.0))
                            : 0.0F));
    Listening listening(sound, a4_hz);
    std::vector<VoiceFigures> all;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        const Note& note = notes[i];
        const double t = note.onset_s();
        std::vector<double> near_db;
        int together = 0;
        for (std::size_t k = i; k-- > 0 && notes[k].onset_s() > t - kAbout_s;) {
            near_db.push_back(notes[k].loudness_db);
            together += t - notes[k].onset_s() < kTogether_s ? 1 : 0;
        }
        for (std::size_t k = i; k < notes.size() && notes[k].onset_s() < t + kAbout_s; ++k) {
            near_db.push_back(notes[k].loudness_db);
            together += notes[k].onset_s() - t < kTogether_s ? 1 : 0;
        }
        const Partials before = listening.at(t + kBefore_s, note.pitch.value);
        const Partials at = listening.at(t + kAt_s, note.pitch.value);
        const Partials soon = listening.at(t + kSoon_s, note.pitch.value);
        const Partials later = listening.at(t + kLater_s, note.pitch.value);
        const HeardFacts heard = note.heard();
        const auto f = [](double v) { return static_cast<float>(v); };
        all.push_back({f(note.existence.probability),
                       f(note.pitch.probability),
                       f(std::min(3.0, std::max(0.0, heard.attack.strength))),
                       heard.attack.soft ? 1.0F : 0.0F,
                       f(note.loudness_db - *median(near_db)),
                       f(std::log(std::max(0.03, note.time.value.length_s()))),
                       f(note.pitch.value),
                       f(std::min(6, together)),
                       f(std::clamp(at.level_db - before.level_db, -20.0, 40.0)),
                       f(std::clamp(soon.level_db - at.level_db, -30.0, 20.0)),
                       f(std::clamp(later.level_db - soon.level_db, -30.0, 20.0)),
                       f(std::min(60.0, std::abs(soon.sharp_cents - at.sharp_cents))),
                       f(std::min(60.0, std::abs(later.sharp_cents - soon.sharp_cents))),
                       meanOdds(sums, frames.hop_s, t - 0.25, t + 0.25),
                       meanOdds(sums, frames.hop_s, t - 1.0, t + 1.0),
                       meanOdds(sums, frames.hop_s, t - 4.0, t + 4.0)});
    }
    return all;
}

double voiceProbability(const VoiceFigures& figures) {
    return 1.0 / (1.0 + std::exp(-networkOdds(figures,
                                              kVoiceMeans,
                                              kVoiceScatter,
                                              kVoiceFirst,
                                              kVoiceFirstBias,
                                              kVoiceLast,
                                              kVoiceLastBias)));
}

Status leaveVoiceOut(SoundView sound,
                     double a4_hz,
                     const std::vector<SoundSpan>& spans,
                     std::vector<Note>& notes,
                     const JobControl& job) {
    const auto isUnderTalk = [&spans](const Note& note) {
        return std::ranges::any_of(spans, [&note](const SoundSpan& one) {
            return one.kind == SoundKind::TalkOverPlaying && one.span.contains(note.onset_s());
        });
    };
    if (std::ranges::none_of(notes, isUnderTalk))
        return {};
    const auto frames = talkFrames(sound, job);
    if (!frames)
        return frames.error();
    const auto figures = voiceFigures(sound, a4_hz, *frames, notes);
    std::vector<Note> kept;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        if (isUnderTalk(notes[i])) {
            const double voice = voiceProbability(figures[i]);
            if (voice >= kRatherAVoice)
                continue;
            for (double* belief : {&notes[i].existence.probability, &notes[i].pitch.probability})
                *belief = std::min(*belief, 1.0 - voice);
        }
        kept.push_back(std::move(notes[i]));
    }
    notes = std::move(kept);
    return {};
}

} // namespace wirenote
