#include "app/benches/takes/played_list.h"

#include "app/benches/takes/forms_view.h"
#include "app/commands/playings.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/text/form_wording.h"
#include "app/text/playing_wording.h"
#include "app/text/wording.h"

#include <QHeaderView>
#include <algorithm>

namespace wirenote::app {
namespace {

constexpr int kMostRows = 2000;

} // namespace

PlayedList::PlayedList(Of what,
                       Document& document,
                       Derived& derived,
                       Transport& transport,
                       Playings& playings,
                       QWidget* parent)
    : Card(parent), m_what(what), m_document(document), m_derived(derived), m_transport(transport),
      m_playings(playings), m_rows(new QTreeWidget),
      m_nothing(label({}, 9.0, false, theme().quiet)) {
    setAccessibleName(nameOf(what));
    m_rows->setObjectName(what == Of::Stretches  ? "playedRows"
                          : what == Of::Forms    ? "formRows"
                          : what == Of::Variants ? "variantRows"
                          : what == Of::Bars     ? "barRows"
                                                 : "shotRows");
    m_rows->setAccessibleName(nameOf(what));
    m_rows->setRootIsDecorated(false);
    m_rows->setUniformRowHeights(true);
    m_rows->setAllColumnsShowFocus(true);
    m_rows->setFrameShape(QFrame::NoFrame);
    if (what == Of::Forms) {
        column()->addWidget(new FormsView(document, derived, transport, playings));
        connect(&transport, &Transport::changed, &m_soon, qOverload<>(&QTimer::start));
    }
    column()->addWidget(m_nothing);
    column()->addWidget(m_rows, 1);
    m_soon.setSingleShot(true);
    m_soon.setInterval(0);
    connect(&m_soon, &QTimer::timeout, this, &PlayedList::rebuild);
    const auto soon = [this] { m_soon.start(); };
    connect(&document, &Document::opened, this, soon);
    connect(&document, &Document::changed, this, [soon](const Changes& changes) {
        if (changes.takes || changes.timeline)
            soon();
    });
    connect(&derived, &Derived::changed, this, soon);
    connect(m_rows, &QTreeWidget::itemActivated, this, &PlayedList::hear);
    rebuild();
}

QString PlayedList::nameOf(Of what) {
    switch (what) {
    case Of::Stretches:
        return tr("What was played");
    case Of::Forms:
        return tr("Two forms");
    case Of::Variants:
        return tr("Played otherwise");
    case Of::Bars:
        return tr("Bars, worst first");
    case Of::Shots:
        break;
    }
    return tr("Not seen yet");
}

void PlayedList::rebuild() {
    const int chosen = m_rows->indexOfTopLevelItem(m_rows->currentItem());
    m_rows->clear();
    m_hear.clear();
    switch (m_what) {
    case Of::Stretches:
        fillPlayed();
        break;
    case Of::Forms:
        fillForms();
        break;
    case Of::Variants:
        fillOtherwise();
        break;
    case Of::Bars:
        fillBars();
        break;
    case Of::Shots:
        fillShots();
        break;
    }
    m_nothing->setVisible(m_hear.empty());
    m_rows->setVisible(!m_hear.empty());
    for (int c = 0; c + 1 < m_rows->columnCount(); ++c)
        m_rows->resizeColumnToContents(c);
    if (QTreeWidgetItem* item = m_rows->topLevelItem(chosen))
        m_rows->setCurrentItem(item);
}

void PlayedList::add(const QStringList& cells, std::function<void()> hear, bool strong) {
    auto* item = new QTreeWidgetItem(cells);
    if (strong)
        for (int c = 0; c < cells.size(); ++c)
            item->setForeground(c, theme().accent);
    m_rows->addTopLevelItem(item);
    m_hear.push_back(std::move(hear));
}

void PlayedList::say(const QString& nothing_yet) {
    if (m_hear.empty())
        m_nothing->setText(nothing_yet);
}

void PlayedList::hear(QTreeWidgetItem* item) {
    const auto row = static_cast<std::size_t>(m_rows->indexOfTopLevelItem(item));
    if (row < m_hear.size())
        m_hear[row]();
}

// What a person should say something of stands first.
void PlayedList::fillPlayed() {
    m_rows->setHeaderLabels({tr("Where"), tr("What it shows"), tr("Sure"), tr("Counts")});
    const Piece& piece = m_document.piece();
    std::vector<PlayingRef> all;
    for (std::size_t t = 0; t < piece.takes.size(); ++t)
        for (std::size_t d = 0; d < piece.takes[t].demonstrations.size(); ++d)
            all.push_back({t, d});
    const auto isAsked = [this](PlayingRef p) {
        const auto& learn = m_playings.get(p)->learn;
        return !learn.value && !learn.isSet();
    };
    std::ranges::stable_sort(all,
                             [&](PlayingRef a, PlayingRef b) { return isAsked(a) && !isAsked(b); });
    for (const PlayingRef playing : all) {
        if (static_cast<int>(m_hear.size()) >= kMostRows)
            break;
        const Demonstration& one = *m_playings.get(playing);
        const auto& shown = piece.takes[playing.take].demonstrations;
        const auto next = nextOfSameBars(shown, playing.demonstration);
        const QString counts = isAsked(playing) && next && shown[*next].learn.value
                                   ? tr("not yet: wrong, and right at %1? Ctrl+D if it counts")
                                         .arg(timeText(shown[*next].span.start_s))
                               : isAsked(playing)
                                   ? tr("not yet: it differs from the others – Ctrl+D if it counts")
                               : one.learn.value ? tr("yes")
                                                 : tr("no, you said so");
        add(
            {tr("take %1, %2–%3")
                 .arg(playing.take + 1)
                 .arg(timeText(one.span.start_s), timeText(one.span.end_s)),
             shownText(piece, one),
             percentText(one.probability),
             counts},
            [this, playing] { m_playings.hear(playing); },
            isAsked(playing));
    }
    say(tr(
        "What the takes show is not known yet. Takes, “Hear what every take shows”, finds what is "
        "played slowly, in pieces or once more."));
}

void PlayedList::fillForms() {
    m_rows->setHeaderLabels({tr("In the take"), tr("What is otherwise")});
    const std::size_t take = m_playings.comparedTake();
    const Piece& piece = m_document.piece();
    const FormComparison forms =
        take < piece.takes.size() ? compareForms(piece, take) : FormComparison{};
    for (const FormDifference& one : forms.differences) {
        if (static_cast<int>(m_hear.size()) >= kMostRows)
            break;
        add({timeText(one.in_take.start_s), formDifferenceText(piece, one)},
            [this, one, take] { m_playings.hearDifference(take, one); });
    }
    say(take >= piece.takes.size()
            ? tr("Add another version of the piece (Ctrl+Shift+O): its form is held against that "
                 "of the first.")
        : piece.takes[take].demonstrations.empty()
            ? tr("Nobody has listened to this take yet. Takes, “Hear what every take shows”, finds "
                 "which of its parts are parts of the piece.")
        : forms.ties.empty() ? tr("Take %1 plays nothing of the piece.").arg(take + 1)
                             : tr("The form is the same from the first bar to the last."));
}

void PlayedList::fillOtherwise() {
    m_rows->setHeaderLabels({tr("How often"), tr("What was played")});
    const Derived::Form& form = m_derived.form();
    for (const Variant& one : form.variants) {
        if (static_cast<int>(m_hear.size()) >= kMostRows)
            break;
        const double at_s = one.piece_s;
        add({tr("%1 of %2").arg(one.times).arg(one.of), variantText(m_document.piece(), one)},
            [this, at_s, version = form.versions[one.versions.front()]] {
                m_transport.seek(at_s);
                if (version.demonstration)
                    m_playings.hear({version.take, *version.demonstration});
                else
                    m_transport.playOnce(
                        {inTake(version.moments, at_s) - 0.5, inTake(version.moments, at_s) + 1.0});
            });
    }
    say(tr("No place was played in two ways."));
}

void PlayedList::fillBars() {
    m_rows->setHeaderLabels({tr("Bar"), tr("Doubt"), tr("What it rests on"), tr("Heard best in")});
    const Piece& piece = m_document.piece();
    for (const BarEvidence& bar : m_derived.form().evidence) {
        if (static_cast<int>(m_hear.size()) >= kMostRows)
            break;
        const Demonstration* best = bar.best_demonstration
                                        ? m_playings.get({bar.best_take, *bar.best_demonstration})
                                        : nullptr;
        add({QString::number(bar.number),
             percentText(bar.doubt),
             evidenceText(bar),
             best ? playingText(piece, *best, bar.best_take) : tr("the leading take")},
            [this, bar] {
                m_transport.setLoop(bar.span);
                m_transport.seek(bar.span.start_s);
                if (bar.best_demonstration)
                    m_playings.hear({bar.best_take, *bar.best_demonstration});
                else
                    m_transport.play();
            });
    }
    say(tr("There are no bars yet."));
}

// What films do not show, as a list of pictures to take; Enter goes there.
void PlayedList::fillShots() {
    m_rows->setHeaderLabels({tr("Bars"), tr("Hidden"), tr("What it must show"), tr("How")});
    const Piece& piece = m_document.piece();
    for (const WantedShot& shot : wantedShots(m_derived.form().seen)) {
        if (static_cast<int>(m_hear.size()) >= kMostRows)
            break;
        add({barsText(shot.first_bar, shot.last_bar),
             hiddenText(shot),
             angleText(shot),
             shotText(piece, shot)},
            [this, shot] {
                m_transport.setLoop(shot.span);
                m_transport.seek(shot.span.start_s);
            });
    }
    say(m_derived.form().seen.empty() ? tr("There are no bars yet.")
                                      : tr("Both hands are seen in every bar."));
}

} // namespace wirenote::app
