#pragma once

#include "app/card.h"
#include "readings/licks.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <filesystem>
#include <vector>

namespace wirenote::app {

class Derived;
class Document;
class RowList;
class Selection;

// The collection of licks: kept from what is chosen, found again in any key, heard out over other
// chords, taken to other strings, turned to another kind of chord.
class LicksList : public QWidget {
    Q_OBJECT
  public:
    LicksList(Document& document,
              Derived& derived,
              Selection& selection,
              const std::filesystem::path& file,
              QWidget* parent = nullptr);

  private:
    QWidget* keepingRow();
    QWidget* tryingRow();
    void keep();
    void keepVariant();
    void remove();
    void findNext();
    void lead(const std::vector<LickFound>& found); // to the one behind what is chosen
    void tryOverChord();
    void turn(int to);
    void moveStrings(int strings);
    void offer(const Lick& variant, const QString& said); // to be kept too
    const Lick* chosen();
    void changeTo(std::vector<Lick> licks); // and write them
    void show();

    Document& m_document;
    Derived& m_derived;
    Selection& m_selection;
    std::filesystem::path m_file;
    std::vector<Lick> m_licks;
    std::optional<Lick> m_variant;
    QLineEdit* m_name;
    QLineEdit* m_chord;
    QLineEdit* m_over;
    QLabel* m_said;
    QPushButton* m_keep_variant;
    RowList* m_list;
    bool m_broken = false; // the file is there and cannot be read: it is not written over
};

} // namespace wirenote::app
