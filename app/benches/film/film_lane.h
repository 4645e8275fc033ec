#pragma once

#include "app/document/job_runner.h"
#include "app/strip/lane.h"
#include "media/picture_reader.h"

#include <QImage>
#include <QTimer>
#include <map>
#include <memory>
#include <optional>
#include <set>

namespace wirenote::app {

class Document;

// Small pictures of a film along the time axis: the leading take's, or else that of the first take
// that has one and is lined up. They are decoded off the interface
// thread, one after the other, those in sight only; a bounded number of them is kept.
class FilmLane : public Lane {
    Q_OBJECT
  public:
    explicit FilmLane(Document& document);
    QString name() const override;
    int height() const override { return 56; }
    int leastHeight() const override { return 36; }
    int importance() const override { return 3; }
    bool wanted() const override;
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;

    std::size_t kept() const { return m_pictures.size(); }

  private:
    using Millis = std::int64_t; // of the film
    struct Film;                 // the open file; touched by the worker only
    void forget();
    void decodeNext();
    std::optional<std::size_t> take() const; // whose film it is
    std::string path() const;                // of it; empty: there is none
    double film_s(double piece_s) const;
    double aspect() const; // width for a height of 1

    Document& m_document;
    std::shared_ptr<Film> m_film;
    std::map<Millis, QImage> m_pictures; // a null one: nothing can be decoded there
    mutable std::set<Millis> m_missing;  // in sight when it was painted last
    mutable QTimer m_soon;
    JobRunner m_decoding;
    int m_opened = 0;   // how often there was another film
    std::string m_path; // of the film
};

} // namespace wirenote::app
