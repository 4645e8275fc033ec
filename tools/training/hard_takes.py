#!/usr/bin/python3
"""Makes invented takes of hard sounds for the network of attacks: tools/training/hard_takes.py DIR COUNT [WORKERS]

All sound fonts of Debian's archive that carry guitars, and the simulated instrument; other tunings and capos, strings a little out of
tune, amplifiers from clean to heavy with cabinets, pickups, rooms, noise, lossy coding, now and then a band. Of each take the truth
(notes JSON), the sound while it is worked on, and what the network sees of its attacks (train_pictures). meta.json says for each
take what it is made of, so that whole fonts, amplifiers and kinds of playing can be held out. The same count gives the same takes.
Needs fluidsynth, ffmpeg, python3-mido, python3-scipy and the sound fonts.
"""
import json, os, random, subprocess, sys
from multiprocessing import Pool

import mido
import numpy as np
from scipy import signal
from scipy.io import wavfile

import make_takes

RATE = 44100
KEPT = 100  # the first takes keep their sound: to be heard by a person, to measure with, never to learn from
BIN = os.path.join(os.path.dirname(os.path.abspath(__file__)), "../../build/release/bin")
FONTS = {"fluid": "/usr/share/sounds/sf2/FluidR3_GM.sf2", "tim": "/usr/share/sounds/sf2/TimGM6mb.sf2", "csound": "/usr/share/sounds/sf2/sf_GMbank.sf2",
         "opl": "/usr/share/sounds/sf2/OPL-3_FM_128M.sf2", "general": "/usr/share/sounds/sf3/MuseScore_General.sf3"}
PROGRAMS = {"nylon": [24, 24, 24, 46], "acoustic": [25, 25, 25, 105], "guitar": [26, 27, 27, 28, 29, 30], "bass": [32, 33, 33, 34, 34, 35, 36, 37]}
MUTED = 28
TUNINGS = [(0, 0, 0, 0, 0, 0)] * 6 + [(-1,) * 6, (-2,) * 6, (0, 0, 0, 0, 0, -2), (-2, 0, 0, 0, 0, -2), (-2, -2, -1, 0, -2, -2), (0, -2, 0, 0, -2, -2)]
BASSES = [(43, 38, 33, 28)] * 6 + [(43, 38, 33, 26), (42, 37, 32, 27), (43, 38, 33, 28, 23), (43, 38, 33, 28, 23)]
SECOND_BATCH = 2784  # from here on: basses, slurs, and a band in a third
WHEEL_SEMITONES = 12
FIRST_CHANNELS, MUTED_CHANNELS = (0, 1, 2, 3, 4, 5), (6, 7, 8, 10, 11, 12)


class Player(make_takes.Player):
    """Other tunings than the usual one."""

    def __init__(self, random_, capo, tuning):
        super().__init__(random_, capo)
        self.open = [o + t for o, t in zip(make_takes.OPEN, tuning)]

    def play(self, at_s, string, fret, length_s, velocity, techniques=()):
        super().play(at_s, string, fret, length_s, velocity, techniques)
        self.notes[-1]["midi"] = self.open[string - 1] + self.capo + fret

    def slur(self, at_s, string, fret, length_s, technique=None):
        """The string goes on: hammered, pulled off or slid from the fret it stands at; plucked where it does not sound."""
        before = self.sounding.get(string)
        sounds = before and before["offset_s"] > at_s - 0.02 and before["fret"] != fret and before["onset_s"] < at_s - 0.05
        velocity = 0.8 * before["velocity"] if sounds else 0.7
        named = technique or ("hammer-on" if sounds and fret > before["fret"] else "pull-off")
        self.play(at_s, string, fret, length_s, velocity, [named] if sounds else [])


