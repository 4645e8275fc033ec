#include "media/slow_film.h"

#include "media/cached_sound.h"
#include "media/media_info.h"
#include "media/picture_reader.h"
#include "media/time_stretch.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

Error notMade() {
    return {ErrorKind::Internal, {}, "the slower recording could not be encoded"};
}

class SlowWriter {
  public:
    SlowWriter(const SlowFilm& film, const JobControl& job) : m_film(film), m_job(job) {}

    Status open(const std::filesystem::path& recording) {
        const auto info = readMediaInfo(recording);
        if (!info)
            return info.error();
        auto sound = CachedSound::open(
            recording,
            {.stream = m_film.sound_stream, .rate_hz = FilmFile::kRate_hz, .most_blocks = 16});
        if (!sound)
            return sound.error();
        m_sound = *sound;
        m_reader = std::make_unique<StretchedReader>(
            *m_sound, std::llround(m_film.span.start_s * FilmFile::kRate_hz), m_film.speed, 0.0);
        FilmFile::Options options;
        if (info->picture.exists()) {
            auto pictures = PictureReader::open(recording, m_film.max_width);
            if (!pictures)
                return pictures.error();
            m_pictures = std::move(*pictures);
            m_picture = m_pictures->at(m_film.span.start_s + m_film.offset_s);
        }
        if (m_picture) {
            options.width = m_picture->width;
            options.height = m_picture->height;
        }
        options.title = m_film.title;
        for (const FilmChapter& chapter : m_film.chapters) {
            const TimeRange in = {std::max(chapter.span.start_s, m_film.span.start_s),
                                  std::min(chapter.span.end_s, m_film.span.end_s)};
            options.chapters.push_back({{placeOf(in.start_s), placeOf(in.end_s)}, chapter.title});
        }
        auto file = FilmFile::begin(options);
        if (!file)
            return notMade();
        m_file = std::move(*file);
        return {};
    }

    Result<std::string> write() {
        const double length_s = m_film.span.length_s() / m_film.speed;
        std::vector<float> block(2 * m_file->soundBlock());
        while (m_file->sound_s() < length_s) {
            if (m_job.cancelRequested())
                return cancelled();
            const double now_s = m_file->sound_s();
            m_job.report(now_s, length_s);
            m_reader->read(block);
            if (!picturesUntil(now_s) || !m_file->addSound(block))
                return notMade();
        }
        if (!picturesUntil(length_s))
            return notMade();
        return m_file->finish();
    }

  private:
    // Where a moment of the recording stands in the film.
    double placeOf(double time_s) const { return (time_s - m_film.span.start_s) / m_film.speed; }

    // Pictures that are shown before a moment of the film.
    bool picturesUntil(double film_s) {
        while (m_picture) {
            // What is shown as the stretch begins is shown from its beginning on.
            const double at_s = std::max(0.0, placeOf(m_picture->time_s - m_film.offset_s));
            if (at_s > film_s)
                return true;
            if (!m_file->addPicture(at_s, m_picture->view()))
                return false;
            m_picture = m_pictures->after(m_picture->time_s);
        }
        return true;
    }

    const SlowFilm& m_film;
    const JobControl& m_job;
    std::shared_ptr<CachedSound> m_sound;
    std::unique_ptr<StretchedReader> m_reader;
    std::unique_ptr<PictureReader> m_pictures;
    std::shared_ptr<const Picture> m_picture; // the next to be written
    std::unique_ptr<FilmFile> m_file;
};

} // namespace

Result<std::string> encodeSlowFilm(const std::filesystem::path& recording,
                                   const SlowFilm& film,
                                   const JobControl& job) {
    if (film.span.empty() || film.speed < kSlowest || film.speed > kFastest)
        return badCall("a slower recording needs a stretch of it and a speed between " +
                       std::to_string(kSlowest) + " and " + std::to_string(kFastest));
    if (film.span.length_s() / film.speed > kLongestSlowFilm_s)
        return badInput(recording.string(),
                        "would be longer than half an hour made slower; choose fewer bars");
    SlowWriter writer(film, job);
    if (const Status opened = writer.open(recording); !opened)
        return opened.error();
    return writer.write();
}

} // namespace wirenote
