#include "app/document/exporting.h"

#include "app/banner.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/text/wording.h"
#include "base/atomic_file.h"
#include "painting/write_sheet.h"
#include "session/carried.h"
#include "session/files.h"
#include "session/sheet.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>

namespace wirenote::app {
namespace {

QString suggestedPath(const Document& document, const QString& ending) {
    const QString base = document.file().isEmpty()
                             ? QString::fromStdString(document.piece().title)
                             : QFileInfo(document.file()).path() + "/" +
                                   QFileInfo(document.file()).completeBaseName();
    return base + ending;
}

// As a list in a sentence.
QString partsText(const std::vector<PiecePart>& parts) {
    static const QStringList kWords = {Exporting::tr("strings and frets"),
                                       Exporting::tr("fingers"),
                                       Exporting::tr("strokes"),
                                       Exporting::tr("slurs"),
                                       Exporting::tr("bends"),
                                       Exporting::tr("techniques"),
                                       Exporting::tr("the second voice"),
                                       Exporting::tr("names of chords"),
                                       Exporting::tr("sections"),
                                       Exporting::tr("dynamics and other marks"),
                                       Exporting::tr("who made it"),
                                       Exporting::tr("the time as it was played"),
                                       Exporting::tr("how it is known"),
                                       Exporting::tr("other readings"),
                                       Exporting::tr("the takes")};
    QStringList words;
    for (const PiecePart part : parts)
        words << kWords[static_cast<int>(part)];
    const QString last = words.takeLast();
    return words.isEmpty() ? last : Exporting::tr("%1 and %2").arg(words.join(", "), last);
}

Exporting::Conflict askAboutConflict(QWidget* window, const QString& what) {
    QMessageBox box(QMessageBox::Warning,
                    Exporting::tr("Somebody else changed it"),
                    Exporting::tr("%1. Saving here would lose those changes.").arg(what),
                    QMessageBox::NoButton,
                    window);
    auto* as = box.addButton(Exporting::tr("Save under another name…"), QMessageBox::AcceptRole);
    auto* over = box.addButton(Exporting::tr("Write over it"), QMessageBox::DestructiveRole);
    box.addButton(QMessageBox::Cancel);
    box.setDefaultButton(as);
    box.exec();
    return box.clickedButton() == as     ? Exporting::Conflict::SaveAs
           : box.clickedButton() == over ? Exporting::Conflict::Overwrite
                                         : Exporting::Conflict::Leave;
}

} // namespace

Exporting::Exporting(Document& document, Derived& derived, Banner& banner, QWidget* window)
    : QObject(window), m_document(document), m_derived(derived), m_banner(banner), m_window(window),
      m_answer([window](const QString& what) { return askAboutConflict(window, what); }) {}

bool Exporting::save() {
    return m_document.file().isEmpty() ? saveAs() : saveTo(m_document.file());
}

bool Exporting::saveAs() {
    if (!m_document.isOpen())
        return false;
    QString path = QFileDialog::getSaveFileName(m_window,
                                                tr("Save the piece"),
                                                suggestedPath(m_document, ".wirenote"),
                                                tr("Wirenote piece (*.wirenote)"));
    if (path.isEmpty())
        return false;
    if (QFileInfo(path).suffix() != "wirenote")
        path += ".wirenote";
    return saveTo(path);
}

bool Exporting::saveTo(const QString& path) {
    Status saved = m_document.save(path);
    if (!saved && saved.error().kind == ErrorKind::Conflict)
        switch (m_answer(sentence(saved.error()))) {
        case Conflict::SaveAs:
            return saveAs();
        case Conflict::Overwrite:
            saved = m_document.save(path, Document::Overwrite::Allow);
            break;
        case Conflict::Leave:
            return false;
        }
    if (!saved)
        m_banner.say(sentence(saved.error()));
    else
        m_banner.hint(tr("Saved as %1.").arg(QFileInfo(path).fileName()));
    return saved.ok();
}

void Exporting::askAndExport() {
    if (!m_document.isOpen())
        return;
    QString filter;
    QString path = QFileDialog::getSaveFileName(
        m_window,
        tr("Export"),
        suggestedPath(m_document, ".musicxml"),
        tr("MusicXML (*.musicxml);;Compressed MusicXML (*.mxl);;PDF pages (*.pdf);;SVG picture "
           "(*.svg);;PNG picture (*.png);;MIDI (*.mid);;Tab as text (*.tab);;Rows of values "
           "(*.csv);;Notes JSON (*.json);;JAMS (*.jams)"),
        &filter);
    if (path.isEmpty())
        return;
    if (QFileInfo(path).suffix().isEmpty()) {
        const auto from = filter.lastIndexOf("*.");
        path += filter.mid(from + 1).chopped(1);
    }
    exportTo(path);
}

bool Exporting::exportTo(const QString& path) {
    std::vector<std::filesystem::path> inputs = {m_document.file().toStdString()};
    for (const Take& take : m_document.piece().takes)
        inputs.emplace_back(take.path);
    if (const Status apart = checkOutputs(inputs, {path.toStdString()}); !apart) {
        m_banner.say(sentence(apart.error()));
        return false;
    }
    const Piece piece = m_document.written();
    const Status written =
        sheetFileOf(path.toStdString())
            ? writePages(pagesOf(piece, m_derived.school()), piece.title, path.toStdString())
            : writeAny(piece, path.toStdString());
    if (!written) {
        m_banner.say(sentence(written.error()));
        return false;
    }
    QString said = tr("Written to %1.").arg(QFileInfo(path).fileName());
    if (const auto format = formatOf(path.toStdString()))
        if (const auto missing = notCarried(piece, *format); !missing.empty())
            said += " " + tr("It cannot hold %1.").arg(partsText(missing));
    m_derived.wait();
    const auto doubts = static_cast<int>(m_derived.doubts().size());
    if (doubts > 0)
        said += " " + countText(doubts,
                                QT_TRANSLATE_NOOP("wording", "%1 doubt is still open."),
                                QT_TRANSLATE_NOOP("wording", "%1 doubts are still open."));
    m_banner.hint(said);
    m_document.noteExport(path);
    return true;
}

} // namespace wirenote::app
