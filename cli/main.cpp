// wirenote-cli: arguments and printing. Exit status: 0 done; 2 wrong call; 3 the input cannot be
// used; 4 our fault.
#include "base/atomic_file.h"
#include "formats/calibration_json.h"
#include "painting/write_sheet.h"
#include "session/calibrate.h"
#include "session/carried.h"
#include "session/demo.h"
#include "session/demonstrate.h"
#include "session/files.h"
#include "session/other_readings.h"
#include "session/resolve.h"
#include "session/sheet.h"
#include "session/take_media.h"
#include "session/transcribe.h"
#include "session/watch_film.h"

#include "doubts_text.h"
#include "instrument_arguments.h"
#include "lesson_command.h"
#include "option_values.h"
#include "readings_command.h"

#include <CLI/CLI.hpp>
#include <QGuiApplication>
#include <chrono>
#include <cmath>
#include <csignal>
#include <iostream>
#include <map>
#include <unistd.h>

using namespace wirenote;

namespace {

int statusOf(const Error& error) {
    switch (error.kind) {
    case ErrorKind::BadInput:
        return 3;
    case ErrorKind::BadCall:
        return 2;
    case ErrorKind::Conflict:
    case ErrorKind::Cancelled:
    case ErrorKind::Internal:
        break;
    }
    return 4;
}

int fail(const Error& error) {
    std::cerr << "wirenote-cli: " << error.sentence() << "\n";
    return statusOf(error);
}

// One line that is written over, with the time that is left; nothing where nobody looks.
class TerminalProgress {
  public:
    TerminalProgress() : m_seen(::isatty(STDERR_FILENO) == 1) {}
    ~TerminalProgress() {
        if (m_shown)
            std::cerr << "\r\033[K" << std::flush;
    }
    TerminalProgress(const TerminalProgress&) = delete;
    TerminalProgress& operator=(const TerminalProgress&) = delete;
    JobControl job() {
        JobControl job;
        if (m_seen)
            job.progress = [this](double done_s, double total_s) { show(done_s, total_s); };
        return job;
    }

  private:
    void show(double done_s, double total_s) {
        using Clock = std::chrono::steady_clock;
        const auto now = Clock::now();
        if (total_s <= 0.0 || (m_shown && now - m_last < std::chrono::milliseconds(200)))
            return;
        m_last = now;
        m_shown = true;
        std::cerr << "\rheard " << std::lround(done_s) << " of " << std::lround(total_s) << " s";
        const double share = done_s / total_s;
        const double spent_s = std::chrono::duration<double>(now - m_began).count();
        if (share > 0.05 && spent_s > 1.0)
            std::cerr << ", about " << std::lround(spent_s * (1.0 - share) / share) << " s left";
        std::cerr << "\033[K" << std::flush;
    }

