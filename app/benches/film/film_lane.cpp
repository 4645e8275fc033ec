#include "app/benches/film/film_lane.h"

#include "app/document/document.h"
#include "app/text/wording.h"
#include "app/theme.h"

#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

constexpr int kWidest = 192; // pixels that are decoded
constexpr std::size_t kMostKept = 600;
constexpr double kStepsPerOctave = 4.0; // of zooming: pictures between two steps stay the same

// How far pictures of this width stand apart: a little more than they need, so that zooming a
// little wants no others.
double stepFor(double width_px, double pixels_per_s) {
    return std::exp2(std::ceil(kStepsPerOctave * std::log2(width_px / pixels_per_s)) /
                     kStepsPerOctave);
}

QImage imageOf(const Picture& picture) {
    return QImage(picture.bytes.data(),
                  picture.width,
                  picture.height,
                  3 * picture.width,
                  QImage::Format_RGB888)
        .copy();
}

} // namespace

struct FilmLane::Film {
    std::string path;
    std::unique_ptr<PictureReader> reader;
};

FilmLane::FilmLane(Document& document) : m_document(document), m_film(std::make_shared<Film>()) {
    m_soon.setSingleShot(true);
    m_soon.setInterval(0);
    connect(&m_soon, &QTimer::timeout, this, &FilmLane::decodeNext);
    connect(&document, &Document::opened, this, &FilmLane::forget);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.takes && path() != m_path)
            forget();
        if (what.takes)
            emit stale({});
    });
    forget(); // lanes come and go with benches
}

QString FilmLane::name() const {
    return tr("film");
}

bool FilmLane::wanted() const {
    return take().has_value();
}

std::optional<std::size_t> FilmLane::take() const {
    const auto& takes = m_document.piece().takes;
    for (std::size_t i = 0; i < takes.size(); ++i)
        if (takes[i].has_picture && m_document.media(i) &&
            (i == 0 || takes[i].alignment.basis != Basis::Reasoned))
            return i;
    return std::nullopt;
}

std::string FilmLane::path() const {
    const auto shown = take();
    return shown ? m_document.piece().takes[*shown].path : std::string();
}

double FilmLane::film_s(double piece_s) const {
    const Take& of = m_document.piece().takes[*take()];
    return of.alignment.toTake({piece_s}).s + of.film.offset_s;
}

double FilmLane::aspect() const {
    constexpr double kUsual = 16.0 / 9.0;
    const auto shown = take();
    const TakeMedia* media = shown ? m_document.media(*shown) : nullptr;
    return media && media->info.picture.height > 0
               ? static_cast<double>(media->info.picture.width) / media->info.picture.height
               : kUsual;
}

// Another film: nothing of the last one is shown in it.
void FilmLane::forget() {
    ++m_opened;
    m_pictures.clear();
    m_missing.clear();
    m_film = std::make_shared<Film>();
    m_path = path();
    emit stale({});
}

void FilmLane::paint(QPainter& painter, const LaneArea& area) const {
    if (!wanted())
        return;
    const double high = area.rect.height() - 2.0;
    const double wide = std::max(8.0, high * aspect());
    const double step_s = stepFor(wide, area.pixels_per_s);
    const double length_s = m_document.piece().lead()->length_s;
    m_missing.clear();
    const auto first = static_cast<Millis>(std::floor(std::max(0.0, area.start_s) / step_s));
    for (Millis k = first;; ++k) {
        const double time_s = static_cast<double>(k) * step_s;
        if (time_s > area.end_s() || time_s >= length_s)
            break;
        const Millis film_ms = std::llround(1000.0 * std::max(0.0, film_s(time_s)));
        const QRectF place(area.xOf(time_s), area.rect.top() + 1.0, wide, high);
        const auto kept = m_pictures.find(film_ms);
        if (kept == m_pictures.end()) {
            m_missing.insert(film_ms);
            painter.fillRect(place, theme().line);
        } else if (!kept->second.isNull()) {
            painter.setRenderHint(QPainter::SmoothPixmapTransform);
            painter.drawImage(place, kept->second);
        }
    }
    if (!m_missing.empty() && !m_decoding.running())
        m_soon.start();
}

QString FilmLane::tellAt(QPointF at, const LaneArea& area) const {
    const auto shown = take();
    if (!shown)
        return {};
    const double time_s = area.timeAt(at.x());
    return *shown == 0 ? tr("The film of the leading take at %1").arg(timeText(time_s))
                       : tr("The film of take %1 at %2")
                             .arg(*shown + 1)
                             .arg(timeText(std::max(0.0, film_s(time_s))));
}

void FilmLane::decodeNext() {
    if (m_decoding.running() || m_missing.empty() || !wanted())
        return;
    const Millis film_ms = *m_missing.begin();
    m_decoding
        .run({},
             [film = m_film, film_ms, path = m_path](const JobControl&) {
                 if (!film->reader || film->path != path) {
                     auto opened = PictureReader::open(path, kWidest);
                     film->path = path;
                     film->reader = opened ? std::move(*opened) : nullptr;
                 }
                 const auto picture = film->reader
                                          ? film->reader->at(static_cast<double>(film_ms) / 1000.0)
                                          : nullptr;
                 return picture ? imageOf(*picture) : QImage();
             })
        .then([this, film_ms, opened = m_opened](const QImage& image) {
            if (opened == m_opened) {
                if (m_pictures.size() >= kMostKept) // what was looked at lies elsewhere by now
                    m_pictures.clear();
                m_pictures[film_ms] = image;
                m_missing.erase(film_ms);
                emit stale({});
            }
            decodeNext();
        });
}

} // namespace wirenote::app
