// Notes that the fretting hand began: hammered on or pulled off without a stroke.
#pragma once

#include "base/nearby.h"
#include "base/sound.h"
#include "piece/piece.h"

#include <array>
#include <vector>

namespace wirenote {

struct SlurParameters {
    double together_s = 0.03; // from the end of the note before
    int most_semitones = 5;   // further than a hand reaches on one string
    double alone_s = 0.06;    // beside it, where several voices sound
    double least_probability = 0.5;
};

// How much louder the sound above 2.5 kHz becomes within 20 ms about an attack: the noise of a pick
// or nail on the string. A finger that falls on the neck or leaves it makes little of it.
double strokeNoise_db(SoundView sound, double onset_s);

// How far the sound dips in the 20 ms before an attack under what it was before, 0 or more: the
// pick or finger that is about to strike a string stops it for a moment (common practice).
double dipBefore_db(SoundView sound, double onset_s);

// The same between 1 and 2.5 kHz, of the least there is in the 20 ms before the attack: a bass is
// too low for its whole sound to be measured within a few milliseconds.
double bandDip_db(SoundView sound, double onset_s);

// What speaks for a slur at a note: what the network of attacks says, what it says of the notes
// thereabouts (log odds); the noise of its attack against what is usual; how strong the attack is
// against the usual; the dip before it (dB); on a bass the dip in the band against the usual one,
// 1 where strings are hardly ever stopped.
using SlurFigures = std::array<double, 6>;

class SlurEar {
  public:
    // Both must outlive it.
    SlurEar(SoundView sound, const std::vector<Note>& notes, bool bass);
    SlurFigures at(std::size_t note) const;
    double probability(std::size_t note) const; // slurProbability

  private:
    double bandDip(std::size_t note) const; // against the usual one

    SoundView m_sound;
    const std::vector<Note>& m_notes;
    bool m_bass;
    std::vector<double> m_band_dip_db; // on a bass
    Nearby m_usual_band_dip_db;
    std::vector<double> m_noise_db;
    Nearby m_usual_noise_db;
    Nearby m_usual_strength;
    Nearby m_usual_network;
};

// Little of the usual noise, no strong attack, no gap before it.
bool beginsWithoutStroke(const SlurFigures& figures);

// On a bass: the string is not stopped before it as it else is, no strong attack, nothing that the
// network speaks against.
bool begunUnstopped(const SlurFigures& figures);

// What begins without a stroke is likely slurred; for the rest a logistic regression, learned by
// tools/training/learn_slurs.py from invented takes with many slurs; that one note in twelve is
// slurred is put in its place.
double slurProbability(const SlurFigures& figures, bool bass);

// The same once it is known how much this player slurs: the share that is slurred is estimated from
// the probabilities themselves, which hold for the usual share (one in twelve), and put in its
// place until both agree (Saerens, Latinne & Decaestecker, Neural Computation 14, 2002). Only where
// other strings ring: in a line that is plucked softly every second note is somewhat likely, and a
// trill would come of it.
std::vector<double> slurProbabilities(const std::vector<double>& at_usual_share);

// Whether a note follows another without a gap, within a hand's reach, and is not slurred yet.
bool mayBeSlurred(const Note& note, const Note& before, const SlurParameters& parameters = {});

// Names hammer-ons and pull-offs among notes that follow each other without a gap, within a hand's
// reach, where they are likelier than not. `notes` is one line in order of time (after tellSlurs).
void markSlurs(SoundView sound,
               std::vector<Note>& notes,
               bool bass,
               const SlurParameters& parameters = {});

// The same among notes that have their strings, where others sound: a note alone at its attack,
// within reach of the one that rang on its string until then. Returns how many.
int markSlursOnStrings(SoundView sound, Piece& piece, const SlurParameters& parameters = {});

} // namespace wirenote