    bool m_seen;
    bool m_shown = false;
    std::chrono::steady_clock::time_point m_began = std::chrono::steady_clock::now();
    std::chrono::steady_clock::time_point m_last{};
};

// What is wrong with a recording that could be heard all the same.
void sayCautions(const Take& take) {
    static const std::map<SoundCaution, const char*> kSentences = {
        {SoundCaution::Truncated,
         "breaks off before the end it promises; what is there was heard. Copy it again for the "
         "rest"},
        {SoundCaution::Clipped,
         "was recorded too loud and is cut off at its peaks; record it quieter"},
        {SoundCaution::DeadChannel, "has a channel without sound; the other was heard"},
        {SoundCaution::BadSamples, "has damaged samples; they were heard as silence"},
        {SoundCaution::LowRate,
         "has a low sampling rate; its brightness tells little of the strings"}};
    for (const SoundCaution caution : take.cautions)
        std::cerr << "wirenote-cli: " << take.path << ": " << kSentences.at(caution) << "\n";
}

class Transcribe {
  public:
    explicit Transcribe(CLI::App& app)
        : m_command(app.add_subcommand("transcribe", "a recording in, a tab out")) {
        m_command
            ->add_option(
                "MEDIA",
                m_media,
                "recording: WAV, FLAC, MP3, M4A, Ogg, MP4, MKV, WebM …; further ones of the "
                "same piece may follow, the first leads")
            ->expected(1, static_cast<int>(kMaxTakes))
            ->required();
        m_command->add_option("--out", m_out, "notes JSON to write")->required();
        m_instrument.addTo(*m_command);
        m_command->add_option("--a4", m_a4, "auto or Hz")
            ->check(autoOrNumber(kLowestA4Hz, kHighestA4Hz));
        m_command->add_option("--calibration", m_calibration, "file that calibrate wrote");
        m_command->add_option("--plucking", m_plucking, "auto, pick, fingers or hybrid")
            ->transform(oneOf(kTools));
        m_command->add_option(
            "--neck", m_neck, "where the neck lies in the film: points of one picture, as JSON");
        m_command->add_option("--video", m_video, "auto, or off: the film is not looked at")
            ->check(CLI::IsMember({"auto", "off"}));
        m_command
            ->add_option("--av-offset-ms",
                         m_av_offset,
                         "auto, or by how many milliseconds the film is late against its sound")
            ->check(autoOrNumber(-2000, 2000));
        m_command
            ->add_option("--talk",
                         m_talk,
                         "skip: nothing is heard where somebody talks; keep: notes are looked for "
                         "there too")
            ->check(CLI::IsMember({"skip", "keep"}));
        m_command->add_option("--tempo", m_tempo, "auto or felt beats a minute")
            ->check(autoOrNumber(20, 400));
        m_command->add_option("--meter", m_metre, "auto, 4/4, 3/4, 6/8 …");
        m_command
            ->add_option("--without",
                         m_without,
                         "kinds of evidence to do without, for measuring what each is worth: "
                         "stiffness, decay, comb, tilt, squeaks")
            ->delimiter(',')
            ->check(CLI::IsMember({"stiffness", "decay", "comb", "tilt", "squeaks"}));
        for (const char* option : {"--musicxml", "--midi", "--tab", "--jams", "--piece"})
            m_command->add_option(option, m_also[option], "also write this file");
    }
    bool chosen() const { return m_command->parsed(); }

    int run() {
        const auto options = resolve();
        if (!options)
            return fail(options.error());
        auto inputs = m_instrument.inputs();
        inputs.insert(inputs.end(), m_media.begin(), m_media.end());
        inputs.emplace_back(m_calibration);
        std::vector<std::filesystem::path> outputs;
        for (const OutputFile& file : outputFiles())
            outputs.push_back(file.path);
        if (const Status apart = checkOutputs(inputs, outputs); !apart)
            return fail(apart.error());
        TerminalProgress progress;
        auto piece = transcribe(m_media.front(), *options, progress.job());
        if (!piece)
            return fail(piece.error());
        piece->lead()->path = std::filesystem::absolute(m_media.front()).string();
        HeardByTake heard;
        for (std::size_t i = 1; i < m_media.size(); ++i)
            if (const Status added = addTake(m_media[i], *piece, heard, progress.job()); !added)
                return fail(added.error());
        if (const Status found = recogniseDemonstrations(*piece, progress.job(), heard); !found)
            return fail(found.error());
        if (m_video != "off")
            lookAtOtherFilms(*piece, progress.job());
        for (const Take& take : piece->takes)
            sayCautions(take);
        if (piece->notes.empty())
            std::cerr << "wirenote-cli: " << piece->lead()->path << ": "
                      << (talkedThroughout(*piece)
                              ? "somebody talks all the way and nothing is played, so the tab is "
                                "empty; --talk keep looks for notes all the same\n"
                              : "no note was heard, so the tab is empty; is it the right "
                                "recording, and the right instrument?\n");
        const Status written = writeTogether(*piece, outputFiles());
        return written ? 0 : fail(written.error());
    }

