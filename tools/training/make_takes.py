#!/usr/bin/python3
"""Makes random guitar takes with known truth, to learn from: tools/training/make_takes.py DIR [COUNT [simulated]]

Invented playing (picked chords, two voices, strums, riffs, lines) on grips that a hand can take, rendered by
FluidSynth from the General MIDI banks that Debian ships, and by the simulated instrument (train_render). Each take
is a WAV, a notes JSON and the arguments for the instrument. The same seed gives the same takes. With "simulated" other
takes come, all of them by the simulated instrument and unworn: their strings and frets are known, to measure placing by.
"""
import json, os, random, subprocess, sys

import mido

OPEN = [64, 59, 55, 50, 45, 40]
GRIPS = [  # frets from string 1 to string 6; None: not played
    (0, 1, 0, 2, 3, None), (2, 3, 2, 0, None, None), (0, 0, 1, 2, 2, 0), (0, 0, 0, 2, 2, 0), (3, 0, 0, 0, 2, 3),
    (0, 2, 2, 2, 0, None), (0, 1, 2, 2, 0, None), (1, 3, 2, 0, None, None), (1, 1, 2, 3, 3, 1), (1, 1, 1, 3, 3, 1),
    (2, 3, 4, 4, 2, None), (2, 4, 4, 4, 2, None), (0, 0, 2, 4, 2, 0), (3, 3, 0, 0, 2, 3), (0, 1, 0, 2, 0, None),
    (2, 0, 2, 1, 2, None), (1, 0, 2, 0, 3, None), (0, 2, 0, 2, 0, None), (0, 3, 0, 2, 3, None)]
MOVABLE = [(1, 1, 2, 3, 3, 1), (1, 1, 1, 3, 3, 1), (1, 3, 3, 3, 1, None), (1, 2, 3, 3, 1, None), (1, 2, 1, 3, 1, None)]
SCALE = [0, 2, 4, 5, 7, 9, 11]
BANKS = ["/usr/share/sounds/sf2/FluidR3_GM.sf2", "/usr/share/sounds/sf2/TimGM6mb.sf2"]
PROGRAMS = {"nylon": [24], "acoustic": [25], "guitar": [26, 27, 27, 28]}


class Player:
    """Notes on strings: a new note on a string ends the one before."""

    def __init__(self, random_, capo):
        self.random, self.capo, self.notes, self.sounding = random_, capo, [], {}

    def play(self, at_s, string, fret, length_s, velocity, techniques=()):
        at_s += self.random.gauss(0, 0.004)
        before = self.sounding.get(string)
        if before and before["offset_s"] > at_s - 0.005:
            before["offset_s"] = max(before["onset_s"] + 0.03, at_s - 0.005)
        note = {"onset_s": at_s, "offset_s": at_s + length_s, "midi": OPEN[string - 1] + self.capo + fret, "string": string,
                "fret": fret, "velocity": min(1.0, max(0.15, velocity * self.random.gauss(1, 0.12))), "techniques": list(techniques)}
        self.sounding[string] = note
        self.notes.append(note)

    def lift(self, at_s):
        for note in self.sounding.values():
            note["offset_s"] = min(note["offset_s"], max(note["onset_s"] + 0.05, at_s))


def grip(random_):
    if random_.random() < 0.6:
        return random_.choice(GRIPS)
    up = random_.randint(0, 8)
    return tuple(None if f is None else f + up for f in random_.choice(MOVABLE))


def picked(p, random_, beat_s, until_s):
    """Chords one string after the other, bass and tune together now and then."""
    t = 0.4
    while t < until_s:
        frets = grip(random_)
        strings = [s for s in range(1, 7) if frets[s - 1] is not None]
        bass, upper = [s for s in strings if s >= 4], [s for s in strings if s <= 3]
        order = random_.choice([upper, upper[::-1], upper + upper[-2:0:-1], random_.sample(upper, len(upper))])
        for k in range(random_.choice([4, 6, 8])):
            if k % random_.choice([2, 3, 4]) == 0:
                s = random_.choice(bass)
                p.play(t, s, frets[s - 1], 3.0, 0.75)
                if random_.random() < 0.4:
                    s = random_.choice(upper)
                    p.play(t, s, max(0, frets[s - 1] + random_.choice([0, 0, 0, 2])), 3.0, 0.75)
            else:
                s = order[k % len(order)]
                p.play(t, s, frets[s - 1] + (random_.choice([0, 2]) if random_.random() < 0.1 else 0), 3.0, 0.6)
            t += beat_s / 2
        p.lift(t - random_.choice([0.0, 0.02, 0.05]))


