#pragma once

#include "app/document/document.h"
#include "form/grips.h"

#include <optional>

namespace wirenote::app {

class Derived;
class Selection;

// What can be done to a whole chord. Everything can be undone.
class ChordCommands : public QObject {
    Q_OBJECT
  public:
    ChordCommands(Document& document, Selection& selection, Derived& derived);

    struct Chord {
        Strum strum;
        std::vector<WholeGrip> whole; // grips it may be part of, the likeliest first
        std::vector<Strum> same;      // strokes that were heard exactly so, this one among them
        QString name;                 // as it is called, or found; empty: it has none
        bool name_is_said = false;
    };
    // The chord that the chosen note is struck with; nothing: it is struck alone.
    std::optional<Chord> chosen() const;
    bool isChosenWhole() const; // several notes of one chord, and no others

    enum class Where { Here, WhereverItComesAgain };
    void setGrip(const QString& text, Where where); // "x 3 2 0 1 0"
    void fill(Where where);                         // from where the same grip was heard whole
    void name(const QString& name, Where where);
    void chooseAt(double time_s); // the chord that sounds there

  signals:
    void said(const QString& sentence);

  private:
    void hold(const Chord& chord, const Grip& grip, Where where);

    Document& m_document;
    Selection& m_selection;
    Derived& m_derived;
};

} // namespace wirenote::app
