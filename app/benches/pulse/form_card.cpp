#include "app/benches/pulse/form_card.h"

#include "app/commands/pulse_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/text/form_wording.h"
#include "app/text/wording.h"
#include "music/scales.h"

#include <QInputDialog>
#include <QPushButton>

namespace wirenote::app {

FormCard::FormCard(Document& document,
                   Transport& transport,
                   Derived& derived,
                   PulseCommands& pulse,
                   QWidget* parent)
    : Card(parent), m_document(document), m_transport(transport), m_derived(derived),
      m_pulse(pulse) {
    setObjectName("form");
    setAccessibleName(tr("The form: what comes again, and how it differs"));
    m_soon.setSingleShot(true);
    m_soon.setInterval(0);
    connect(&m_soon, &QTimer::timeout, this, &FormCard::rebuild);
    const auto soon = [this] { m_soon.start(); };
    connect(&document, &Document::opened, this, soon);
    connect(&document, &Document::changed, this, [soon](const Changes& what) {
        if (what.timeline)
            soon();
    });
    connect(&derived, &Derived::changed, this, soon);
    rebuild();
}

void FormCard::rebuild() {
    delete m_content;
    m_content = new QWidget;
    m_rows = new QVBoxLayout(m_content);
    m_rows->setContentsMargins(0, 0, 0, 0);
    m_rows->setSpacing(5);
    column()->addWidget(m_content);
    m_rows->addWidget(label(tr("The form"), 12, true, theme().ink));
    if (m_derived.form().phrases.empty()) {
        m_rows->addWidget(label(m_document.isOpen() ? tr("Nothing was found to come again.")
                                                    : tr("Open a recording to begin."),
                                9.0,
                                false,
                                theme().quiet));
    } else {
        addParts();
        auto* keep = new QPushButton(tr("Keep these as sections"));
        keep->setObjectName("keepForm");
        keep->setMinimumHeight(32);
        connect(keep, &QPushButton::clicked, &m_pulse, &PulseCommands::keepForm);
        m_rows->addWidget(keep);
    }
    addTwelveBars();
    addSections();
    m_rows->addStretch(1);
    m_content->show();
}

void FormCard::addParts() {
    const Derived::Form& form = m_derived.form();
    for (std::size_t i = 0; i < form.parts.size(); ++i) {
        const FormPart& part = form.parts[i];
        auto* go = new QPushButton(partText(form.parts, i) + QStringLiteral("   ") +
                                   barsText(part.first_bar, part.first_bar + part.bars - 1));
        go->setObjectName(QString("part_%1").arg(i));
        go->setStyleSheet("text-align: left; padding-left: 8px;");
        go->setMinimumHeight(28);
        const double start_s = part.span.start_s;
        connect(go, &QPushButton::clicked, this, [this, start_s] { m_transport.seek(start_s); });
        m_rows->addWidget(go);
        if (part.label.empty())
            continue;
        const Phrase& phrase = form.phrases[part.phrase];
        QStringList words = differenceText(form.bars, phrase, part.occurrence);
        if (const int up = phrase.occurrences[part.occurrence].transposed; up != 0)
            words.prepend(intervalText(up));
        if (!words.isEmpty())
            m_rows->addWidget(label(words.join("\n"), 8.5, false, theme().quiet));
    }
    const auto& parts = form.parts;
    if (parts.size() > 2 && parts.back().label == parts.front().label &&
        !parts.back().label.empty())
        m_rows->addWidget(label(tr("The end is the beginning again: it may be written da capo."),
                                8.5,
                                false,
                                theme().quiet));
}

void FormCard::addTwelveBars() {
    const Spelling spelling = m_document.piece().key.spelling();
    for (const TwelveBars& form : m_derived.form().twelve) {
        QStringList other;
        for (const int bar : form.departures)
            other << QString::number(bar);
        const QString tonic = QString::fromStdString(pitchClassName(form.tonic, spelling));
        QString text = tr("Twelve bars in %1 from bar %2").arg(tonic).arg(form.first_bar);
        if (!other.isEmpty())
            text += tr("; another chord in bar %1").arg(other.join(", "));
        m_rows->addWidget(label(text, 9.0, false, theme().ink));
    }
}

void FormCard::addSections() {
    const auto& sections = m_document.piece().timeline.sections;
    if (sections.empty())
        return;
    m_rows->addWidget(label(tr("Sections"), 10, true, theme().ink));
    for (std::size_t i = 0; i < sections.size(); ++i) {
        const QString name = QString::fromStdString(sections[i].label);
        auto* rename = new QPushButton(tr("%1   rename…").arg(name));
        rename->setObjectName(QString("section_%1").arg(i));
        rename->setStyleSheet("text-align: left; padding-left: 8px;");
        rename->setMinimumHeight(28);
        connect(rename, &QPushButton::clicked, this, [this, i, name] {
            bool good = false;
            const QString wanted = QInputDialog::getText(
                this, tr("Name of the section"), tr("Name"), QLineEdit::Normal, name, &good);
            if (good && !wanted.trimmed().isEmpty())
                m_pulse.renameSection(i, wanted);
        });
        m_rows->addWidget(rename);
    }
    auto* remove = new QPushButton(tr("Remove the sections"));
    remove->setMinimumHeight(28);
    connect(remove, &QPushButton::clicked, &m_pulse, &PulseCommands::removeSections);
    m_rows->addWidget(remove);
}

} // namespace wirenote::app
