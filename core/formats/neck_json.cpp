#include "formats/neck_json.h"

#include "base/json_fields.h"

#include <algorithm>

namespace wirenote {
namespace {

using json_fields::Fields;
using json_fields::Json;

constexpr double kMostPixels = 100000.0;
constexpr std::size_t kMostMarks = 100;

} // namespace

Result<NeckMarks> readNeckJson(const std::string& text) {
    const Json json = Json::parse(text, nullptr, false);
    const Json* format = Fields::find(json, "format");
    if (!format || *format != "wirenote-neck/1")
        return badInput({}, "is no file of a neck (\"format\": \"wirenote-neck/1\")");
    Fields fields;
    NeckMarks neck;
    neck.time_s = fields.number(json, "t_s", 0.0, 0.0, json_fields::kLongest_s, "the neck");
    for (const Json& point : fields.array(json, "points", "the neck", kMostMarks)) {
        const std::string edge = fields.text(point, "edge", "points");
        if (edge != "low" && edge != "high")
            fields.fail("points.edge", "is neither \"low\" nor \"high\"");
        neck.marks.push_back(
            {fields.number(point, "fret", 0.0, 0.0, kMaxFrets, "points"),
             edge == "high",
             {fields.number(point, "x", 0.0, -kMostPixels, kMostPixels, "points"),
              fields.number(point, "y", 0.0, -kMostPixels, kMostPixels, "points")}});
    }
    if (!fields.ok())
        return badInput({}, *fields.problem() + json_fields::kMendJson);
    const auto wires = [&neck](bool thin) {
        std::vector<double> frets;
        for (const NeckMark& mark : neck.marks)
            if (mark.thin == thin && std::ranges::find(frets, mark.fret) == frets.end())
                frets.push_back(mark.fret);
        return frets.size();
    };
    if (wires(false) < 2 || wires(true) < 2)
        return badInput({},
                        "has too few points: give two wires of the neck, each at its \"low\" and "
                        "its \"high\" edge");
    return neck;
}

std::optional<Homography> neckIn(const NeckPlane& plane, const NeckMarks& marks) {
    std::vector<PlanePoint> from;
    std::vector<PicturePoint> to;
    for (const NeckMark& mark : marks.marks) {
        from.push_back(plane.edge(mark.fret, mark.thin));
        to.push_back(mark.at);
    }
    return homographyBetween(from, to);
}

} // namespace wirenote