  private:
    Status addFilm(TranscribeOptions& options) const {
        if (m_video == "off")
            return {};
        FilmOptions film;
        if (!m_neck.empty()) {
            const auto text = readWholeFile(m_neck, 1'000'000);
            if (!text)
                return text.error();
            const auto neck = readNeckJson(*text);
            if (!neck)
                return badInput(m_neck, neck.error().message);
            film.neck = *neck;
        }
        if (const auto offset_ms = numberOf(m_av_offset))
            film.offset_s = *offset_ms / 1000.0;
        options.film = film;
        options.film_seen = sayFilm;
        return {};
    }

    static void sayFilm(const Result<FilmFacts>& film) {
        constexpr double kSure = 0.9;
        if (!film) {
            fail(film.error());
            std::cerr << "wirenote-cli: the sound goes on alone\n";
            return;
        }
        std::cerr << "wirenote-cli: the film: neck "
                  << (film->neck == Basis::Set ? "given, " : "found, ") << "followed in "
                  << std::lround(100.0 * film->followed) << " % of the pictures"
                  << ", ";
        if (film->off_mm >= 0.0)
            std::cerr << "its frets about " << std::round(10.0 * film->off_mm) / 10.0
                      << " mm from where they are taken to be, ";
        std::cerr << std::lround(1000.0 * film->offset_s) << " ms late"
                  << (film->offset == Basis::Seen  ? " (measured)"
                      : film->offset == Basis::Set ? " (given)"
                                                   : " (not to be told, taken to be none)")
                  << ", trusted to " << std::lround(100.0 * film->trust) << " %\n";
        if (film->numbering < kSure)
            std::cerr << "wirenote-cli: which fret is which in the film is likely to "
                      << std::lround(100.0 * film->numbering)
                      << " % only; --neck says where they are\n";
    }

    Result<TranscribeOptions> resolve() const {
        TranscribeOptions options;
        const auto instrument = m_instrument.resolve(options.instrument);
        if (!instrument)
            return instrument.error();
        options.instrument = *instrument;
        if (!m_calibration.empty()) {
            const auto text = readWholeFile(m_calibration, 1'000'000);
            if (!text)
                return text.error();
            const auto calibration = readCalibrationJson(*text);
            if (!calibration)
                return badInput(m_calibration, calibration.error().message);
            if (calibration->traits.size() != options.instrument.strings.size())
                return badInput(m_calibration,
                                "is of an instrument with another number of strings; make one of "
                                "this instrument with calibrate");
            if (calibration->instrument.kind != options.instrument.kind)
                return badInput(m_calibration,
                                "was measured on another kind of instrument (" +
                                    std::string(instrumentName(calibration->instrument.kind)) +
                                    ", not " +
                                    std::string(instrumentName(options.instrument.kind)) +
                                    "); make one of this instrument with calibrate");
            options.string_traits = calibration->traits;
        }
        if (const Status film = addFilm(options); !film)
            return film.error();
        options.settled = {.instrument = m_instrument.given(),
                           .tempo = numberOf(m_tempo).has_value(),
                           .metre = m_metre != "auto",
                           .one = false};
        options.a4_hz = numberOf(m_a4);
        options.tempo_bpm = numberOf(m_tempo);
        if (m_metre != "auto") {
            const auto metre = parseMetre(m_metre);
            if (!metre)
                return metre.error();
            options.metre = *metre;
        }
        if (const auto piece = m_also.find("--piece");
            piece != m_also.end() && !piece->second.empty() &&
            std::filesystem::path(piece->second).extension() != ".wirenote")
            return badCall("--piece writes a piece; give it a name that ends in .wirenote");
        if (m_plucking != PluckingTool::Unknown)
            options.plucking = m_plucking;
        const auto without = [this](const char* kind) {
            return std::ranges::find(m_without, kind) != m_without.end();
        };
        options.talk = m_talk == "keep" ? Talk::Keep : Talk::Skip;
        options.left_out = {without("stiffness"),
                            without("decay"),
                            without("comb"),
                            without("tilt"),
                            without("squeaks")};
        return options;
    }

    static Status
    addTake(const std::string& media, Piece& piece, HeardByTake& heard, const JobControl& job) {
        const auto info = readMediaInfo(media);
        if (!info)
            return info.error();
        auto other = hearOtherTake(piece, takeOf(media, *info), job);
        if (!other)
            return other.error();
        heard[piece.takes.size()] = std::move(other->notes);
        piece.takes.push_back(std::move(other->take));
        return {};
    }

