#include "app/benches/film/film_pane.h"

#include "app/benches/film/straight_neck.h"
#include "app/benches/film/stroke_words.h"
#include "app/benches/takes/picture_view.h"
#include "app/commands/film_commands.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/theme.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <algorithm>
#include <array>
#include <cmath>

namespace wirenote::app {
namespace {

constexpr double kPressed_s = 0.06; // after a note begins its finger is down
constexpr int kMostLate_ms = 2000;
constexpr int kSide = 244;  // pixels
constexpr int kRoomy = 280; // height from which the neck is shown straight, too

// What a click on the picture can show.
struct Shown {
    const char* name = nullptr;
    Finger finger = Finger::Unknown;
    Stroke stroke = Stroke::Unknown;
};
constexpr int kFingersShown = 5; // the first of them
constexpr std::array<Shown, 12> kShown = {
    {{QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "any finger")},
     {QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "index"), Finger::Index},
     {QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "middle"), Finger::Middle},
     {QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "ring"), Finger::Ring},
     {QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "little"), Finger::Little},
     {QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "down-stroke"), Finger::Unknown, Stroke::Down},
     {QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "up-stroke"), Finger::Unknown, Stroke::Up},
     {QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "p, thumb"), Finger::Unknown, Stroke::P},
     {QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "i, index"), Finger::Unknown, Stroke::I},
     {QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "m, middle"), Finger::Unknown, Stroke::M},
     {QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "a, ring"), Finger::Unknown, Stroke::A},
     {QT_TRANSLATE_NOOP("wirenote::app::FilmPane", "c, little"), Finger::Unknown, Stroke::C}}};

QPushButton* button(const QString& text, const char* name, const QString& tip) {
    auto* one = new QPushButton(text);
    one->setObjectName(name);
    one->setToolTip(tip);
    return one;
}

QVBoxLayout* columnOf(QWidget* holder) {
    auto* column = new QVBoxLayout(holder);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    return column;
}

// Two things side by side.
QHBoxLayout* beside(QWidget* first, QWidget* second) {
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    row->addWidget(first, 1);
    row->addWidget(second);
    return row;
}

QLabel* small(const QString& text) {
    auto* label = new QLabel(text);
    label->setFont(uiFont(9.0));
    return label;
}

} // namespace

FilmPane::FilmPane(Document& document,
                   Selection& selection,
                   Transport& transport,
                   FilmCommands& commands)
    : m_document(document), m_selection(selection), m_transport(transport), m_commands(commands),
      m_picture(new PictureView(document, transport)),
      m_overlay(new NeckOverlay(*m_picture, document, selection, commands)),
      m_straight(new StraightNeck(*m_picture, document, commands)), m_state(new QLabel) {
    setObjectName("filmPane");
    m_picture->setObjectName("film");
    m_looking = buildLooking();
    m_giving = buildGiving();
    m_counting = buildCounting();
    m_state->setFont(uiFont(9.0));
    m_state->setWordWrap(true);
    m_state->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    m_state->setObjectName("filmState");
    m_state->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Ignored);
    auto* side = new QWidget;
    side->setFixedWidth(kSide);
    auto* said = columnOf(side);
    said->addWidget(m_looking);
    said->addWidget(m_giving);
    said->addWidget(m_counting);
    said->addWidget(m_state, 1);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(8);
    upper->addWidget(m_picture, 1);
    upper->addWidget(side);
    auto* all = columnOf(this);
    all->addLayout(upper, 1);
    all->addWidget(m_straight);
    connect(m_overlay, &NeckOverlay::modeChanged, this, &FilmPane::refresh);
    connect(m_picture, &PictureView::chosen, this, [this] {
        m_overlay->setMode(NeckOverlay::Mode::Look);
    });
    connect(m_overlay, &NeckOverlay::accepted, this, &FilmPane::giveOrUse);
    connect(m_overlay, &NeckOverlay::pointed, this, &FilmPane::place);
    connect(&selection, &Selection::changed, this, [this] {
        say();
        goToNote();
    });
    connect(&document, &Document::opened, this, &FilmPane::refresh);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.takes || what.notes)
            refresh();
    });
    refresh();
}

