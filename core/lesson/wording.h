// The text of a lesson, made from the reading.
#pragma once

#include "lesson/breakdown.h"
#include "lesson/stumbles.h"

#include <string>
#include <vector>

namespace wirenote {

// One sentence, and the notes it says something of.
struct Sentence {
    std::string text;
    std::vector<NoteId> notes = {};
};

// What is said at one step, in the teacher's conventions and own words.
struct StepText {
    std::vector<Sentence> sentences; // as they are made from the reading
    std::string made;                // the same, one a line
    std::string text;                // a person's, where there is one; else `made`
    bool edited = false;
    bool made_anew = false; // a person's text stands for sentences that are others now
};

// Writes the steps of one piece. What it is given must outlive it.
class LessonWriter {
  public:
    LessonWriter(const LessonFacts& facts, const Breakdown& breakdown, const Speaker& speaker);

    StepText step(std::size_t step) const;
    // What is to be said before anything is played: tuning, capo, key, what is left out, and the
    // usual caution.
    std::vector<Sentence> introduction() const;
    std::string stepTitle(const TeachStep& step) const; // "Phrase A, bars 1 and 2: slow"
    std::string kindTitle(const TeachStep& step) const; // "Slow, 60 per cent of the tempo"
    std::string phraseTitle(std::size_t phrase) const;
    std::string barsOf(const TeachPhrase& phrase) const;
    std::string percentText(double tempo) const; // "60 per cent of the tempo"
    std::string stumbleText(const Stumble& stumble) const;
    std::string remedyText(const Stumble& stumble) const;
    std::string whenOf(const LessonMoment& moment) const; // "bar 3, beat 2"
    std::vector<std::string> chordsIn(const TeachPhrase& phrase) const;
    const Speaker& speaker() const { return m_speaker; }
    const LessonFacts& facts() const { return m_facts; }
    const Breakdown& breakdown() const { return m_breakdown; }

  private:
    std::vector<Sentence> sentencesOf(std::size_t step) const;
    std::vector<Sentence> context(std::size_t phrase) const;
    std::vector<Sentence> layer(const TeachStep& step) const;
    std::vector<Sentence> harmony(const TeachPhrase& phrase) const;
    Sentence tempo(const TeachStep& step) const;
    Sentence joined(const TeachStep& step) const;
    std::string barsOf(const std::vector<std::size_t>& phrases) const;

    const LessonFacts& m_facts;
    const Breakdown& m_breakdown;
    const Speaker& m_speaker;
};

// What the fretting hand does in a phrase, moment by moment; what is as in an earlier phrase is not
// said again.
std::vector<Sentence> frettingWords(const LessonWriter& writer, std::size_t phrase);
// Easier ways of a phrase: notes that may be left out (and those that must not), another finger
// that would do. Empty where there are none.
std::vector<Sentence> easierWords(const LessonWriter& writer, std::size_t phrase);
// Likewise the plucking hand.
std::vector<Sentence> pluckingWords(const LessonWriter& writer, std::size_t phrase);
// "Bars 5 and 6 are the same as bars 1 and 2, but for this: …"; empty where they are not.
std::vector<Sentence> sameWords(const LessonWriter& writer, const TeachPhrase& phrase);
// The moments of a phrase that have to be said: all, or those that differ from the earlier phrase.
std::vector<std::size_t> momentsToSay(const LessonFacts& facts, const TeachPhrase& phrase);

} // namespace wirenote
