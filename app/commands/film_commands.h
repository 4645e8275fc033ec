#pragma once

#include "piece/film_facts.h"
#include "seeing/neck_plane.h"

#include <QObject>
#include <optional>

namespace wirenote {
struct Take;
}

namespace wirenote::app {

class Document;
class JobRunner;
class Selection;

// What a person does with the films of the takes; all of it can be undone. Times are the take's
// own, as its film counts them.
class FilmCommands : public QObject {
    Q_OBJECT
  public:
    FilmCommands(Document& document, Selection& selection, JobRunner& jobs);

    // Where the neck is in a take's film at a moment; nothing where it is not known. While a count
    // is tried, with that.
    std::optional<Homography> neckAt(std::size_t take, double film_s) const;

    // Whether it is in doubt which fret is which in the film.
    bool countInDoubt(std::size_t take) const;
    // Shows the neck with its frets counted so many further on; nothing is decided yet.
    void tryCount(int frets);
    // The count that is tried is right, as the neck lies at that moment.
    void acceptCount(std::size_t take, double film_s);

    // Looks for the neck in the film of a take, or follows the one that was given, and looks at
    // every note that it plays; what is seen counts for the places.
    void look(std::size_t take);
    // The neck in one picture; the film is looked at from there.
    void giveNeck(std::size_t take, const NeckFrame& frame);
    // By how much the film is late; looked at again.
    void setOffset(std::size_t take, double seconds);
    // The chosen note is pressed, or plucked, where this picture shows it, with that finger
    // (Unknown: left open). True when the picture and the note's pitch agree on a place.
    bool showPlace(std::size_t take, double film_s, PicturePoint at, Finger finger);
    // The chosen note is struck there with that stroke: its stroke is set, and its place where the
    // string under the point can sound its pitch. True when it can.
    bool showStroke(std::size_t take, double film_s, PicturePoint at, Stroke stroke);

  signals:
    void countTried();
    void said(const QString& sentence);
    void warned(const QString& sentence);

  private:
    // Where a point of the picture lies on the neck; says so where that cannot be told.
    std::optional<PlanePoint> onNeck(std::size_t take, double film_s, PicturePoint at);
    const Take* takeAt(std::size_t take) const; // null where there is none

    Document& m_document;
    Selection& m_selection;
    JobRunner& m_jobs;
    int m_tried = 0; // frets further on than they were counted
};

} // namespace wirenote::app