QWidget* FilmPane::buildLooking() {
    auto* holder = new QWidget;
    auto* column = columnOf(holder);
    auto* look = button(tr("L&ook at the film"),
                        "lookAtFilm",
                        tr("Finds the neck, follows it, and sees at every note where the fingers "
                           "are. It takes some times the length of the film."));
    connect(look, &QPushButton::clicked, &m_commands, [this] { m_commands.look(shownTake()); });
    m_large = button(tr("Lar&ge"), "filmLarge", tr("The film takes the room of the cards."));
    m_large->setCheckable(true);
    connect(m_large, &QPushButton::toggled, this, &FilmPane::refresh);
    column->addLayout(beside(look, m_large));
    auto* give = button(tr("Give the nec&k"),
                        "giveNeck",
                        tr("Say where the neck is in this picture, by four points."));
    connect(give, &QPushButton::clicked, this, &FilmPane::giveOrUse);
    m_show = button(tr("Sho&w places"),
                    "showPlaces",
                    tr("A click on the picture says: this fingertip plays the chosen note. Right "
                       "goes to the next note."));
    m_show->setCheckable(true);
    connect(m_show, &QPushButton::clicked, this, &FilmPane::showPlaces);
    auto* both = beside(give, m_show);
    both->setStretch(1, 1);
    column->addLayout(both);
    m_finger = new QComboBox;
    m_finger->setObjectName("shownFinger");
    m_finger->setAccessibleName(tr("Finger or stroke that is shown"));
    m_finger->setToolTip(tr("What the next click shows: a fingertip of the fretting hand on its "
                            "fret, or a pick or finger on its string where it plucks"));
    for (const Shown& shown : kShown)
        m_finger->addItem(tr(shown.name));
    m_finger->insertSeparator(kFingersShown);
    column->addWidget(m_finger);
    QLabel* late = small(tr("film late &by"));
    m_late = new QSpinBox;
    m_late->setObjectName("filmLate");
    m_late->setRange(-kMostLate_ms, kMostLate_ms);
    m_late->setSuffix(tr(" ms"));
    m_late->setKeyboardTracking(false);
    m_late->setToolTip(tr("By how much the picture comes after its sound. Changing it looks at "
                          "the film again."));
    late->setBuddy(m_late);
    connect(m_late, &QSpinBox::valueChanged, this, [this](int ms) {
        m_commands.setOffset(shownTake(), ms / 1000.0);
    });
    column->addLayout(beside(late, m_late));
    return holder;
}

// One question: the grid is shown as it would lie, and fits or not.
QWidget* FilmPane::buildCounting() {
    constexpr int kMost = 7; // frets
    auto* holder = new QWidget;
    holder->setObjectName("filmCounting");
    auto* column = columnOf(holder);
    auto* frets = new QSpinBox;
    frets->setObjectName("countedFurther");
    frets->setRange(-kMost, kMost);
    frets->setToolTip(
        tr("Until the lines lie on the frets of the picture and the numbers are right"));
    frets->setAccessibleName(tr("Frets counted further on"));
    auto* right = button(tr("The lines &fit"), "countFits", tr("The film is looked at again."));
    column->addLayout(beside(right, frets));
    connect(frets, &QSpinBox::valueChanged, &m_commands, &FilmCommands::tryCount);
    connect(right, &QPushButton::clicked, this, [this] {
        m_transport.pause();
        m_commands.acceptCount(shownTake(), m_picture->shown_s());
    });
    connect(&m_commands, &FilmCommands::countTried, this, [this] {
        m_overlay->update();
        m_straight->update();
    });
    // What is tried is tried of one film.
    connect(&m_document, &Document::opened, frets, [frets] { frets->setValue(0); });
    connect(m_picture, &PictureView::chosen, frets, [frets] { frets->setValue(0); });
    return holder;
}