def two_voices(p, random_, beat_s, until_s):
    """A held bass under a tune."""
    t, height = 0.4, 7
    while t < until_s:
        string = random_.choice([4, 5, 6])
        p.play(t, string, random_.choice([0, 0, 2, 3, 3, 5]), beat_s * random_.choice([1, 2, 4]) * 0.97, 0.7)
        for _ in range(random_.choice([2, 3, 4])):
            height = min(14, max(0, height + random_.choice([-2, -1, -1, 1, 1, 2])))
            midi = 60 + 12 * (height // 7) + SCALE[height % 7] - 5
            places = [(s, midi - OPEN[s - 1]) for s in (1, 2, 3) if 0 <= midi - OPEN[s - 1] <= 12]
            if places and random_.random() < 0.85:
                s, fret = min(places, key=lambda q: q[1])
                p.play(t, s, fret, beat_s * random_.choice([0.45, 0.5, 0.9]), 0.7)
            t += beat_s / random_.choice([1, 2, 2])


def strums(p, random_, beat_s, until_s):
    t, step = 0.4, beat_s / random_.choice([2, 2, 4])
    short = random_.random() < 0.25
    while t < until_s:
        frets = grip(random_)
        strings = [s for s in range(1, 7) if frets[s - 1] is not None]
        for k in range(random_.choice([4, 8])):
            if random_.random() < 0.25:
                t += step
                continue
            down = k % 2 == 0
            some = strings[:] if random_.random() < 0.5 else (strings[-random_.randint(3, len(strings)):] if down else strings[:random_.randint(3, 4)])
            crossing = random_.uniform(0.002, 0.012)
            for i, s in enumerate(sorted(some, reverse=down)):
                p.play(t + i * crossing, s, frets[s - 1], step * random_.uniform(0.3, 0.5) if short else 3.0, 0.75 if down else 0.6)
            t += step
        p.lift(t - random_.choice([0.0, 0.03]))


def riff(p, random_, beat_s, until_s):
    """Damped low notes, fifths and octaves, and short runs."""
    t = 0.4
    root = random_.choice([0, 0, 2, 3])
    while t < until_s:
        kind = random_.random()
        if kind < 0.5:
            p.play(t, 6, root, beat_s * 0.25, 0.8)
            t += beat_s / 2
        elif kind < 0.8:
            fret, low = random_.randint(0, 7), random_.choice([5, 6])
            crossing = random_.uniform(0.001, 0.006)
            length = beat_s * random_.choice([0.4, 0.9])
            p.play(t, low, fret, length, 0.85)
            p.play(t + crossing, low - 1, fret + 2, length, 0.8)
            if random_.random() < 0.5:
                p.play(t + 2 * crossing, low - 2, fret + 2, length, 0.8)
            t += beat_s * random_.choice([0.5, 1])
        else:
            for _ in range(random_.choice([2, 4])):
                p.play(t, random_.choice([1, 2, 3, 4]), random_.randint(2, 9), beat_s * 0.24, 0.75)
                t += beat_s / 4
            p.lift(t)


def line(p, random_, beat_s, until_s):
    t, s, fret = 0.4, 3, 5
    while t < until_s:
        s = min(6, max(1, s + random_.choice([-1, 0, 0, 1])))
        fret = min(14, max(0, fret + random_.choice([-2, -1, 0, 1, 2, 3])))
        step = beat_s / random_.choice([1, 2, 2, 4])
        p.play(t, s, fret, step * random_.choice([0.5, 0.95, 0.98]), 0.75)
        t += step
        p.lift(t - 0.004)


def save_midi(path, events):
    """[(seconds, what comes first at one moment, message)] as a MIDI file."""
    file = mido.MidiFile(ticks_per_beat=1000)
    track = mido.MidiTrack()
    file.tracks.append(track)
    track.append(mido.MetaMessage("set_tempo", tempo=1000000))
    last = 0
    for t, _, message in sorted(events, key=lambda e: e[:2]):
        tick = int(round(t * 1000))
        track.append(message.copy(time=tick - last))
        last = tick
    file.save(path)


def struck(note, channel):
    yield note["onset_s"], 2, mido.Message("note_on", channel=channel, note=int(note["midi"]), velocity=int(127 * note["velocity"]))
    yield note["offset_s"], 1, mido.Message("note_off", channel=channel, note=int(note["midi"]))


def write_midi(path, notes, program):
    events = [(0.0, 0, mido.Message("program_change", channel=c, program=program)) for c in range(6)]
    for n in notes:
        events += struck(n, n["string"] - 1)
    save_midi(path, events)


def wear(r, path):
    """Half of the takes get another tone, noise or lossy coding, as recordings have."""
    if r.random() < 0.5:
        return
    tone = "treble=g=%.1f:f=2500,bass=g=%.1f:f=150" % (r.uniform(-10, 6), r.uniform(-8, 6))
    if r.random() < 0.3:
        tone += ",acompressor=threshold=0.05:ratio=4:attack=5:release=80:makeup=2"
    if r.random() < 0.3:
        tone += ",aecho=0.9:0.9:23|41|67|89:%s" % "|".join("%.2f" % r.uniform(0.05, 0.2) for _ in range(4))
    noise = 10 ** (r.uniform(-70, -42) / 20)
    worn = path + ".worn.wav"
    subprocess.run(["ffmpeg", "-v", "error", "-y", "-i", path, "-f", "lavfi", "-i", "anoisesrc=r=44100:a=%.6f:c=pink:s=%d" % (noise, r.randint(1, 999)),
                    "-filter_complex", "[0:a]aformat=channel_layouts=mono,%s[a];[a][1:a]amix=inputs=2:duration=first:normalize=0" % tone, worn], check=True)
    if r.random() < 0.3:
        subprocess.run(["ffmpeg", "-v", "error", "-y", "-i", worn, "-b:a", "96k", worn + ".mp3"], check=True)
        subprocess.run(["ffmpeg", "-v", "error", "-y", "-i", worn + ".mp3", worn], check=True)
        os.remove(worn + ".mp3")
    os.replace(worn, path)


def main():
    folder, count = sys.argv[1], int(sys.argv[2]) if len(sys.argv) > 2 else 60
    simulated = sys.argv[3:] == ["simulated"]
    render = os.path.join(os.path.dirname(os.path.abspath(__file__)), "../../build/release/bin/train_render")
    os.makedirs(folder, exist_ok=True)
    takes = []
    for number in range(count):
        r = random.Random((7000 if simulated else 1000) + number)
        capo = r.choice([0, 0, 0, 2, 3])
        kind = r.choice(["nylon", "acoustic", "guitar"])
        player = Player(r, capo)
        style = [picked, two_voices, strums, strums, riff, line][number % 6]
        style(player, r, 60.0 / r.uniform(70, 130), 16.0)
        notes = sorted((n for n in player.notes if n["onset_s"] > 0), key=lambda n: n["onset_s"])
        name = os.path.join(folder, "%03d-%s-%s" % (number, style.__name__, kind))
        truth = {"format": "wirenote-notes/1", "notes": notes,
                 "instrument": {"kind": kind, "capo": capo, "strings": [{"number": s + 1, "open_midi": OPEN[s]} for s in range(6)]}}
        with open(name + ".json", "w", encoding="utf-8") as out:
            json.dump(truth, out)
        by_strings = simulated or number % 3 == 2
        if by_strings:
            subprocess.run([render, name + ".json", name + ".wav"], check=True)
        else:
            bank, program = r.choice(BANKS), r.choice(PROGRAMS[kind])
            write_midi(name + ".mid", notes, program)
            subprocess.run(["fluidsynth", "-ni", "-q", "-g", "0.5", "-R", str(r.choice([0, 1])), "-C", "0", "-r", "44100", "-F", name + ".wav", bank,
                            name + ".mid"], check=True, stdout=subprocess.DEVNULL)
        if not simulated:
            wear(r, name + ".wav")
        takes.append({"name": os.path.basename(name), "group": style.__name__ + ("/strings" if by_strings else "/sampled"),
                      "media": os.path.basename(name) + ".wav", "truth": os.path.basename(name) + ".json", "args": ["--instrument", kind, "--capo", str(capo)]})
    with open(os.path.join(folder, "takes.json"), "w", encoding="utf-8") as out:
        json.dump({"takes": takes}, out, indent=1)


if __name__ == "__main__":
    main()
