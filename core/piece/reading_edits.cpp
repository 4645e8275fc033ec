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

Status PieceEditor::setTempi(TempoRange tempi) {
    if (!(tempi.from_bpm >= 0.0 && tempi.to_bpm >= 0.0 && tempi.from_bpm <= kFastestTempo_bpm &&
          tempi.to_bpm <= kFastestTempo_bpm) ||
        (tempi.to_bpm > 0.0 && tempi.to_bpm < tempi.from_bpm))
        return badCall("a reading is for tempi from one number up to a higher one");
    reading().head.tempi = tempi;
    log("tempi of the reading set", 0);
    return {};
}

Status PieceEditor::setClaim(std::optional<Exactness> claim) {
    reading().head.claim = claim;
    log(!claim                             ? "no claim of how exact it is"
        : *claim == Exactness::NoteForNote ? "said to be note for note"
        : *claim == Exactness::Essence     ? "said to be the essence"
                                           : "said to be adapted",
        0);
    return {};
}

namespace {

bool sameNeckAndPitch(const Reading& a, const Reading& b) {
    return a.head.semitones == b.head.semitones && a.head.instrument == b.head.instrument;
}

// Where one origin ends and another takes its place.
void cutOut(std::vector<Origin>& origins, TimeRange span) {
    std::vector<Origin> left;
    for (const Origin& one : origins) {
        if (one.span.end_s <= span.start_s || one.span.start_s >= span.end_s) {
            left.push_back(one);
            continue;
        }
        if (one.span.start_s < span.start_s)
            left.push_back({{one.span.start_s, span.start_s}, one.of, one.why});
        if (one.span.end_s > span.end_s)
            left.push_back({{span.end_s, one.span.end_s}, one.of, one.why});
    }
    origins = std::move(left);
}

} // namespace

Status PieceEditor::blend(TimeRange span, std::size_t from, std::string why) {
    if (m_reading == 0)
        return badCall("\"" + reading().head.name +
                       "\" is what was played; blend in another reading");
    if (from >= m_piece.readings.size() || from == m_reading)
        return badCall("choose another reading to take the stretch from");
    if (span.empty())
        return badCall("choose a stretch of bars first");
    const Reading& source = m_piece.readings[from];
    if (!sameNeckAndPitch(source, reading()))
        return badCall("\"" + source.head.name + "\" and \"" + reading().head.name +
                       "\" stand on different instruments or at different pitch, and do not blend");
    for (std::size_t i = 0; i < m_piece.notes.size(); ++i)
        if (span.contains(m_piece.notes[i].onset_s()))
            plan(i) = source.plans[i];
    ReadingHead& head = reading().head;
    std::erase_if(head.added,
                  [&](const AddedNote& one) { return span.contains(one.note.onset_s()); });
    for (const AddedNote& one : source.head.added)
        if (span.contains(one.note.onset_s())) {
            head.added.push_back(one);
            head.added.back().note.id = head.added.back().plan.note = m_piece.next_id++;
        }
    std::ranges::sort(head.added, {}, [](const AddedNote& one) { return one.note.onset_s(); });
    cutOut(head.origins, span);
    head.origins.push_back({span, source.head.name, std::move(why)});
    std::ranges::sort(head.origins, {}, [](const Origin& one) { return one.span.start_s; });
    log("a stretch as in \"" + source.head.name + "\"", 0);
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