QWidget* FilmPane::buildGiving() {
    auto* holder = new QWidget;
    auto* column = columnOf(holder);
    auto* use = button(tr("&Use this neck"), "useNeck", tr("Return"));
    connect(use, &QPushButton::clicked, this, &FilmPane::giveOrUse);
    auto* cancel = button(tr("Cancel"), "cancelNeck", tr("Escape"));
    connect(cancel, &QPushButton::clicked, this, [this] {
        m_overlay->setMode(NeckOverlay::Mode::Look);
    });
    column->addLayout(beside(use, cancel));
    auto* first = new QSpinBox;
    auto* second = new QSpinBox;
    for (QSpinBox* fret : {first, second}) {
        constexpr int kLast = 20;
        fret->setRange(0, kLast);
        fret->setToolTip(tr("0 is the nut. Any two frets that can be seen will do."));
    }
    auto* row = beside(small(tr("points on frets")), first);
    row->addWidget(second);
    column->addLayout(row);
    first->setObjectName("firstWire");
    second->setObjectName("secondWire");
    second->setValue(12);
    for (QSpinBox* fret : {first, second})
        connect(fret, &QSpinBox::valueChanged, this, [this, first, second] {
            m_overlay->setWires(first->value(), second->value());
        });
    return holder;
}

bool FilmPane::wantsRoom() const {
    return m_large->isChecked() || m_overlay->mode() != NeckOverlay::Mode::Look;
}

bool FilmPane::hasPicture() const {
    return m_picture->hasPicture();
}

void FilmPane::step(int pictures) {
    m_picture->step(pictures);
}

void FilmPane::giveOrUse() {
    if (m_overlay->mode() != NeckOverlay::Mode::Give) {
        m_transport.pause();
        m_overlay->setMode(NeckOverlay::Mode::Give);
        return;
    }
    const auto frame = m_overlay->given();
    if (!frame) {
        emit m_commands.said(tr("These points are no neck: three of them lie on one line."));
        return;
    }
    m_overlay->setMode(NeckOverlay::Mode::Look);
    m_commands.giveNeck(shownTake(), *frame);
}

void FilmPane::showPlaces() {
    const bool show = m_overlay->mode() != NeckOverlay::Mode::Show;
    m_overlay->setMode(show ? NeckOverlay::Mode::Show : NeckOverlay::Mode::Look);
    if (show)
        m_transport.pause();
    goToNote();
}

// While places are shown the picture goes with the chosen note.
void FilmPane::goToNote() {
    const Note* note = m_document.piece().note(m_selection.note());
    if (note && m_overlay->mode() == NeckOverlay::Mode::Show)
        m_transport.seek(note->onset_s() + kPressed_s);
}

void FilmPane::place(double film_s, PicturePoint at) {
    const int row = std::max(0, m_finger->currentIndex());
    const Shown& shown = kShown[static_cast<std::size_t>(row > kFingersShown ? row - 1 : row)];
    if (shown.stroke == Stroke::Unknown)
        m_commands.showPlace(shownTake(), film_s, at, shown.finger);
    else
        m_commands.showStroke(shownTake(), film_s, at, shown.stroke);
}

std::size_t FilmPane::shownTake() const {
    return m_picture->take().value_or(0);
}

const Take* FilmPane::take() const {
    const auto& takes = m_document.piece().takes;
    return m_picture->take() && shownTake() < takes.size() ? &takes[shownTake()] : nullptr;
}