    // What further cameras show counts as what the first does.
    static void lookAtOtherFilms(Piece& piece, const JobControl& job) {
        bool any = false;
        for (std::size_t i = 1; i < piece.takes.size(); ++i) {
            if (!piece.takes[i].has_picture || piece.notes.empty())
                continue;
            const auto seen = watchTake(i, piece.takes[i].path, {}, piece, job);
            std::cerr << "wirenote-cli: " << piece.takes[i].path << ":\n";
            sayFilm(seen);
            if (seen)
                piece.takes[i].film = *seen;
            any = any || seen.ok();
        }
        if (any)
            placeAndStroke(piece);
    }

    std::vector<OutputFile> outputFiles() const {
        static const std::map<std::string, FileFormat> kFormats = {
            {"--musicxml", FileFormat::MusicXml},
            {"--midi", FileFormat::Midi},
            {"--tab", FileFormat::AsciiTab},
            {"--jams", FileFormat::Jams},
            {"--piece", FileFormat::Piece}};
        std::vector<OutputFile> files = {{m_out, FileFormat::Notes}};
        for (const auto& [option, path] : m_also)
            if (!path.empty())
                files.push_back({path, kFormats.at(option)});
        return files;
    }

    CLI::App* m_command;
    std::vector<std::string> m_media;
    std::string m_out;
    InstrumentArguments m_instrument;
    std::string m_calibration;
    std::vector<std::string> m_without;
    std::string m_a4 = "auto";
    PluckingTool m_plucking = PluckingTool::Unknown; // to be asked of the notes
    std::string m_talk = "skip";
    std::string m_neck;
    std::string m_video = "auto";
    std::string m_av_offset = "auto";
    std::string m_tempo = "auto";
    std::string m_metre = "auto";
    std::map<std::string, std::string> m_also;
};

class CalibrateCommand {
  public:
    explicit CalibrateCommand(CLI::App& app)
        : m_command(app.add_subcommand(
              "calibrate",
              "a take of each open string and then its 12th fret, thickest string first")) {
        m_command->add_option("TAKE", m_take, "recording")->required();
        m_command->add_option("--out", m_out, "calibration JSON to write")->required();
        m_instrument.addTo(*m_command);
    }
    bool chosen() const { return m_command->parsed(); }

    int run() const {
        const auto instrument = m_instrument.resolve(standardInstrument(InstrumentKind::Guitar));
        if (!instrument)
            return fail(instrument.error());
        auto inputs = m_instrument.inputs();
        inputs.emplace_back(m_take);
        if (const Status apart = checkOutputs(inputs, {m_out}); !apart)
            return fail(apart.error());
        TerminalProgress progress;
        const auto calibration = calibrate(m_take, *instrument, progress.job());
        if (!calibration)
            return fail(calibration.error());
        const Status written = writeFileAtomically(m_out, writeCalibrationJson(*calibration));
        return written ? 0 : fail(written.error());
    }

  private:
    CLI::App* m_command;
    std::string m_take;
    std::string m_out;
    InstrumentArguments m_instrument;
};

class FingerCommand {
  public:
    explicit FingerCommand(CLI::App& app)
        : m_command(app.add_subcommand(
              "finger", "pitches and times in; string, fret, finger and stroke out")) {
        m_command->add_option("IN", m_in, "notes JSON, MIDI or MusicXML")->required();
        m_command->add_option("--out", m_out, "notes JSON to write")->required();
        m_instrument.addTo(*m_command);
        m_command
            ->add_option("--fretting-school",
                         m_fretting,
                         "finger-per-fret, box, classical, bass-1-2-4, open, closed, thumb-over or "
                         "as-played; with rules of docs/schools.md: box+roll+lift")
            ->check(isFrettingManner());
        m_command->add_option("--plucking", m_plucking, "auto, pick, fingers or hybrid")
            ->transform(oneOf(kTools));
        m_command
            ->add_option("--plucking-school",
                         m_school,
                         "auto; alternate, sequence, economy, sweep, down, cross or strum with a "
                         "pick; pima, thumb, im or ma with fingers; hybrid; slap")
            ->transform(oneOf(kPluckingSchoolWords));
        m_command->add_flag(
            "--again", m_again, "decide places and fingers that IN has, too (else they stay)");
    }
    bool chosen() const { return m_command->parsed(); }

