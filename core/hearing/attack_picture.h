// What an attack looks like to the network that hears it: spectra about it on an axis of pitch.
#pragma once

#include "base/sound.h"
#include "hearing/moment_spectra.h"
#include "signal/spectral_flux.h"

#include <array>
#include <vector>

namespace wirenote {

// One attack, or the attacks of one stroke over several strings.
struct AttackMoment {
    double first_s = 0.0;
    double last_s = 0.0;      // the last clear attack in it
    double previous_s = -9.0; // when the attack before it began …
    double next_s = 0.0;      // … and the next one, or the end of the sound
    double strength = 0.0;    // as of OnsetPeak
};

// Attacks closer than `event_s` are one.
std::vector<AttackMoment>
attackMoments(const std::vector<OnsetPeak>& onsets, double event_s, double length_s);

// The pitch axis: rows of a third of a semitone.
constexpr int kPictureLowestMidi = 21;
constexpr int kPictureSemitones = 86; // up to 4.2 kHz
constexpr int kRowsPerSemitone = 3;
constexpr int kPictureRows = kPictureSemitones * kRowsPerSemitone;
// The spectra, in this order: a while before the attack, just before it, after it, a while after it
// (nought when another attack comes sooner), and short ones just before, just after and a little
// later.
constexpr int kPictureSpectra = 7;
constexpr int kPictureFacts = 6;

constexpr double kPictureDepth_db = 66.0;

struct AttackPicture {
    // Row by row of each spectrum: 0 is kPictureDepth_db below the loudest row of the picture, 1 as
    // loud.
    std::array<std::array<float, kPictureRows>, kPictureSpectra> levels{};
    // How long the stretch after it is, how wide the stroke, how far the next and the previous
    // attack are, how strong it is, how much louder it became; each within about ±2.
    std::array<float, kPictureFacts> facts{};
    double flatness = 0.0; // of the spectrum after it: 0 is pure tones, 1 is even noise
};

// One thread.
class AttackPictures {
  public:
    explicit AttackPictures(SoundView sound) : m_spectra(sound) {}
    // `a4_hz` is how high the instrument stands there.
    AttackPicture at(const AttackMoment& attack, double a4_hz);

  private:
    struct Row {
        double low = 0.0; // bins
        double high = 0.0;
    };
    void setAxis(double a4_hz);
    void paint(const std::vector<float>& spectrum, std::array<float, kPictureRows>& levels) const;

    MomentSpectra m_spectra;
    double m_a4_hz = 0.0;
    std::vector<Row> m_rows;
};

} // namespace wirenote