def arpeggio(p, r, beat_s, until_s):
    """Even sixteenths or triplets over a grip, everything rings on."""
    t, step = 0.4, beat_s / r.choice([3, 4, 4, 4, 6])
    while t < until_s:
        frets = make_takes.grip(r)
        strings = [s for s in range(6, 0, -1) if frets[s - 1] is not None]
        low, high = strings[:2], strings[2:]
        order = r.choice([high, high + high[-2:0:-1], high[::-1], r.sample(high, len(high))])
        for k in range(r.choice([8, 12, 16])):
            s = r.choice(low) if k % 4 == 0 and r.random() < 0.7 else order[k % len(order)]
            p.play(t, s, frets[s - 1], 4.0, r.uniform(0.45, 0.8))
            t += step
        if r.random() < 0.6:
            p.lift(t - r.choice([0.0, 0.01, 0.04]))


def grips_again(p, r, beat_s, until_s):
    """The same grip struck over and over, ringing."""
    t, step = 0.4, beat_s / r.choice([1, 2, 2, 3, 4])
    while t < until_s:
        frets = make_takes.grip(r)
        strings = [s for s in range(6, 0, -1) if frets[s - 1] is not None]
        if r.random() < 0.3:
            strings = strings[-r.randint(2, 4):]
        crossing, fingers = r.uniform(0.0, 0.014), r.random() < 0.4
        for k in range(r.choice([3, 4, 6, 8])):
            if fingers and k % r.choice([2, 3, 4]) == 0:
                p.play(t, strings[0], frets[strings[0] - 1], 3.0, 0.75)
            else:
                some = strings[1:] if fingers else strings if r.random() < 0.6 else r.sample(strings, max(2, len(strings) - r.randint(1, 2)))
                for i, s in enumerate(sorted(some, reverse=r.random() < 0.7)):
                    p.play(t + i * (0.15 if fingers else 1.0) * crossing, s, frets[s - 1], 3.0, r.uniform(0.5, 0.85))
            t += step
        p.lift(t - r.choice([0.0, 0.02]))


def fifths(p, r, beat_s, until_s):
    """Fifths, fourths and damped low notes in gallops; one finger over several strings."""
    t, low = 0.4, r.choice([5, 6, 6, 6])
    one_finger = p.open[4] - p.open[5] == 7 and r.random() < 0.8
    root = r.choice([0, 0, 0, 2, 3, 5])
    cell = r.choice([(1,), (2, 1, 1), (1, 1, 2), (1, 1), (4,), (2,), (3, 3, 2)])
    while t < until_s:
        for part in cell:
            length = beat_s / 4 * part
            fret = r.choice([root, r.randint(0, 8)])
            if r.random() < 0.45:
                p.play(t, low, root, length * r.uniform(0.6, 1.0), r.uniform(0.6, 0.9), ["palm-mute"])
            else:
                muted = ["palm-mute"] if r.random() < 0.25 else []
                shape = (0, 0, 0) if one_finger and low == 6 else r.choice([(0, 2, 2), (0, 2, 2), (0, 0, 2), (0, 2, 3), (0, 4, 4)])
                held = length * r.uniform(0.5, 1.0)
                for i in range(r.choice([2, 2, 3])):
                    p.play(t + i * r.uniform(0.0, 0.005), low - i, fret + shape[i], held, 0.85, muted)
            t += length
        if r.random() < 0.2:
            t += beat_s / 2
        if r.random() < 0.3:
            p.lift(t - 0.01)


def chops(p, r, beat_s, until_s):
    """Short stabs of three or four strings."""
    t = 0.4
    while t < until_s:
        frets = make_takes.grip(r)
        strings = [s for s in (4, 3, 2, 1) if frets[s - 1] is not None]
        for _ in range(r.choice([2, 4, 6])):
            length = beat_s * r.choice([0.12, 0.2, 0.4])
            for i, s in enumerate(strings):
                p.play(t + i * 0.003, s, frets[s - 1], length, 0.75)
            t += beat_s * r.choice([0.25, 0.5, 0.5, 1.0])


