#include "formats/midi_file.h"

#include "base/atomic_file.h"
#include "support/performances.h"
#include "support/scratch.h"
#include "support/shell.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::HasSubstr;

// python3-mido, an independent reader, lists notes as: channel pitch start end, in seconds.
constexpr const char* kListNotes = R"PY(
import sys, mido
m = mido.MidiFile(sys.argv[1])
t, on, out = 0.0, {}, []
for e in m:
    t += e.time
    if e.type == "note_on" and e.velocity: on[e.channel, e.note] = t
    elif e.type in ("note_off", "note_on"): out.append((on.pop((e.channel, e.note)), t, e.channel, e.note))
print(m.type, m.ticks_per_beat, len(m.tracks))
for s, e, c, n in sorted(out): print(c, n, "%.3f" % s, "%.3f" % e)
)PY";

TEST(Midi, AnIndependentReaderSeesEveryNoteOnItsStringsChannel) {
    const test::Scratch scratch;
    Piece piece = test::richPiece();
    piece.timeline.beats_s = {
        0.0, 0.5, 1.0, 1.52, 2.05, 2.55, 3.0, 3.5, 4.0, 4.5, 5.0, 5.5}; // a hand that breathes
    ASSERT_TRUE(writeFileAtomically(scratch / "a.mid", writeMidi(piece)).ok());
    ASSERT_TRUE(writeFileAtomically(scratch / "list.py", kListNotes).ok());
    const auto result = test::shell("/usr/bin/python3 " + (scratch / "list.py").string() + " " +
                                    (scratch / "a.mid").string());
    ASSERT_EQ(result.status, 0) << result.output;
    std::istringstream lines(result.output);
    int type = 0;
    int ticks = 0;
    int tracks = 0;
    lines >> type >> ticks >> tracks;
    EXPECT_EQ(type, 1);
    EXPECT_EQ(tracks, 7);
    // Tick 0 is the bar line before the pick-up: two beats (1 s) before bar 1 at 1.0 s … and two
    // more.
    double shift = 0.0;
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        int channel = -1;
        int midi = -1;
        double start = 0.0;
        double end = 0.0;
        ASSERT_TRUE(lines >> channel >> midi >> start >> end);
        if (i == 0)
            shift = start - piece.notes[0].onset_s();
        EXPECT_EQ(midi, piece.notes[i].midi());
        EXPECT_EQ(channel, piece.asPlayed().plans[i].position.value.string - 1);
        EXPECT_NEAR(start - shift, piece.notes[i].onset_s(), 0.004) << "performed time is kept";
        EXPECT_NEAR(end - shift, piece.notes[i].offset_s(), 0.004);
    }
}

TEST(Midi, IsReadBack) {
    const Piece piece = test::richPiece();
    const auto read = readMidi(writeMidi(piece));
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_EQ(read->notes.size(), piece.notes.size());
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        EXPECT_EQ(read->notes[i].midi(), piece.notes[i].midi());
        EXPECT_FALSE(read->asPlayed().plans[i].placed());
    }
    EXPECT_EQ(read->timeline.metre, piece.timeline.metre);
    EXPECT_NEAR(read->timeline.tempo_bpm, 120.0, 0.01);
}

TEST(Midi, RunningStatusAndZeroVelocityAreUnderstood) {
    // One track: note 60 on, off by zero velocity under running status (Standard MIDI Files 1.0).
    const std::string track("\x00\x90\x3C\x40\x60\x3C\x00\x00\xFF\x2F\x00", 11);
    const std::string file =
        std::string("MThd\x00\x00\x00\x06\x00\x00\x00\x01\x00\x60MTrk\x00\x00\x00\x0B", 22) + track;
    const auto read = readMidi(file);
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_EQ(read->notes.size(), 1U);
    EXPECT_NEAR(read->notes[0].time.value.length_s(), 0.5, 1e-9);
}

// A bend of a tone and back goes out by the wheel and comes back; its neighbours are straight.
TEST(Midi, BentStringsAreBentByTheWheel) {
    Piece piece = test::richPiece();
    Note& note = piece.notes[2];
    note.techniques = {Technique::Bend, Technique::Release};
    const double length_s = note.time.value.length_s();
    note.curve = {{0.0, 0.0}, {0.4 * length_s, 200.0}, {0.9 * length_s, 0.0}};
    const auto read = readMidi(writeMidi(piece));
    ASSERT_TRUE(read.ok()) << read.error().message;
    ASSERT_EQ(read->notes.size(), piece.notes.size());
    EXPECT_NEAR(read->notes[2].bendSemitones(), 2.0, 0.01);
    EXPECT_TRUE(read->notes[2].has(Technique::Release));
    for (std::size_t i = 0; i < read->notes.size(); ++i)
        EXPECT_EQ(read->notes[i].curve.empty(), i != 2) << i;
    const test::Scratch scratch;
    ASSERT_TRUE(writeFileAtomically(scratch / "b.mid", writeMidi(piece)).ok());
    // python3-mido sees the wheel at a sixth of its range of an octave: 2 of 12 semitones.
    const auto seen =
        test::shell("/usr/bin/python3 -c \"import mido,sys; print(max(e.pitch for e in "
                    "mido.MidiFile(sys.argv[1]) if e.type == 'pitchwheel'))\" " +
                    (scratch / "b.mid").string());
    EXPECT_NEAR(std::stod(seen.output), 8192.0 / 6.0, 2.0) << seen.output;
}

TEST(Midi, DamagedFilesAreRefused) {
    const std::string good = writeMidi(test::richPiece());
    EXPECT_THAT(readMidi("").error().message, HasSubstr("not a MIDI file"));
    EXPECT_THAT(readMidi("RIFFxxxx").error().message, HasSubstr("not a MIDI file"));
    EXPECT_THAT(readMidi(good.substr(0, good.size() - 40)).error().message,
                HasSubstr("damaged in track"));
    std::string frames = good;
    frames[12] = static_cast<char>(0xE8);
    EXPECT_THAT(readMidi(frames).error().message, HasSubstr("film frames"));
    // Whatever byte is wrong, the reader ends and says something.
    for (std::size_t i = 0; i < good.size(); ++i) {
        std::string bent = good;
        bent[i] = static_cast<char>(bent[i] ^ 0xFF);
        const auto read = readMidi(bent);
        if (read.ok())
            EXPECT_TRUE(checkPiece(*read).ok()) << "byte " << i;
        else
            EXPECT_THAT(read.error().message, HasSubstr(";")) << "byte " << i << ": what to do";
    }
}

} // namespace
} // namespace wirenote
