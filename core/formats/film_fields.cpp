#include "formats/film_fields.h"

#include "formats/words.h"

#include <cmath>

namespace wirenote::json_fields {
namespace {

constexpr double kFarthest_px = 1e5; // corners outside the picture are corners too
constexpr double kFarthest_s = 10.0;

double hundredths(double value) {
    return std::round(value * 100.0) / 100.0;
}
double thousandths(double value) {
    return std::round(value * 1000.0) / 1000.0;
}

Basis basisOr(
    const Json& json, const char* key, Basis usual, Fields& fields, const std::string& where) {
    if (!Fields::find(json, key))
        return usual;
    return fields.known(basisFrom(fields.text(json, key, where)), usual, where + "." + key);
}

} // namespace

// A frame is a row of numbers: there may be thousands.
Json filmToJson(const FilmFacts& film) {
    Json frames = Json::array();
    for (const NeckFrame& frame : film.frames) {
        Json row = {thousandths(frame.time_s)};
        for (const double pixel : frame.corners)
            row.push_back(hundredths(pixel));
        frames.push_back(row);
    }
    Json passes = Json::array();
    for (const SilentPass& pass : film.passes)
        passes.push_back({thousandths(pass.time_s), pass.down, thousandths(pass.probability)});
    return {{"neck", wordFor(film.neck)},
            {"passes", passes},
            {"offset_s", film.offset_s},
            {"offset", wordFor(film.offset)},
            {"followed", thousandths(film.followed)},
            {"trust", thousandths(film.trust)},
            {"numbering", thousandths(film.numbering)},
            {"off_mm", thousandths(film.off_mm)},
            {"frames", frames}};
}

FilmFacts filmFrom(const Json& json, Fields& fields, const std::string& where) {
    FilmFacts film;
    film.neck = basisOr(json, "neck", film.neck, fields, where);
    film.offset_s = fields.number(json, "offset_s", 0, -kFarthest_s, kFarthest_s, where);
    film.offset = basisOr(json, "offset", film.offset, fields, where);
    film.followed = fields.number(json, "followed", 0, 0, 1, where);
    film.trust = fields.number(json, "trust", 0, 0, 1, where);
    film.numbering = fields.number(json, "numbering", 1, 0, 1, where);
    film.off_mm = fields.number(json, "off_mm", -1, -1, 1000, where);
    for (const Json& row : fields.array(json, "passes", where, kMaxSilentPasses)) {
        const std::string at = where + ".passes";
        if (!row.is_array() || row.size() != 3 || !row[1].is_boolean()) {
            fields.fail(at, "are no rows of a time, a direction and a probability");
            break;
        }
        film.passes.push_back({fields.item(row, 0, 0, kLongest_s, at),
                               row[1].get<bool>(),
                               fields.item(row, 2, 0, 1, at)});
    }
    double last_s = -1.0;
    for (const Json& row : fields.array(json, "frames", where, kMaxNeckFrames)) {
        const std::string at = where + ".frames";
        NeckFrame frame;
        frame.time_s = fields.item(row, 0, 0, kLongest_s, at);
        for (std::size_t i = 0; i < frame.corners.size(); ++i)
            frame.corners[i] = fields.item(row, i + 1, -kFarthest_px, kFarthest_px, at);
        if (frame.time_s <= last_s)
            fields.fail(at, "are not in the order of time");
        if (!fields.ok())
            break;
        last_s = frame.time_s;
        film.frames.push_back(frame);
    }
    return film;
}

Json videoToJson(const FilmFacts& film) {
    Json frames = Json::array();
    for (const NeckFrame& frame : film.frames) {
        const auto corner = [&frame](std::size_t k) {
            return Json::array(
                {hundredths(frame.corners[2 * k]), hundredths(frame.corners[2 * k + 1])});
        };
        frames.push_back({{"t_s", thousandths(frame.time_s)},
                          {"nut_low", corner(0)},
                          {"nut_high", corner(1)},
                          {"fret12_low", corner(2)},
                          {"fret12_high", corner(3)}});
    }
    return {{"av_offset_ms", std::round(1000.0 * film.offset_s)}, {"neck_keyframes", frames}};
}

} // namespace wirenote::json_fields
