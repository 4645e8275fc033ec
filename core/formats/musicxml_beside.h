// What stands beside the notes of a sheet, in MusicXML: dynamics, wedges, fermatas, signs, words.
#pragma once

#include "piece/sheet_marks.h"
#include "score/sheet.h"

#include <map>
#include <pugixml.hpp>

namespace wirenote::musicxml {

class BesideWriter {
  public:
    explicit BesideWriter(const Sheet& sheet) : m_sheet(sheet) {}

    // Directions of what begins and ends from there on, as far as `to`; `last`: and after it.
    void directions(pugi::xml_node measure, Rational from, Rational to, bool last) const;
    // A fermata over what was written of a value: at the first of these notes.
    void fermata(pugi::xml_node first, const Bar& bar, const Value& value, Voice voice) const;

  private:
    void begin(pugi::xml_node measure, const MarkSign& mark, Rational late) const;
    const Sheet& m_sheet;
};

// Collects what is read, in quarters from the first measure's beginning.
class BesideReader {
  public:
    // `late`: by how many quarters the direction's own offset puts it after `at`.
    void readDirection(const pugi::xml_node& direction, double at, double late);
    void readNote(const pugi::xml_node& note, double start);

    struct Read {
        MarkKind kind = MarkKind::Words;
        double from = 0.0, to = 0.0;
        std::string text;
    };
    // By where they begin, each once; wedges that never end are left out.
    std::vector<Read> marks() const;

  private:
    void readWedge(const pugi::xml_node& wedge, double at);
    void readDynamics(const pugi::xml_node& dynamics, double at);
    void add(MarkKind kind, double at, std::string text = {});

    std::vector<Read> m_marks;
    std::map<int, Read> m_open; // wedges, by number
};

} // namespace wirenote::musicxml
