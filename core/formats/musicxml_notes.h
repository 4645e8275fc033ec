// One written value as MusicXML notes: what stands in a <note>.
#pragma once

#include "piece/piece.h"
#include "score/bars.h"

#include <pugixml.hpp>
#include <string>

namespace wirenote::musicxml {

constexpr int kDivisions = 240; // of a quarter: thirty-seconds, triplets, quintuplets all whole

enum class Staff { Notation = 1, Tab = 2 };

pugi::xml_node text(pugi::xml_node parent, const char* name, const std::string& value);
pugi::xml_node number(pugi::xml_node parent, const char* name, long value);
long divisions(Rational quarters);

// Letters and accidentals of a chord's name: "F♯m7/E" is root F, alter 1, kind "m7", bass E.
struct ChordParts {
    SpelledPitch root;
    std::string kind; // as it is written after the root
    std::optional<SpelledPitch> bass;
};
std::optional<ChordParts> partsOf(const std::string& name);
std::string nameOf(const ChordParts& parts);
// The standard's word for a kind ("dominant" for "7"), "other" where it has none; and back.
std::string kindWord(const std::string& kind);
std::string kindOfWord(const std::string& word);

class NoteWriter {
  public:
    explicit NoteWriter(const Piece& piece) : m_piece(piece) {}

    // Value `at` of a voice of a bar.
    void write(pugi::xml_node measure,
               const std::vector<Value>& values,
               std::size_t at,
               Voice voice,
               Staff staff) const;

  private:
    struct Place { // which note of which value, where
        const std::vector<Value>& values;
        std::size_t at;
        Voice voice;
        Staff staff;
        std::size_t note; // into Piece::notes
        bool first;       // of its chord
        const Value& value() const { return values[at]; }
    };
    void rest(pugi::xml_node measure, const Place& place) const;
    void grace(pugi::xml_node measure, const Place& place) const;
    void note(pugi::xml_node measure, const Place& place) const;
    void pitch(pugi::xml_node node, const Note& note) const;
    void timing(pugi::xml_node node, const Place& place, const Note* note) const;
    void tuplet(pugi::xml_node notations, const Place& place) const;
    const Note* slurredAfter(const Place& place) const;
    void handMarks(pugi::xml_node notations, const Place& place) const;
    void tabMarks(pugi::xml_node notations, const Place& place) const;
    void tabSlurs(pugi::xml_node notations, pugi::xml_node technical, const Place& place) const;
    void tabHands(pugi::xml_node technical, const Place& place) const;
    void bends(pugi::xml_node technical, const Note& note) const;

    const Piece& m_piece;
};

} // namespace wirenote::musicxml
