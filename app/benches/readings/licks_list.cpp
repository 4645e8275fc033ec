#include "app/benches/readings/licks_list.h"

#include "app/benches/readings/row_list.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/text/wording.h"
#include "base/text.h"
#include "piece/in_reading.h"
#include "session/lick_collection.h"

#include <QHBoxLayout>
#include <algorithm>

namespace wirenote::app {
namespace {

// String by string as a player reads it: "2: 5 8, 1: 5".
QString placesText(const Lick& lick) {
    QStringList places;
    for (const LickNote& note : lick.notes)
        places << (note.place.string == 0
                       ? QStringLiteral("–")
                       : QString("%1/%2").arg(note.place.string).arg(note.place.fret));
    return places.join(" ");
}

QString rolesText(const Lick& lick, const ChordTones& chord) {
    QStringList degrees;
    int tensions = 0;
    int outside = 0;
    for (const NoteOverChord& one : overChord(lick, chord)) {
        const QString degree = QString::fromUtf8(degreeText(one.semitones).c_str());
        tensions += one.role == ChordRole::Tension ? 1 : 0;
        outside += one.role == ChordRole::Outside ? 1 : 0;
        degrees << (one.role == ChordRole::Tension   ? "(" + degree + ")"
                    : one.role == ChordRole::Outside ? "[" + degree + "]"
                                                     : degree);
    }
    return LicksList::tr("%1 · in round brackets tension: %2, in square ones against the chord: %3")
        .arg(degrees.join(" "))
        .arg(tensions)
        .arg(outside);
}

} // namespace

LicksList::LicksList(Document& document,
                     Derived& derived,
                     Selection& selection,
                     const std::filesystem::path& file,
                     QWidget* parent)
    : QWidget(parent), m_document(document), m_derived(derived), m_selection(selection), m_file(file),
      m_name(new QLineEdit), m_chord(new QLineEdit), m_over(new QLineEdit),
      m_said(Card::label({}, 9, false, theme().ink)),
      m_keep_variant(new QPushButton(tr("Keep it so"))),
      m_list(new RowList(
          tr("Licks"),
          {tr("Name"), tr("Chord"), tr("Notes"), tr("From"), tr("Strings and frets")})) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(keepingRow());
    column->addWidget(tryingRow());
    auto* row = new QHBoxLayout;
    m_said->setObjectName("lickSaid");
    row->addWidget(m_said, 1);
    m_keep_variant->setObjectName("keepVariant");
    m_keep_variant->hide();
    row->addWidget(m_keep_variant);
    column->addLayout(row);
    column->addWidget(m_list, 1);
    m_list->rows().setObjectName("lickRows");
    connect(m_keep_variant, &QPushButton::clicked, this, &LicksList::keepVariant);
    auto read = readLicks(m_file);
    if (read)
        m_licks = std::move(*read);
    m_broken = !read.ok();
    show();
    if (m_broken)
        m_said->setText(tr("The collection cannot be read and is left as it is: %1")
                            .arg(sentence(read.error())));
}

QWidget* LicksList::keepingRow() {
    auto* holder = new QWidget;
    auto* row = new QHBoxLayout(holder);
    row->setContentsMargins(0, 0, 0, 0);
    m_name->setObjectName("lickName");
    m_name->setAccessibleName(tr("Name of the lick"));
    m_name->setPlaceholderText(tr("a name for what is chosen"));
    m_chord->setObjectName("lickChord");
    m_chord->setAccessibleName(tr("Chord it is played over"));
    m_chord->setPlaceholderText(tr("over which chord: Am7"));
    auto* keep = new QPushButton(tr("Keep"));
    keep->setObjectName("keepLick");
    auto* find = new QPushButton(tr("Find it here"));
    find->setObjectName("findLick");
    find->setToolTip(tr("The next place of this piece that plays the chosen lick, in any key"));
    auto* remove = new QPushButton(tr("Remove"));
    row->addWidget(m_name, 2);
    row->addWidget(m_chord, 1);
    row->addWidget(keep);
    row->addWidget(find);
    row->addWidget(remove);
    connect(keep, &QPushButton::clicked, this, &LicksList::keep);
    connect(find, &QPushButton::clicked, this, &LicksList::findNext);
    connect(remove, &QPushButton::clicked, this, &LicksList::remove);
    return holder;
}

QWidget* LicksList::tryingRow() {
    auto* holder = new QWidget;
    auto* row = new QHBoxLayout(holder);
    row->setContentsMargins(0, 0, 0, 0);
    m_over->setObjectName("overChord");
    m_over->setAccessibleName(tr("Another chord"));
    m_over->setPlaceholderText(tr("over another chord: G7, Enter"));
    row->addWidget(m_over, 1);
    auto* turns = new QComboBox;
    turns->setObjectName("turnLick");
    turns->setAccessibleName(tr("Turned to"));
    turns->addItems({tr("Turn it to …"), tr("major"), tr("dominant"), tr("minor")});
    row->addWidget(turns);
    auto* thinner = new QPushButton(tr("A string thinner"));
    auto* thicker = new QPushButton(tr("A string thicker"));
    row->addWidget(thinner);
    row->addWidget(thicker);
    connect(m_over, &QLineEdit::returnPressed, this, &LicksList::tryOverChord);
    connect(turns, &QComboBox::activated, this, [this, turns](int which) {
        if (which > 0)
            turn(which - 1);
        turns->setCurrentIndex(0);
    });
    connect(thinner, &QPushButton::clicked, this, [this] { moveStrings(-1); });
    connect(thicker, &QPushButton::clicked, this, [this] { moveStrings(1); });
    return holder;
}

