// SIMULATED: clicks, a simple drum set and a bass under a play-along.
#pragma once

#include "base/sound.h"
#include "lesson/play_along.h"

namespace wirenote {

// What a click tells: a bar, a beat or a part of one begins; the phrase begins again.
enum class ClickKind { Bar, Beat, Between, Again };
enum class DrumKind { Kick, Snare, Hat };

// Puts its sounds into another; each begins at the nearest sample with its first wave. The sound
// must outlive it.
class Backing {
  public:
    explicit Backing(Sound& into) : m_into(into) {}
    void click(double at_s, ClickKind kind);
    void drum(double at_s, DrumKind kind);
    void bass(double at_s, double length_s, int pitch_class);

  private:
    void tone(double at_s, double hz, double end_hz, double length_s, double gain);
    void noise(double at_s, double length_s, double gain, bool bright);

    Sound& m_into;
};

// Drums on the beats, as the metre has them, and the roots of the chords where they change and on
// each bar: common practice of an accompaniment that stays out of the way.
void addBand(const LessonFacts& facts,
             const PlayAlongOptions& options,
             const PlayAlong& time,
             double beat_s,
             Backing& backing);

} // namespace wirenote