def over_held(p, r, beat_s, until_s):
    """Slurs, repeated notes and runs over held strings."""
    t = 0.4
    while t < until_s:
        held = r.sample([6, 5, 4], r.choice([1, 2]))
        for s in held:
            p.play(t, s, r.choice([0, 0, 2, 3]), 4.0, 0.75)
        fret, s = r.choice([2, 3, 5, 7]), r.choice([1, 2, 3])
        kind = r.random()
        for k in range(r.choice([3, 4, 6, 8])):
            if kind < 0.4:
                p.play(t, s, fret, beat_s, 0.6)
            elif kind < 0.7:
                p.play(t, s, fret + (2 if k % 2 else 0), beat_s, 0.45 if k % 2 else 0.7, ["hammer-on"] if k % 2 else ["pull-off"] if k else [])
            else:
                s = min(3, max(1, s + r.choice([-1, 0, 1])))
                p.play(t, s, max(0, fret + r.choice([-2, 0, 2])), beat_s * r.choice([0.3, 1.0]), 0.65)
            t += beat_s / r.choice([2, 3, 4])
        p.lift(t - 0.005)


def doubles(p, r, beat_s, until_s):
    """Thirds, sixths, octaves and tenths, held or short."""
    t = 0.4
    while t < until_s:
        low = r.choice([6, 5, 4, 3, 2])
        apart = r.choice([1, 1, 2, 2, 3])
        high = max(1, low - apart)
        fret = r.randint(1, 9)
        length = beat_s * r.choice([0.2, 0.45, 0.5, 1.0])
        p.play(t, low, fret, length, 0.7)
        p.play(t + r.uniform(0, 0.004), high, max(0, fret + r.choice([-2, -1, 0, 1, 2])), length, 0.7)
        t += beat_s * r.choice([0.25, 0.5, 0.5, 1.0])


def slurred_run(p, r, t, s, fret, step, count):
    """Notes along one string, the first of them struck: when it is over, and where."""
    p.play(t, s, fret, step, 0.75)
    for _ in range(count):
        t += step
        there = min(13, max(0, fret + r.choice([-4, -3, -2, -2, -1, 1, 2, 2, 3, 4])))
        if there == fret or r.random() < 0.25:
            p.play(t, s, there, step * r.choice([0.6, 1.0, 1.0]), 0.7)
        else:
            p.slur(t, s, there, step, "slide" if r.random() < 0.2 and fret and there else None)
        fret = there
    return t + step, fret


def legato(p, r, beat_s, until_s):
    """A line with slurs: two to five notes a stroke."""
    t, s, fret = 0.4, r.randint(1, 4), r.randint(2, 9)
    while t < until_s:
        step = beat_s / r.choice([1, 2, 2, 3, 4])
        t, fret = slurred_run(p, r, t, s, fret, step, r.choice([0, 1, 1, 2, 3, 4]))
        if r.random() < 0.8:
            p.lift(t - 0.004)
        s = min(len(p.open), max(1, s + r.choice([-1, 0, 1])))
        t += r.choice([0.0, 0.0, 0.0, step])


def slurs_over_held(p, r, beat_s, until_s):
    """Slurs, trills and slides on the upper strings while lower ones ring."""
    t = 0.4
    while t < until_s:
        for s in r.sample([6, 5, 4], r.choice([1, 1, 2])):
            p.play(t, s, r.choice([0, 0, 2, 3]), 4.0, 0.75)
        if r.random() < 0.5:
            t += beat_s / r.choice([1, 2])
        for _ in range(r.choice([1, 2, 3])):
            step = beat_s / r.choice([1, 2, 2, 3, 4])
            t, _ = slurred_run(p, r, t, r.choice([1, 2, 3]), r.choice([0, 0, 2, 3, 5, 7]), step, r.choice([1, 1, 2, 3, 4]))
            if r.random() < 0.3:
                t += step
        p.lift(t - 0.005)


