#include "readings_command.h"

#include "base/atomic_file.h"
#include "formats/differences_json.h"
#include "piece/exactness.h"
#include "piece/in_reading.h"
#include "session/arrange.h"
#include "session/compare_sources.h"
#include "session/files.h"
#include "session/other_readings.h"

#include <algorithm>
#include <cstdlib>
#include <iostream>

namespace wirenote {
namespace {

void print(const Piece& piece, bool in_full) {
    for (std::size_t r = 0; r < piece.readings.size(); ++r) {
        const ReadingHead& head = piece.readings[r].head;
        std::cout << head.name;
        if (!head.purpose.empty())
            std::cout << ": " << head.purpose;
        std::cout << "\n";
        if (!in_full)
            continue;
        std::cout << "    " << exactnessLine(piece, r) << "\n";
        if (!head.made_from.empty())
            std::cout << "    made from " << head.made_from << "\n";
        for (const Origin& origin : head.origins)
            std::cout << "    from " << origin.span.start_s << " to " << origin.span.end_s
                      << " s as in " << origin.of
                      << (origin.why.empty() ? "" : " (" + origin.why + ")") << "\n";
        if (head.tempi.from_bpm > 0.0)
            std::cout << "    from " << head.tempi.from_bpm << " beats a minute\n";
        if (head.tempi.to_bpm > 0.0)
            std::cout << "    up to " << head.tempi.to_bpm << " beats a minute\n";
    }
}

const char* wordFor(DepartureWhy why) {
    switch (why) {
    case DepartureWhy::OffNeck:
        return "this neck does not have it";
    case DepartureWhy::OutOfHand:
        return "no hand takes it with the others";
    case DepartureWhy::MayGo:
        return "it may be left out";
    case DepartureWhy::Ornament:
        return "it is an ornament";
    case DepartureWhy::ThinnedChord:
        return "the chord is left with its outer notes and its third";
    case DepartureWhy::TuneAndBass:
        return "only the tune and the bass on the beats are left";
    case DepartureWhy::Edition:
        return "the score does not have it";
    case DepartureWhy::Person:
    case DepartureWhy::None:
        break;
    }
    return "a person decided so";
}

void printMade(const Piece& view,
               const Piece& before,
               const Reading& reading,
               const MadeReading& made) {
    constexpr int kOctave = 12;
    for (const OctaveMove& one : made.moved) {
        const int octaves = std::abs(one.semitones) / kOctave;
        std::cout << "outside this neck at " << whereText(before, one.note) << ": taken "
                  << (octaves == 1 ? std::string("an octave")
                                   : std::to_string(octaves) + " octaves")
                  << (one.semitones > 0 ? " higher\n" : " lower\n");
    }
    for (const NoteId id : made.left_out) {
        const auto plan = std::ranges::find(reading.plans, id, &NotePlan::note);
        std::cout << "left out at " << whereText(before, id) << ": "
                  << wordFor(plan == reading.plans.end() ? DepartureWhy::None : plan->departure.why)
                  << "\n";
    }
    for (const NoteId id : made.stopped) {
        const NotePlan* plan = view.plan(id);
        if (plan && plan->placed())
            std::cout << "no longer an open string at " << whereText(before, id) << ": string "
                      << plan->position.value.string << ", fret " << plan->position.value.fret
                      << "\n";
    }
    for (const NoteId id : made.unmet) {
        const NotePlan* plan = view.plan(id);
        const Position place = plan ? plan->position.value : Position{0, 0};
        std::cout << reading.head.name << " cannot be had at " << whereText(view, id) << ": "
                  << (place.string == 0 ? std::string("it has no place on this neck then")
                                        : "the nearest is string " + std::to_string(place.string) +
                                              ", fret " + std::to_string(place.fret))
                  << "\n";
    }
    if (made.unmet.empty())
        std::cout << "all of it can be had\n";
}

std::string weighedText(const GainsAndLosses& weighed) {
    std::string text;
    const auto list = [&text](const char* word, const auto& all, auto said) {
        for (std::size_t i = 0; i < all.size(); ++i)
            text += (i == 0 ? std::string(text.empty() ? "" : "; ") + word : std::string(", ")) +
                    said(all[i]);
    };
    list("gains: ", weighed.gains, gainText);
    list("loses: ", weighed.losses, lossText);
    return text;
}

void print(const ComparedSources& compared) {
    const ReadingComparison& found = compared.comparison;
    if (found.semitones != 0)
        std::cout << compared.b << " sounds " << std::abs(found.semitones) << " semitones "
                  << (found.semitones > 0 ? "higher" : "lower") << " throughout\n";
    std::size_t last = found.groups.size();
    for (const ReadingDifference& one : found.differences) {
        if (one.group != last) {
            const std::string said = weighedText(found.groups[one.group].weighed);
            std::cout << "bar " << one.bar << (said.empty() ? "" : " – " + said) << "\n";
        }
        last = one.group;
        std::cout << "    bar " << one.bar << ", beat " << one.beat << ", "
                  << differenceWord(one.kind) << ": " << one.a_text << " → " << one.b_text << "\n";
    }
    if (found.differences.empty())
        std::cout << "nothing differs\n";
}

} // namespace

ReadingsCommand::ReadingsCommand(CLI::App& app)
    : m_command(app.add_subcommand(
          "readings", "the readings of a piece, others on demand, and what differs between two")) {
    m_command->add_option("PIECE", m_piece, "piece")->required();
    m_command->add_option(
        "--make",
        m_make,
        "adds one to the piece: easiest, easier[:LEVEL 1–3], one-position[:FRET], "
        "no-open, no-barre, stretch:FRETS, small-hand, tempo:TIMES, "
        "transpose:SEMITONES, capo:FRET, tuning:\"D2 A2 D3 G3 B3 E4\", "
        "instrument:NAME, fretting:SCHOOL, plucking:SCHOOL, no-slurs, "
        "score:FILE; several joined by +");
    m_command->add_flag(
        "--in-full",
        m_in_full,
        "with each reading how exact it is, what stands against more, and where it comes from");
    m_command->add_option(
        "--from", m_from, "the reading it is made from, by name; \"as played\" unless said");
    m_instrument.addTo(*m_command);
    m_command
        ->add_option("--transpose", m_semitones, "another key: so many semitones up, below 0 down")
        ->check(CLI::Range(-24, 24));
    m_command
        ->add_option("--compare",
                     m_compare,
                     "what differs between two: names of readings, their numbers as listed, or "
                     "files")
        ->expected(2);
    m_command->add_option("--out",
                          m_out,
                          "with --compare the differences as JSON; else the reading as a piece of "
                          "its own, in another key without the takes");
}

Status ReadingsCommand::run() const {
    const auto format = formatOf(m_piece);
    if (!format)
        return format.error();
    auto piece = readAny(m_piece);
    if (!piece)
        return piece.error();
    if (!m_compare.empty())
        return compare(*piece);
    if (m_make.empty() && !elsewhere()) {
        if (!m_out.empty())
            return badCall("--out is for --make and for --compare; wirenote-cli convert writes a "
                           "reading that is there");
        print(*piece, m_in_full);
        return {};
    }
    const auto made = recipe(*piece);
    if (!made)
        return made.error();
    for (Take& take : piece->takes)
        if (const auto media = mediaPathOf(take, m_piece); !media.empty())
            take.path = media.string();
    if (!m_out.empty())
        return arrangeTo(*piece, *made);
    if (*format != FileFormat::Piece)
        return badCall("readings are kept in a piece: convert " + m_piece +
                       " to .wirenote first, or say with --out where it is to be written");
    return keep(*piece, *made);
}

Result<ReadingRecipe> ReadingsCommand::recipe(const Piece& piece) const {
    ReadingRecipe wanted;
    const auto own = m_instrument.resolve(piece.instrument);
    if (!own)
        return own.error();
    if (!m_make.empty()) {
        const auto parsed = parseRecipe(m_make, *own);
        if (!parsed)
            return parsed.error();
        wanted = *parsed;
    }
    const auto name = [&wanted](const std::string& text) {
        wanted.name += (wanted.name.empty() ? "" : ", ") + text;
    };
    if (m_instrument.given()) {
        if (!wanted.instrument)
            wanted.instrument = *own;
        if (!m_instrument.instrument.empty())
            name("for " + m_instrument.instrument);
        if (m_instrument.tuning)
            name("tuned " + *m_instrument.tuning);
        if (m_instrument.capo)
            name("capo " + std::to_string(*m_instrument.capo));
    }
    if (m_semitones != 0) {
        wanted.semitones += m_semitones;
        name(std::to_string(std::abs(m_semitones)) + " semitones " +
             (m_semitones > 0 ? "higher" : "lower"));
    }
    return wanted;
}

Status ReadingsCommand::keep(Piece& piece, const ReadingRecipe& wanted) const {
    std::size_t from = 0;
    if (!m_from.empty()) {
        const auto named = std::ranges::find_if(
            piece.readings, [&](const Reading& r) { return r.head.name == m_from; });
        if (named == piece.readings.end())
            return badCall("there is no reading \"" + m_from + "\" in " + m_piece);
        from = static_cast<std::size_t>(named - piece.readings.begin());
    }
    const auto made = makeReading(piece, wanted, nowIso8601(), from);
    if (!made)
        return made.error();
    if (const Status written = writeAny(piece, m_piece); !written)
        return written;
    printMade(inReading(piece, made->index), piece, piece.readings[made->index], *made);
    return {};
}

Status ReadingsCommand::arrangeTo(const Piece& piece, const ReadingRecipe& wanted) const {
    auto inputs = m_instrument.inputs();
    inputs.emplace_back(m_piece);
    if (const Status apart = checkOutputs(inputs, {m_out}); !apart)
        return apart;
    const auto arranged = arrange(piece, wanted, nowIso8601());
    if (!arranged)
        return arranged.error();
    if (const Status written = writeAny(arranged->piece, m_out); !written)
        return written;
    printMade(arranged->piece, piece, arranged->reading, arranged->made);
    return {};
}

Status ReadingsCommand::compare(const Piece& piece) const {
    const auto compared = compareSources(piece, m_compare[0], m_compare[1]);
    if (!compared)
        return compared.error();
    if (m_out.empty()) {
        print(*compared);
        return {};
    }
    if (const Status apart = checkOutputs({m_piece, m_compare[0], m_compare[1]}, {m_out}); !apart)
        return apart;
    return writeFileAtomically(
        m_out, writeDifferencesJson(compared->comparison, compared->a, compared->b));
}

} // namespace wirenote