const Lick* LicksList::chosen() {
    const int row = m_list->current();
    if (row < 0 || static_cast<std::size_t>(row) >= m_licks.size()) {
        m_said->setText(tr("Choose a lick in the list first."));
        return nullptr;
    }
    return &m_licks[static_cast<std::size_t>(row)];
}

void LicksList::changeTo(std::vector<Lick> licks) {
    if (m_broken)
        return;
    if (const Status written = writeLicks(m_file, licks); !written) {
        m_said->setText(sentence(written.error()));
        return;
    }
    m_licks = std::move(licks);
    show();
}

void LicksList::keep() {
    const Piece& piece = m_document.piece();
    const auto& all = m_selection.all();
    const Note* first = all.empty() ? nullptr : piece.note(all.front());
    const Note* last = all.empty() ? nullptr : piece.note(all.back());
    const TimeRange span =
        first && last ? TimeRange{first->onset_s(), last->onset_s() + 0.05} : TimeRange{};
    auto lick = lickOf(piece,
                       span,
                       cleanText(m_name->text().trimmed().toStdString()),
                       cleanText(m_chord->text().trimmed().toStdString()));
    if (!lick) {
        m_said->setText(sentence(lick.error()));
        return;
    }
    if (lick->name.empty())
        lick->name = tr("bar %1").arg(lick->bar).toStdString();
    std::vector<Lick> licks = m_licks;
    licks.push_back(std::move(*lick));
    changeTo(std::move(licks));
    m_name->clear();
    m_said->setText(tr("Kept, for this piece and all others."));
}

void LicksList::keepVariant() {
    if (!m_variant)
        return;
    std::vector<Lick> licks = m_licks;
    licks.push_back(*m_variant);
    changeTo(std::move(licks));
    m_variant.reset();
    m_keep_variant->hide();
}

void LicksList::remove() {
    if (!chosen())
        return;
    std::vector<Lick> licks = m_licks;
    licks.erase(licks.begin() + m_list->current());
    changeTo(std::move(licks));
}

// Behind what is chosen, and from the start again.
void LicksList::findNext() {
    const Lick* lick = chosen();
    if (!lick)
        return;
    m_derived.ask([lick = *lick](const Piece& piece) { return findLick(piece, lick); },
                  [this](const std::vector<LickFound>& found) { lead(found); });
}

void LicksList::lead(const std::vector<LickFound>& found) {
    const Piece& piece = m_document.piece();
    if (found.empty()) {
        m_said->setText(tr("This piece does not play it, in any key."));
        return;
    }
    const Note* now = piece.note(m_selection.note());
    auto next = std::ranges::find_if(found, [&](const LickFound& one) {
        const Note* first = piece.note(one.notes.front());
        return now && first && first->onset_s() > now->onset_s() + 1e-6;
    });
    if (next == found.end())
        next = found.begin();
    m_selection.chooseAll(next->notes.front(), next->notes);
    m_said->setText(
        tr("Found %1: this one sounds %2 semitones higher than it was kept%3.")
            .arg(countText(static_cast<int>(found.size()),
                           QT_TRANSLATE_NOOP("wording", "%1 time"),
                           QT_TRANSLATE_NOOP("wording", "%1 times")))
            .arg(next->semitones)
            .arg(next->same_places ? tr(", fingered alike") : tr(", on other strings or frets")));
}

void LicksList::tryOverChord() {
    const Lick* lick = chosen();
    if (!lick)
        return;
    const auto chord = parseChord(m_over->text().trimmed().toStdString());
    m_said->setText(chord ? rolesText(*lick, *chord)
                          : tr("“%1” is the name of no usual chord.").arg(m_over->text()));
}

void LicksList::offer(const Lick& variant, const QString& said) {
    m_variant = variant;
    m_said->setText(said + " " + placesText(variant));
    m_keep_variant->show();
}

void LicksList::turn(int to) {
    const Lick* lick = chosen();
    if (!lick)
        return;
    const auto made = turned(*lick, static_cast<Turn>(to));
    if (!made) {
        m_said->setText(sentence(made.error()));
        return;
    }
    offer(made->lick,
          tr("Over %1, with %2 of its notes moved by a semitone:")
              .arg(QString::fromStdString(made->lick.chord))
              .arg(made->changed.size()));
}

void LicksList::moveStrings(int strings) {
    const Lick* lick = chosen();
    if (!lick)
        return;
    if (const auto made = onOtherStrings(*lick, strings))
        offer(*made, tr("On other strings:"));
    else
        m_said->setText(tr("It does not lie there: a string, a fret or the reach of a hand is "
                           "missing."));
}

void LicksList::show() {
    m_list->clear(tr("No lick is kept yet: choose notes on the strip, give them a name, and keep "
                     "them for every piece."));
    for (const Lick& lick : m_licks)
        m_list->add({QString::fromStdString(lick.name),
                     QString::fromStdString(lick.chord),
                     QString::number(lick.notes.size()),
                     tr("%1, bar %2").arg(QString::fromStdString(lick.piece)).arg(lick.bar),
                     placesText(lick)},
                    {});
    m_list->fit();
}

} // namespace wirenote::app