def bass_line(p, r, beat_s, until_s):
    """Roots, fifths, octaves and steps between them; held, short, or slurred into."""
    t, strings = 0.4, len(p.open)
    short, step = r.random() < 0.35, beat_s / r.choice([1, 2, 2, 4])
    slurs = r.choice([0.0, 0.1, 0.3])
    while t < until_s:
        s, fret = r.randint(2, strings), r.randint(0, 7)
        for _ in range(r.choice([4, 8])):
            where = r.random()
            if where < 0.6:
                at = (s, fret)
            elif where < 0.75:
                at = (max(1, s - 1), fret + 2)
            elif where < 0.85:
                at = (max(1, s - 2), fret + 2)
            else:
                at = (s, max(0, fret + r.choice([-2, -1, 2, 3, 4])))
            length = step * (r.uniform(0.3, 0.6) if short else r.choice([0.7, 0.95, 1.0]))
            if r.random() < slurs:
                p.slur(t, at[0], at[1], length, "slide" if r.random() < 0.2 and at[1] else None)
            else:
                p.play(t, at[0], at[1], length, r.uniform(0.55, 0.85))
            t += step
            p.lift(t - (0.004 if r.random() < 0.9 else -0.08))
        if r.random() < 0.3:
            t += step * r.choice([1, 2])


STYLES = {"picked": (make_takes.picked, 2), "two_voices": (make_takes.two_voices, 1.5), "strums": (make_takes.strums, 2), "riff": (make_takes.riff, 1),
          "line": (make_takes.line, 0.7), "arpeggio": (arpeggio, 2.5), "grips_again": (grips_again, 2.5), "fifths": (fifths, 3), "chops": (chops, 1),
          "over_held": (over_held, 1.5), "doubles": (doubles, 1.2)}
LATER_STYLES = {"bass_line": (bass_line, 5), "legato": (legato, 4), "slurs_over_held": (slurs_over_held, 5), "arpeggio": (arpeggio, 1),
                "grips_again": (grips_again, 1), "fifths": (fifths, 1.5), "strums": (make_takes.strums, 1), "line": (make_takes.line, 1),
                "picked": (make_takes.picked, 0.7), "riff": (make_takes.riff, 0.7), "two_voices": (make_takes.two_voices, 0.7)}
SLURS = ("hammer-on", "pull-off", "slide")


def wheel(channel, semitones):
    return mido.Message("pitchwheel", channel=channel, pitch=int(max(-8191, min(8191, 8191 * semitones / WHEEL_SEMITONES))))


def drawn(channel, note, from_semitones, to_semitones):
    """The same sound goes on at another pitch: at once, or fret by fret."""
    if "slide" in note["techniques"]:
        for k in range(1, 6):
            yield note["onset_s"] - 0.06 + 0.012 * k, 2, wheel(channel, from_semitones + (to_semitones - from_semitones) * k / 5)
    else:
        yield note["onset_s"], 2, wheel(channel, to_semitones)


def on_string(notes, channels, cents):
    """MIDI of one string: what is slurred is a move of the wheel."""
    base = {}
    for k, n in enumerate(notes):
        channel = channels[1] if "palm-mute" in n["techniques"] else channels[0]
        slurred = base.get("channel") == channel and any(t in SLURS for t in n["techniques"])
        last = k + 1 == len(notes) or not any(t in SLURS for t in notes[k + 1]["techniques"])
        if slurred and abs(n["midi"] - base["midi"]) <= WHEEL_SEMITONES:
            yield from drawn(channel, n, base["at"] + cents / 100, n["midi"] - base["midi"] + cents / 100)
            base["at"] = n["midi"] - base["midi"]
        else:
            base = {"channel": channel, "midi": n["midi"], "at": 0}
            yield n["onset_s"], 1.5, wheel(channel, cents / 100)
            yield n["onset_s"], 2, mido.Message("note_on", channel=channel, note=int(n["midi"]), velocity=int(127 * n["velocity"]))
        if last:
            yield n["offset_s"], 1, mido.Message("note_off", channel=channel, note=int(base["midi"]))


