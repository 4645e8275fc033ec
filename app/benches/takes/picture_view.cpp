#include "app/benches/takes/picture_view.h"

#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/text/wording.h"
#include "app/theme.h"

#include <QPainter>
#include <algorithm>
#include <cmath>
#include <utility>

namespace wirenote::app {

struct PictureView::Film {
    QString path;
    std::unique_ptr<PictureReader> reader;
};

PictureView::PictureView(Document& document, Transport& transport, Of of, QWidget* parent)
    : QWidget(parent), m_document(document), m_transport(transport), m_of(of),
      m_film(std::make_shared<Film>()) {
    setObjectName("picture");
    setAccessibleName(tr("Film of the take"));
    setMinimumSize(200, kLow);
    const auto anew = [this] {
        choose();
        follow();
    };
    connect(&document, &Document::opened, this, anew);
    connect(&document, &Document::changed, this, [anew](const Changes& what) {
        if (what.takes)
            anew();
    });
    connect(&transport, &Transport::changed, this, anew);
    connect(&transport, &Transport::moved, this, &PictureView::follow);
}

// The heard take's own film, or else the first there is; of the others the first.
void PictureView::choose() {
    const auto& takes = m_document.piece().takes;
    std::vector<std::size_t> films;
    for (std::size_t i = 0; i < takes.size(); ++i)
        if (takes[i].has_picture && m_document.media(i))
            films.push_back(i);
    std::stable_partition(
        films.begin(), films.end(), [this](std::size_t i) { return i == m_transport.take(); });
    const std::size_t rank = m_of == Of::Heard ? 0 : 1;
    const auto best = rank < films.size() ? std::optional(films[rank]) : std::nullopt;
    if (best == m_take)
        return;
    m_take = best;
    m_image = {};
    m_shown_s = -1.0;
    m_problem.clear();
    updateGeometry();
    update();
    emit chosen();
}

void PictureView::setLow(bool low) {
    m_low = low;
    updateGeometry();
}

double PictureView::late_s() const {
    return m_take ? m_document.piece().takes[*m_take].film.offset_s : 0.0;
}

QRectF PictureView::pictureRect() const {
    if (m_image.isNull())
        return {};
    const QSizeF size =
        QSizeF(m_image.size()).scaled(QSizeF(width() - 8, height() - 24), Qt::KeepAspectRatio);
    return {QPointF((width() - size.width()) / 2.0, 4), size};
}

QSizeF PictureView::filmSize() const {
    const TakeMedia* media = m_take ? m_document.media(*m_take) : nullptr;
    return media && media->info.picture.width > 0
               ? QSizeF(media->info.picture.width, media->info.picture.height)
               : QSizeF(m_image.size());
}

void PictureView::follow() {
    if (!m_take || !isVisible())
        return;
    const Take& take = m_document.piece().takes[*m_take];
    wish(take.alignment.toTake({m_transport.playhead_s()}).s + late_s(), Move::To);
}

void PictureView::step(int pictures) {
    if (!m_take)
        return;
    m_transport.pause();
    // From the picture that is shown, or where the playhead is when another one was.
    constexpr double kSame_s = 0.1;
    const double at_s =
        m_document.piece().takes[*m_take].alignment.toTake({m_transport.playhead_s()}).s + late_s();
    const bool shown = m_shown_s >= 0.0 && std::abs(m_shown_s - at_s) < kSame_s;
    wish(shown ? m_shown_s : std::max(0.0, at_s), pictures > 0 ? Move::Next : Move::Previous);
}

void PictureView::wish(double time_s, Move move) {
    m_wish = Wish{QString::fromStdString(m_document.piece().takes[*m_take].path), time_s, move};
    decodeNext();
}

void PictureView::decodeNext() {
    if (m_decoding.running() || !m_wish)
        return;
    const Wish wish = *std::exchange(m_wish, std::nullopt);
    m_decoding.run({}, [film = m_film, wish](const JobControl&) { return decoded(*film, wish); })
        .then([this, wish](const Found& found) {
            if (!found.problem.isEmpty()) {
                m_problem = found.problem;
                update();
            } else if (found.picture) {
                arrived(wish.path, found.picture, wish.move);
            }
            decodeNext();
        });
}

PictureView::Found PictureView::decoded(Film& film, const Wish& wish) {
    if (wish.path != film.path || !film.reader) {
        auto opened = PictureReader::open(wish.path.toStdString());
        film.path = wish.path;
        if (!opened)
            return {nullptr, sentence(opened.error())};
        film.reader = std::move(*opened);
    }
    return {wish.move == Move::To     ? film.reader->at(wish.time_s)
            : wish.move == Move::Next ? film.reader->after(wish.time_s)
                                      : film.reader->before(wish.time_s),
            {}};
}

void PictureView::arrived(const QString& path, std::shared_ptr<const Picture> picture, Move move) {
    const auto& takes = m_document.piece().takes;
    if (!m_take || *m_take >= takes.size() || QString::fromStdString(takes[*m_take].path) != path)
        return; // the take was changed meanwhile
    if (picture->time_s != m_shown_s || m_image.isNull()) {
        m_shown_s = picture->time_s;
        m_image = QImage(picture->bytes.data(),
                         picture->width,
                         picture->height,
                         3 * picture->width,
                         QImage::Format_RGB888)
                      .copy();
        update();
    }
    if (move != Move::To) // a hair behind its start, so that rounding does not fall before it
        m_transport.seek(takes[*m_take].alignment.toPiece({m_shown_s - late_s() + 1e-4}).s);
    emit shown();
}

void PictureView::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    follow();
}

void PictureView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(theme().line);
    painter.setBrush(theme().panel);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
    if (m_image.isNull()) {
        painter.setPen(theme().quiet);
        painter.setFont(uiFont(9.0));
        painter.drawText(rect().adjusted(12, 0, -12, 0),
                         Qt::AlignCenter | Qt::TextWordWrap,
                         m_take ? (m_problem.isEmpty() ? tr("opening the film …") : m_problem)
                                : tr("No take with a picture yet."));
        return;
    }
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.drawImage(pictureRect(), m_image);
    painter.setFont(uiFont(7.5));
    painter.setPen(theme().quiet);
    painter.drawText(QRectF(8, height() - 19, width() - 16, 16),
                     Qt::AlignVCenter | Qt::AlignLeft,
                     (m_of == Of::Heard
                          ? tr("take %1 at %2 · picture by picture: Ctrl+. and Ctrl+,")
                          : tr("take %1 at %2"))
                         .arg(*m_take + 1)
                         .arg(timeText(m_shown_s)));
}

} // namespace wirenote::app