    int run() const {
        auto inputs = m_instrument.inputs();
        inputs.emplace_back(m_in);
        if (const Status apart = checkOutputs(inputs, {m_out}); !apart)
            return fail(apart.error());
        std::vector<std::string> unread;
        auto piece = readGiven(m_in, &unread);
        for (const std::string& what : unread)
            std::cerr << m_in << ": " << what << "\n";
        if (!piece)
            return fail(piece.error());
        const auto instrument = m_instrument.resolve(piece->instrument);
        if (!instrument)
            return fail(instrument.error());
        piece->instrument = *instrument;
        auto& plans = piece->asPlayed().plans;
        for (std::size_t i = 0; i < plans.size(); ++i)
            m_again ? forget(plans[i]) : keepGiven(*instrument, piece->notes[i], plans[i]);
        ReadingHead& head = piece->asPlayed().head;
        head.fretting = *frettingMannerFrom(m_fretting);
        if (m_school != PluckingSchool::Unknown) {
            head.plucking_school.set(m_school);
            head.tool.set(toolOf(m_school));
        }
        std::optional<PluckingTool> tool;
        if (m_plucking != PluckingTool::Unknown)
            tool = m_plucking;
        placeAndStroke(*piece, tool);
        endOnStrings(*piece);
        const Status written = writeTogether(*piece, {{m_out, FileFormat::Notes}});
        return written ? 0 : fail(written.error());
    }

  private:
    static void forget(NotePlan& plan) {
        plan.position = {};
        plan.position.value = {0, 0};
        plan.finger = {};
        plan.stroke = {};
    }

    // What came with the file stays as it is, if it gives the pitch on this instrument; the rest
    // adapts.
    static void keepGiven(const Instrument& instrument, const Note& note, NotePlan& plan) {
        if (plan.finger.value != Finger::Unknown)
            plan.finger.set(plan.finger.value);
        else
            plan.finger = {};
        plan.stroke = {};
        const bool fits = plan.placed() && instrument.hasString(plan.position.value.string) &&
                          instrument.sounds(plan.position.value,
                                            note.frettedMidi(),
                                            note.has(Technique::Harmonic));
        if (fits)
            return plan.position.set(plan.position.value);
        plan.position = {};
        plan.position.value = {0, 0};
    }