def by_font(r, path, notes, program, font):
    events = []
    for number in range(6):
        cents = r.gauss(0, 4)
        channels = FIRST_CHANNELS[number], MUTED_CHANNELS[number]
        for channel, sound in zip(channels, (program, MUTED)):
            events.append((0.0, 0, mido.Message("program_change", channel=channel, program=sound)))
            for control, value in ((101, 0), (100, 0), (6, WHEEL_SEMITONES), (38, 0)):
                events.append((0.0, 0, mido.Message("control_change", channel=channel, control=control, value=value)))
        events += on_string([n for n in notes if n["string"] == number + 1], channels, cents)
    make_takes.save_midi(path + ".mid", events)
    play(path, FONTS[font], r.random() < 0.3)


def play(path, font, wet):
    subprocess.run(["fluidsynth", "-ni", "-q", "-g", "0.4", "-R", str(int(wet)), "-C", "0", "-o", "synth.dynamic-sample-loading=1", "-r", str(RATE),
                    "-F", path + ".wav", font, path + ".mid"], check=True, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    os.remove(path + ".mid")


def read(path):
    _, x = wavfile.read(path)
    x = x.astype(np.float64) / (32768.0 if x.dtype == np.int16 else 1.0)
    return x.mean(axis=1) if x.ndim > 1 else x


def level(x):
    loud = np.abs(x) > 1e-4
    return np.sqrt(np.mean(x[loud] ** 2)) if loud.any() else 1e-4


def band(r, path, length_s, beat_s, root):
    """A drum kit, and a bass in most, of a font by chance."""
    events, with_bass = [(0.0, 0, mido.Message("program_change", channel=0, program=r.choice([32, 33, 34, 35])))], r.random() < 0.6
    events.append((0.0, 0, mido.Message("program_change", channel=9, program=r.choice([0, 0, 8, 16, 24, 32, 40]))))
    slots = r.choice([2, 2, 2, 3, 4])  # a beat
    kit = [r.choice([42, 42, 44, 51, 54, 70]), r.choice([35, 36]), r.choice([37, 38, 39, 40])]
    kick = [r.random() < 0.25 or k == 0 for k in range(4 * slots)]
    backbeat = r.choice([2, 4])
    t, k = 0.4, 0
    while t < length_s:
        hits = [kit[0]] if r.random() < 0.85 else [46] if r.random() < 0.3 else []
        if kick[k % len(kick)] or r.random() < 0.05:
            hits.append(kit[1])
        if k % (backbeat * slots) == backbeat * slots // 2:
            hits.append(kit[2])
        if r.random() < 0.04:
            hits.append(r.choice([41, 45, 47, 48, 49, 57]))
        for h in hits:
            events.append((max(0.0, t + r.gauss(0, 0.006)), 0, mido.Message("note_on", channel=9, note=h, velocity=r.randint(60, 120))))
        if with_bass and r.random() < 0.6:
            pitch = root + r.choice([0, 0, 0, 3, 5, 7])
            events.append((t, 0, mido.Message("note_on", channel=0, note=pitch, velocity=90)))
            events.append((t + beat_s * 0.9 / slots, 0, mido.Message("note_off", channel=0, note=pitch)))
        t, k = t + beat_s / slots, k + 1
    make_takes.save_midi(path + ".mid", events)
    play(path, FONTS[r.choice(list(FONTS))], False)
    return read(path + ".wav")


def filtered(x, b, a=1.0):
    return signal.lfilter(b, a, x)


def peak(x, hz, q, db):
    """A bell of the usual kind (second order)."""
    w, gain = 2 * np.pi * hz / RATE, 10 ** (db / 40)
    alpha = np.sin(w) / (2 * q)
    b = np.array([1 + alpha * gain, -2 * np.cos(w), 1 - alpha * gain])
    a = np.array([1 + alpha / gain, -2 * np.cos(w), 1 - alpha / gain])
    return filtered(x, b / a[0], a / a[0])


CURVES = {"tanh": np.tanh, "hard": lambda v: np.clip(v, -1, 1), "soft": lambda v: v / (1 + np.abs(v)),
          "lopsided": lambda v: np.tanh(v + 0.4) - np.tanh(0.4), "tube": lambda v: np.where(v > 0, np.tanh(v), np.tanh(0.6 * v) / 0.6)}


def amplified(r, x, curve, gain_db):
    """Pre-filter, one or two clipping stages at four times the rate, a cabinet."""
    x = filtered(x / level(x), *signal.butter(1, r.uniform(60, 250) / (RATE / 2), "high"))
    x = peak(x, r.uniform(500, 1500), 0.7, r.uniform(0, 10))
    y = signal.resample_poly(x, 4, 1)
    y = CURVES[curve](10 ** (gain_db / 20) * y)
    if r.random() < 0.4:
        y = CURVES[curve](r.uniform(1.5, 5) * (y - y.mean()))
    y = signal.resample_poly(y, 1, 4)
    y = filtered(y, *signal.butter(r.choice([2, 3, 4]), r.uniform(2800, 6500) / (RATE / 2)))
    y = filtered(y, *signal.butter(2, r.uniform(50, 100) / (RATE / 2), "high"))
    y = peak(y, r.uniform(80, 160), 1.2, r.uniform(0, 8))
    for _ in range(3):
        y = peak(y, r.uniform(300, 4000), r.uniform(0.7, 4), r.uniform(-9, 7))
    return y


def worn(r, x):
    if r.random() < 0.3:  # where a pickup or a microphone stands
        delay = int(RATE * r.uniform(0.0002, 0.0018))
        late = np.concatenate([np.zeros(delay), x[:-delay]])
        x = x + r.uniform(-0.8, 0.8) * late
    for _ in range(r.choice([0, 1, 2, 4])):
        x = peak(x, np.exp(r.uniform(np.log(80), np.log(6000))), r.uniform(0.5, 4), r.uniform(-9, 7))
    if r.random() < 0.4:
        x = filtered(x, *signal.butter(1, r.uniform(1500, 9000) / (RATE / 2)))
    if r.random() < 0.35:
        seconds = r.uniform(0.08, 0.7)
        tail = np.random.RandomState(r.randint(0, 10 ** 6)).normal(size=int(seconds * RATE)) * np.exp(-6.9 * np.arange(int(seconds * RATE)) / (seconds * RATE))
        tail = filtered(tail, *signal.butter(1, r.uniform(1500, 8000) / (RATE / 2)))
        wet = signal.fftconvolve(x, tail)[:len(x)]
        x = x + r.uniform(0.03, 0.35) * level(x) / max(1e-9, level(wet)) * wet
    if r.random() < 0.25:  # squeezed
        envelope = np.sqrt(np.maximum(1e-8, filtered(x ** 2, [1 - 0.999], [1, -0.999])))
        x = x / np.maximum(envelope, 0.3 * level(x)) ** r.uniform(0.2, 0.7)
    noise = np.random.RandomState(r.randint(0, 10 ** 6)).normal(size=len(x))
    if r.random() < 0.5:
        noise = filtered(noise, [0.05], [1, -0.95])
    return x + 10 ** (r.uniform(-75, -36) / 20) * level(x) / level(noise) * noise


def make(job):
    folder, number = job
    r = random.Random(52000 + number)
    name = os.path.join(folder, "%04d" % number)
    if os.path.exists(name + ".pic") and os.path.exists(name + ".meta"):
        return
    later = number >= SECOND_BATCH
    styles = LATER_STYLES if later else STYLES
    style = r.choices(list(styles), [w for _, w in styles.values()])[0]
    kind = r.choices(["nylon", "acoustic", "guitar"], [0.1, 0.1, 0.8] if style == "fifths" else [0.33, 0.33, 0.34])[0]
    if style == "bass_line" or (style == "legato" and r.random() < 0.3):
        kind = "bass"
    tuning = r.choice(TUNINGS) if style != "fifths" else r.choice(TUNINGS + [(0, 0, 0, 0, 0, -2), (-2, -2, -2, -2, -2, -4)] * 3)
    player = Player(r, r.choice([0, 0, 0, 0, 1, 2, 3, 5]) if tuning[0] == 0 and kind != "bass" else 0, tuning)
    if kind == "bass":
        player.open = list(r.choice(BASSES))
    beat_s = 60.0 / r.uniform(56, 168)
    styles[style][0](player, r, beat_s, 13.0)
    notes = sorted((n for n in player.notes if n["onset_s"] > 0), key=lambda n: n["onset_s"])
    strings = [{"number": s + 1, "open_midi": player.open[s]} for s in range(len(player.open))]
    truth = {"format": "wirenote-notes/1", "notes": notes, "instrument": {"kind": kind, "capo": player.capo, "strings": strings}}
    with open(name + ".json", "w", encoding="utf-8") as out:
        json.dump(truth, out)
    font = r.choice(["simulated", "simulated"] + list(FONTS))
    program = r.choice(PROGRAMS[kind])
    if font == "simulated":
        subprocess.run([os.path.join(BIN, "train_render"), name + ".json", name + ".wav", "%.3f" % r.uniform(0.05, 0.32)], check=True)
    else:
        by_font(r, name, notes, program, font)
    x = read(name + ".wav")
    amplifier, gain = "none", 0.0
    if r.random() < {"nylon": 0.05, "acoustic": 0.1, "bass": 0.3, "guitar": 0.85 if style == "fifths" else 0.5}[kind]:
        amplifier, gain = r.choice(list(CURVES)), r.uniform(-6, 38 if style in ("fifths", "riff", "line", "legato") and kind != "bass" else 20)
        x = amplified(r, x, amplifier, gain)
    x = worn(r, x)
    with_band = r.random() < (0.35 if later else 0.1)
    if with_band:
        other = band(r, name + "-band", len(x) / RATE, beat_s, 28 + (notes[0]["midi"] % 12))
        other = other[:len(x)]
        x[:len(other)] += 10 ** (r.uniform(-16, -3) / 20) * level(x) / level(other) * other
        os.remove(name + "-band.wav")
    wavfile.write(name + ".wav", RATE, (x * r.uniform(0.2, 0.9) / np.abs(x).max()).astype(np.float32))
    if r.random() < 0.2:
        subprocess.run(["ffmpeg", "-v", "error", "-y", "-i", name + ".wav", "-b:a", r.choice(["64k", "96k", "128k"]), name + ".mp3"], check=True)
        subprocess.run(["ffmpeg", "-v", "error", "-y", "-i", name + ".mp3", name + ".wav"], check=True)
        os.remove(name + ".mp3")
    subprocess.run([os.path.join(BIN, "train_pictures"), name + ".wav", name + ".json", name + ".pic"], check=True)
    if number >= KEPT:
        os.remove(name + ".wav")
    with open(name + ".meta", "w", encoding="utf-8") as out:
        json.dump({"name": os.path.basename(name), "style": style, "kind": kind, "font": font, "program": program, "amplifier": amplifier, "beat_s": beat_s,
                   "gain_db": gain, "band": with_band, "notes": len(notes)}, out)


def main():
    folder, count = sys.argv[1], int(sys.argv[2])
    os.makedirs(folder, exist_ok=True)
    with Pool(int(sys.argv[3]) if len(sys.argv) > 3 else 2) as pool:
        jobs = [(folder, n) for n in range(count)]
        for done, _ in enumerate(pool.imap_unordered(make, jobs, chunksize=4), 1):
            if done % 100 == 0:
                print(done, flush=True)


if __name__ == "__main__":
    main()
