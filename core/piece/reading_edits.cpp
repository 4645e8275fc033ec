// Edits that concern what a reading rests on: the instrument, its strings, what plucks them, and
// the readings themselves.
#include "piece/edits.h"

#include <algorithm>

namespace wirenote {

Status PieceEditor::setStringTraits(std::vector<StringTrait> traits) {
    if (!traits.empty() && traits.size() != m_piece.instrument.strings.size())
        return badCall("this calibration is of an instrument with " +
                       std::to_string(traits.size()) + " strings");
    m_piece.string_traits = std::move(traits);
    log(m_piece.string_traits.empty() ? "calibration taken away" : "calibrated", 0);
    return {};
}

namespace {

// Tuned otherwise, perhaps.
bool sameStrings(const Instrument& a, const Instrument& b) {
    return a.scale_mm == b.scale_mm &&
           std::ranges::equal(a.strings, b.strings, [](const StringSpec& s, const StringSpec& t) {
               return s.gauge_mm == t.gauge_mm && s.material == t.material && s.build == t.build;
           });
}

} // namespace

Status PieceEditor::setInstrument(const Instrument& instrument) {
    if (const Status usable = checkInstrument(instrument); !usable)
        return usable;
    // What was learned goes with the places it was learned from; a calibration stays with its
    // strings.
    const bool calibrated = std::ranges::any_of(
        m_piece.string_traits, [](const StringTrait& t) { return t.basis == Basis::Set; });
    if (!calibrated || !sameStrings(instrument, m_piece.instrument))
        m_piece.string_traits.clear();
    for (Reading& each : m_piece.readings)
        if (instrument.kind != m_piece.instrument.kind && !each.head.tool.isSet()) {
            each.head.tool = {};
            each.head.plucking_school = {};
            each.head.motion.reset();
        }
    m_piece.instrument = instrument;
    settleToo({.instrument = true});
    for (std::size_t i = 0; i < m_piece.notes.size(); ++i)
        openWhereItDoesNotSound(i, false);
    log("instrument set", 0);
    return {};
}

Status PieceEditor::setTool(PluckingTool tool) {
    if (tool == PluckingTool::Unknown)
        return badCall("choose a pick, the fingers, or both");
    ReadingHead& head = reading().head;
    if (tool != head.tool.value) { // its rules and its movement are others
        head.plucking_school = {};
        head.motion.reset();
    }
    head.tool.set(tool);
    log(tool == PluckingTool::Pick      ? "played with a pick"
        : tool == PluckingTool::Fingers ? "played with the fingers"
                                        : "played with pick and fingers",
        0);
    return {};
}

Status PieceEditor::setPluckingSchool(PluckingSchool school) {
    ReadingHead& head = reading().head;
    if (school == PluckingSchool::Unknown) {
        head.plucking_school = {};
    } else {
        if (toolOf(school) != head.tool.value) {
            head.tool.set(toolOf(school));
            head.motion.reset();
        }
        head.plucking_school.set(school);
    }
    log("another school of the plucking hand", 0);
    return {};
}

Status PieceEditor::setFretting(FrettingManner manner) {
    reading().head.fretting = std::move(manner);
    log("another school of the fretting hand", 0);
    return {};
}

Status PieceEditor::addReading(std::string name, std::string purpose) {
    if (m_piece.readings.size() >= kMaxReadings)
        return badCall("a piece holds at most " + std::to_string(kMaxReadings) + " readings");
    if (const Status fit = checkName(name); !fit)
        return fit;
    Reading copy = reading();
    copy.head.name = std::move(name);
    copy.head.purpose = std::move(purpose);
    log("reading added: " + copy.head.name, 0);
    m_piece.readings.push_back(std::move(copy));
    return {};
}

Status PieceEditor::renameReading(std::string name) {
    if (name == reading().head.name)
        return {};
    if (const Status fit = checkName(name); !fit)
        return fit;
    reading().head.name = std::move(name);
    log("reading renamed: " + reading().head.name, 0);
    return {};
}

Status PieceEditor::removeReading() {
    if (m_reading == 0)
        return badCall("the reading \"" + reading().head.name +
                       "\" is what was played; it stays with its notes");
    log("reading removed: " + reading().head.name, 0);
    m_piece.readings.erase(m_piece.readings.begin() + static_cast<std::ptrdiff_t>(m_reading));
    m_reading = 0;
    return {};
}

Status PieceEditor::checkName(const std::string& name) const {
    if (name.empty())
        return badCall("give the reading a name");
    for (const Reading& other : m_piece.readings)
        if (other.head.name == name)
            return badCall("there is a reading \"" + name + "\" already");
    return {};
}

} // namespace wirenote