    CLI::App* m_command;
    std::string m_in;
    std::string m_out;
    bool m_again = false;
    InstrumentArguments m_instrument;
    std::string m_fretting = "finger-per-fret";
    PluckingTool m_plucking = PluckingTool::Unknown; // to be asked of the notes
    PluckingSchool m_school = PluckingSchool::Unknown;
};

// Pages are painted, which needs no screen.
// What paints needs an application; without a screen, and without its chatter.
Status withPainter(const std::function<Status()>& work) {
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    qInstallMessageHandler([](QtMsgType, const QMessageLogContext&, const QString&) {}); // of Qt
    char name[] = "wirenote-cli";
    char* arguments[] = {name, nullptr};
    int count = 1;
    const QGuiApplication application(count, arguments);
    return work();
}

Status writeSheetFile(const Piece& piece, const std::string& out) {
    return withPainter([&] { return writePages(pagesOf(piece), piece.title, out); });
}

int convert(const std::string& in, const std::string& out, const std::string& reading) {
    const bool sheet = sheetFileOf(out).has_value();
    if (const auto format = formatOf(out); !format && !sheet)
        return fail(format.error());
    if (const Status apart = checkOutputs({in}, {out}); !apart)
        return fail(apart.error());
    std::vector<std::string> unread;
    auto piece = readAny(in, &unread);
    if (!piece)
        return fail(piece.error());
    for (const std::string& what : unread)
        std::cerr << in << ": " << what << "\n";
    if (!reading.empty()) {
        const auto chosen = std::ranges::find_if(
            piece->readings, [&](const Reading& r) { return r.head.name == reading; });
        if (chosen == piece->readings.end())
            return fail(badCall("there is no reading \"" + reading + "\" in " + in +
                                ": wirenote-cli readings lists them"));
        *piece = asReading(*piece, static_cast<std::size_t>(chosen - piece->readings.begin()));
    }
    for (Take& take : piece->takes)
        if (const auto media = mediaPathOf(take, in); !media.empty())
            take.path = media.string();
    const Status written = sheet ? writeSheetFile(*piece, out) : writeAny(*piece, out);
    if (!written)
        return fail(written.error());
    if (!sheet)
        if (const auto missing = notCarried(*piece, *formatOf(out)); !missing.empty())
            std::cerr << out << " cannot hold " << wordsFor(missing) << "\n";
    return 0;
}

int doubts(const std::string& in) {
    const auto piece = readAny(in);
    if (!piece)
        return fail(piece.error());
    std::cout << doubtsText(*piece);
    return 0;
}

int demo(const std::string& folder) {
    const auto made = makeDemo(folder, {});
    if (!made)
        return fail(made.error());
    std::cerr << "wrote " << made->take.string() << " (simulated), its truth and its piece\n";
    return 0;
}

int run(int argc, char** argv) {
    CLI::App app("Wirenote: recordings of guitar and bass to tablature with evidence");
    app.require_subcommand(1);
    Transcribe transcribe_command(app);
    CalibrateCommand calibrate_command(app);
    FingerCommand finger(app);
    ReadingsCommand readings(app);
    LessonCommand lesson(app);
    ClaimsCommand claims(app);
    std::string in;
    std::string out;
    CLI::App* convert_command = app.add_subcommand("convert", "between any two formats, by ending");
    convert_command->add_option("IN", in)->required();
    convert_command->add_option("OUT", out)->required();
    std::string reading;
    convert_command->add_option(
        "--reading", reading, "only this of its readings, by name; else all, \"as played\" first");
    std::string doubtful;
    CLI::App* doubts_command =
        app.add_subcommand("doubts", "what a person should look at in a piece, most urgent first");
    doubts_command->add_option("PIECE", doubtful, "piece or notes JSON")->required();
    std::string folder;
    CLI::App* demo_command = app.add_subcommand(
        "demo", "the demo takes, freshly made by the simulated instrument, with their truth");
    demo_command->add_option("--out", folder, "folder to write into")->required();
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        const int status = app.exit(error, std::cerr, std::cerr);
        return status == 0 ? 0 : 2;
    }
    if (transcribe_command.chosen())
        return transcribe_command.run();
    if (calibrate_command.chosen())
        return calibrate_command.run();
    if (finger.chosen())
        return finger.run();
    if (readings.chosen()) {
        const Status done = readings.run();
        return done ? 0 : fail(done.error());
    }
    if (lesson.chosen()) {
        const Status done = withPainter([&] { return lesson.run(); });
        return done ? 0 : fail(done.error());
    }
    if (claims.chosen()) {
        const Status done = claims.run();
        return done ? 0 : fail(done.error());
    }
    if (doubts_command->parsed())
        return doubts(doubtful);
    return convert_command->parsed() ? convert(in, out, reading) : demo(folder);
}

} // namespace

int main(int argc, char** argv) {
    // A full disk, a limit on the size of files and a closed pipe are errors of the write itself.
    std::signal(SIGXFSZ, SIG_IGN);
    std::signal(SIGPIPE, SIG_IGN);
    try {
        return run(argc, argv);
    } catch (const std::bad_alloc&) {
        std::cerr << "wirenote-cli: there is not enough memory for this; close other programs and "
                     "try again. No file was left half-written\n";
        return 4;
    } catch (const std::exception& error) {
        std::cerr << "wirenote-cli: something went wrong that should not have (" << error.what()
                  << "); no file was left half-written\n";
        return 4;
    }
}
