#include "formats/csv.h"

#include "formats/words.h"
#include "piece/timeline_map.h"

#include <cstdio>

namespace wirenote {
namespace {

std::string decimal(double value, int digits) {
    std::string text(40, '\0');
    const int length = std::snprintf(text.data(), text.size(), "%.*f", digits, value);
    text.resize(static_cast<std::size_t>(std::max(0, length)));
    return text;
}

} // namespace

std::string writeCsv(const Piece& piece) {
    const TimelineMap map(piece.timeline);
    std::string out = "bar,beat,onset_s,offset_s,pitch,midi,string,fret,finger,stroke,techniques,"
                      "probability,basis\r\n";
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Note& note = piece.notes[i];
        const NotePlan& plan = piece.asPlayed().plans[i];
        const auto place = map.barBeatAt(note.onset_s());
        std::string techniques;
        for (const Technique t : note.techniques)
            techniques += (techniques.empty() ? "" : " ") + std::string(wordFor(t));
        out += std::to_string(place.bar) + "," + decimal(place.beat, 3) + "," +
               decimal(note.onset_s(), 4) + "," + decimal(note.offset_s(), 4) + "," +
               pitchName(note.midi(), piece.key.spelling()) + "," + std::to_string(note.midi()) +
               ",";
        out += plan.placed() ? std::to_string(plan.position.value.string) + "," +
                                   std::to_string(plan.position.value.fret)
                             : std::string(",");
        out += "," + std::string(wordFor(plan.finger.value)) + "," +
               std::string(wordFor(plan.stroke.value)) + "," + techniques + "," +
               decimal(plan.position.probability, 3) + "," +
               std::string(wordFor(plan.position.basis)) + "\r\n";
    }
    return out;
}

} // namespace wirenote
