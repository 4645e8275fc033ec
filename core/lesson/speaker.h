// How one teacher names strings, fingers, strokes, notes and places.
#pragma once

#include "lesson/vocabulary.h"
#include "music/instrument.h"
#include "music/pitch.h"
#include "piece/lesson_plan.h"

namespace wirenote {

// A place of the count: felt beat of the bar from 0, and the share of it that has passed.
struct SpokenPlace {
    int bar = 1;
    int beat = 0;
    Rational part;
    bool operator==(const SpokenPlace&) const = default;
};

// Names everything in the conventions of a teacher, never ambiguously: a number always says what it
// counts, a letter whether it is a note, a chord or a string. Strings that share a letter are told
// apart as thick, middle and thin; where that does not do, by number.
class Speaker {
  public:
    // The vocabulary must outlive it.
    Speaker(const Vocabulary& words,
            const TeachingManner& manner,
            Instrument instrument,
            KeySignature key);

    const Vocabulary& words() const { return m_words; }
    const TeachingManner& manner() const { return m_manner; }
    const Instrument& instrument() const { return m_instrument; }
    std::string string(int number) const;
    std::string place(Position position) const;
    std::string finger(Finger finger) const;       // empty for one that presses nothing
    std::string stroke(Stroke stroke) const;       // empty where nobody knows, or none is
    std::string pitchClass(int pitch_class) const; // "C♯", "do♯", "Cis"
    std::string note(int midi) const;              // "note C♯"
    std::string bars(int first, int last) const;   // "bar 3", "bars 3 to 5"
    std::string beat(const Metre& metre, const SpokenPlace& place) const;
    std::string barBeat(const Metre& metre, const SpokenPlace& place) const;
    std::string list(const std::vector<std::string>& items) const; // "x, y and z"
    // A text with the teacher's own words in the place of ours; whole words only.
    std::string own(std::string text) const;
    // The same backwards: what is understood of what the teacher says.
    std::string plain(std::string text) const;

  private:
    std::string byLetter(int number) const;
    std::string byThickness(int number) const;

    const Vocabulary& m_words;
    TeachingManner m_manner;
    Instrument m_instrument;
    KeySignature m_key;
};

// The text with a capital at its beginning (ASCII and Latin-1 letters).
std::string capital(std::string text);
// Every whole word `from` of a text as `to`, whatever its case; a capital stays one.
std::string withWord(const std::string& text, const std::string& from, const std::string& to);

} // namespace wirenote