QString FilmPane::stateText() const {
    switch (m_overlay->mode()) {
    case NeckOverlay::Mode::Give:
        return tr("Drag the four points to where the two frets meet the edges of the fingerboard; "
                  "or Space for the next point and arrows to move it. Choose a sharp picture.");
    case NeckOverlay::Mode::Show:
        return tr("Click the fingertip that plays the chosen note, or the pick or finger that "
                  "strikes it; Right for the next note, "
                  "Ctrl+. and Ctrl+, for the next and last picture, Escape to end.");
    case NeckOverlay::Mode::Look:
        break;
    }
    const Take* shown = take();
    if (!shown || !shown->film.told())
        return tr(
            "The film has not been looked at, or no neck was found in it. Look at it, or give "
            "the neck by four points.");
    const FilmFacts& film = shown->film;
    if (film.followed <= 0.0)
        return tr("The neck is given in one picture; the film has not been looked at from there.");
    if (m_commands.countInDoubt(shownTake()))
        return tr("Which fret is which is likely to %1 % only: turn the number until the lines lie "
                  "on the frets.")
            .arg(std::lround(100.0 * film.numbering));
    QStringList said;
    said << (film.neck == Basis::Set ? tr("Neck given, followed in %1 % of the pictures.")
                                     : tr("Neck found, followed in %1 % of the pictures."))
                .arg(std::lround(100.0 * film.followed));
    if (film.off_mm >= 0.0)
        said << tr("Its frets lie about %1 mm from the lines.").arg(film.off_mm, 0, 'f', 1);
    constexpr double kTrusted = 0.5;
    if (film.trust <= 0.0)
        said << tr("Its hands do not fit what is heard: it counts for nothing.");
    else if (film.trust < kTrusted)
        said << tr("Its hands fit what is heard only partly: it counts little.");
    else
        said << tr("Its hands fit what is heard.");
    if (film.offset == Basis::Reasoned)
        said << tr("How late it is could not be told from it.");
    // Nothing is made of hands that are not those of this sound.
    const QString habit =
        film.trust > 0.0 ? habitWords(m_document.piece(), shownTake()) : QString();
    for (const QString& more : {noteText(), habit})
        if (!more.isEmpty())
            said << "\n" + more;
    return said.join(' ');
}

// All of it, also where there is room for some only.
void FilmPane::say() {
    const QString text = stateText();
    m_state->setText(text);
    m_state->setToolTip(text);
}

void FilmPane::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    const Take* shown = take();
    m_straight->setVisible(shown && shown->film.told() && height() >= kRoomy &&
                           m_overlay->mode() != NeckOverlay::Mode::Give);
}

QString FilmPane::noteText() const {
    const Note* note = m_document.piece().note(m_selection.note());
    const NoteFacts* facts = note ? note->factsOf(shownTake()) : nullptr;
    if (!facts)
        return {};
    constexpr double kPresses = 0.5;
    QStringList down;
    // Whose finger a tip is, several of them tell.
    const auto numbered =
        std::ranges::count_if(facts->seen.tips, [](const SeenTip& t) { return t.finger > 0; });
    for (const SeenTip& tip : facts->seen.tips)
        if (tip.finger > 0 && numbered > 1 && tip.pressed.value_or(0.0) >= kPresses)
            down << QString::number(tip.finger);
    QStringList said;
    if (!down.isEmpty())
        said << tr("Fingers down: %1.").arg(down.join(", "));
    if (facts->seen.plucked_mm && facts->seen.down)
        said << tr("The plucking hand is about %1 mm from the bridge.")
                    .arg(std::lround(*facts->seen.plucked_mm));
    if (facts->seen.plucked_mm && facts->seen.down && facts->seen.swing_mm)
        said << tr("It crosses the strings by about %1 mm at this stroke.")
                    .arg(std::lround(*facts->seen.swing_mm));
    if (const QString source = sourceWords(facts->seen); !source.isEmpty())
        said << source;
    return said.join(' ');
}

void FilmPane::refresh() {
    const auto mode = m_overlay->mode();
    const bool giving = mode == NeckOverlay::Mode::Give;
    m_giving->setVisible(giving);
    m_looking->setVisible(!giving);
    m_counting->setVisible(mode == NeckOverlay::Mode::Look && m_commands.countInDoubt(shownTake()));
    m_show->setChecked(mode == NeckOverlay::Mode::Show);
    m_finger->setVisible(mode == NeckOverlay::Mode::Show);
    const Take* shown = take();
    const bool told = shown && shown->film.told();
    m_straight->setVisible(told && !giving && height() >= kRoomy);
    m_show->setEnabled(told);
    const QSignalBlocker quiet(m_late);
    m_late->setValue(shown ? static_cast<int>(std::lround(1000.0 * shown->film.offset_s)) : 0);
    say();
    if (wantsRoom() != m_had_room) {
        m_had_room = wantsRoom();
        emit roomWanted(m_had_room);
    }
}

} // namespace wirenote::app
