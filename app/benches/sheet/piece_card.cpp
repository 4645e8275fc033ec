#include "app/benches/sheet/piece_card.h"

#include "app/document/document.h"
#include "base/text.h"

#include <QFormLayout>

namespace wirenote::app {
namespace {

// The major and the minor key of a signature.
QString keyText(int fifths) {
    static constexpr int kMost = 6;
    static const QStringList kMajors = {
        "G♭", "D♭", "A♭", "E♭", "B♭", "F", "C", "G", "D", "A", "E", "B", "F♯"};
    static const QStringList kMinors = {
        "E♭", "B♭", "F", "C", "G", "D", "A", "E", "B", "F♯", "C♯", "G♯", "D♯"};
    return PieceCard::tr("%1 major, %2 minor")
        .arg(kMajors[fifths + kMost], kMinors[fifths + kMost]);
}

std::string textOf(const QLineEdit& field) {
    return cleanText(field.text().trimmed().toStdString());
}

} // namespace

PieceCard::PieceCard(Document& document, QWidget* parent)
    : Card(parent), m_document(document), m_title(new QLineEdit), m_composer(new QLineEdit),
      m_player(new QLineEdit), m_transcriber(new QLineEdit), m_subtitle(new QLineEdit),
      m_source(new QLineEdit), m_date(new QLineEdit),
      m_guessed(label({}, 8.5, false, theme().quiet)), m_key(new QComboBox) {
    setObjectName("piece");
    column()->addWidget(label(tr("The piece"), 12, true, theme().ink));
    auto* form = new QFormLayout;
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    form->setVerticalSpacing(4);
    form->setRowWrapPolicy(QFormLayout::WrapLongRows);
    const auto add = [form](const QString& name, QWidget* field) {
        field->setAccessibleName(name);
        form->addRow(name, field);
    };
    add(tr("Title"), m_title);
    m_guessed->setText(tr("That is the name of its file. It is printed once you say so: change it, "
                          "or press Enter on it."));
    form->addRow(m_guessed);
    add(tr("Subtitle"), m_subtitle);
    add(tr("By"), m_composer);
    add(tr("Played by"), m_player);
    add(tr("Written down by"), m_transcriber);
    add(tr("From"), m_source);
    add(tr("Date"), m_date);
    add(tr("Key"), m_key);
    m_source->setPlaceholderText(tr("Record, film, session …"));
    for (QLineEdit* field :
         {m_title, m_subtitle, m_composer, m_player, m_transcriber, m_source, m_date}) {
        field->setMaxLength(static_cast<int>(kLongestName));
        connect(field, &QLineEdit::editingFinished, this, &PieceCard::apply);
    }
    for (int fifths = -6; fifths <= 6; ++fifths)
        m_key->addItem(keyText(fifths), fifths);
    m_key->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_key->setMinimumContentsLength(6);
    // A title from a file's name is one when a person says so.
    connect(m_title, &QLineEdit::returnPressed, this, &PieceCard::keepTitle);
    connect(m_key, &QComboBox::activated, this, &PieceCard::applyKey);
    column()->addLayout(form);
    column()->addWidget(
        label(tr("This stands over the music, on paper and in every export that has "
                 "room for it."),
              8.5,
              false,
              theme().quiet));
    column()->addStretch(1);
    connect(&document, &Document::opened, this, &PieceCard::refresh);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.title || what.timeline)
            refresh();
    });
    refresh();
}

void PieceCard::refresh() {
    const Piece& piece = m_document.piece();
    setEnabled(m_document.isOpen());
    m_title->setText(QString::fromStdString(piece.title));
    m_guessed->setVisible(m_document.isOpen() && piece.title_guessed);
    m_composer->setText(QString::fromStdString(piece.about.composer));
    m_player->setText(QString::fromStdString(piece.about.player));
    m_transcriber->setText(QString::fromStdString(piece.about.transcriber));
    m_subtitle->setText(QString::fromStdString(piece.about.subtitle));
    m_source->setText(QString::fromStdString(piece.about.source));
    m_date->setText(QString::fromStdString(piece.about.date));
    m_key->setCurrentIndex(m_key->findData(piece.key.fifths));
}

void PieceCard::apply() {
    const Piece& piece = m_document.piece();
    const About about{textOf(*m_composer),
                      textOf(*m_player),
                      textOf(*m_transcriber),
                      textOf(*m_subtitle),
                      textOf(*m_source),
                      textOf(*m_date)};
    const std::string title = textOf(*m_title);
    if (!m_document.isOpen() || (title == piece.title && about == piece.about))
        return;
    m_document.edit(
        tr("set title and names"),
        0.0,
        [&](PieceEditor& e) { return e.setAbout(title, about); },
        Resolve::Nothing);
    refresh(); // what was refused stands as it was
}

void PieceCard::keepTitle() {
    const Piece& piece = m_document.piece();
    if (m_document.isOpen() && piece.title_guessed && textOf(*m_title) == piece.title)
        m_document.edit(
            tr("keep the title"),
            0.0,
            [&piece](PieceEditor& e) { return e.setAbout(piece.title, piece.about); },
            Resolve::Nothing);
}

void PieceCard::applyKey() {
    const KeySignature key{m_key->currentData().toInt()};
    if (m_document.isOpen() && key != m_document.piece().key)
        m_document.editShown(
            tr("set the key"),
            0.0,
            [key](PieceEditor& e) { return e.setKey(key); },
            Resolve::Nothing);
}

} // namespace wirenote::app
