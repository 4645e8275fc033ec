#!/usr/bin/env python3
"""Copies of recordings made worse or otherwise on purpose, for learn_talk.py.

  tools/training/make_worse.py playing|talk OUT SOUND ...

Of playing three copies each, out of: vibrato, a wide and fast one, glides, no treble, lossy coding, noise, a room; and ten lines
of plain tones. Of talk one copy each, out of: deeper, higher, no treble, lossy coding, noise, a room. Needs ffmpeg and python3-numpy.
"""
import os, random, subprocess, sys, tempfile, wave

import numpy as np

RATE = 22050
CHANCE = random.Random(5)
NOISE = np.random.RandomState(5)


def read(path):
    raw = subprocess.run(["ffmpeg", "-v", "error", "-i", path, "-ac", "1", "-ar", str(RATE), "-f", "f32le", "-"], stdout=subprocess.PIPE, check=True).stdout
    return np.frombuffer(raw, np.float32).astype(float)


def write(path, x):
    with wave.open(path, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(RATE)
        file.writeframes((np.clip(x, -1, 1) * 32767).astype("<i2").tobytes())


def warped(x, speed):
    """Played at a speed that changes; pitch and time go with it."""
    place = np.cumsum(speed(np.arange(len(x)) / RATE))
    place = place[place < len(x) - 2]
    i = place.astype(int)
    part = place - i
    return x[i] * (1 - part) + x[i + 1] * part


def vibrato(x, cents=45, hz=5.0):
    return warped(x, lambda t: 2 ** (cents / 1200 * np.sin(2 * np.pi * hz * t)))


def glides(x):
    phase = 6 * CHANCE.random()
    return warped(x, lambda t: 2 ** (2.5 / 12 * np.maximum(0, np.sin(2 * np.pi * t / 2.3 + phase)) ** 3))


def without_treble(x, above_hz=3500):
    spectrum = np.fft.rfft(x)
    return np.fft.irfft(spectrum / (1 + (np.fft.rfftfreq(len(x), 1 / RATE) / above_hz) ** 8), len(x))


def noisy(x, db=-28):
    return x + NOISE.randn(len(x)) * np.sqrt((x ** 2).mean()) * 10 ** (db / 20)


def in_a_room(x):
    tail = np.exp(-np.arange(int(0.4 * RATE)) / RATE / 0.08) * NOISE.randn(int(0.4 * RATE))
    tail[0] += 8
    tail /= np.sqrt((tail ** 2).sum())
    size = 1 << int(np.ceil(np.log2(len(x) + len(tail))))
    return np.fft.irfft(np.fft.rfft(x, size) * np.fft.rfft(tail, size), size)[:len(x)]


def coded(x):
    with tempfile.TemporaryDirectory() as scratch:
        plain, mp3 = os.path.join(scratch, "x.wav"), os.path.join(scratch, "x.mp3")
        write(plain, x)
        subprocess.run(["ffmpeg", "-v", "error", "-i", plain, "-b:a", "48k", mp3], check=True)
        return read(mp3)


def at_speed(factor):
    return lambda x: warped(x, lambda t: np.full(len(t), factor))


def tones():
    x = np.zeros(20 * RATE)
    at_s = 0.3
    while at_s < 19:
        length_s = CHANCE.choice([0.2, 0.25, 0.4, 0.5, 0.9])
        f0 = 440 * 2 ** ((CHANCE.randint(40, 76) - 69) / 12)
        t = np.arange(int(0.96 * length_s * RATE)) / RATE
        cents = CHANCE.choice([0, 0, 45, 60])
        phase = 2 * np.pi * np.cumsum(f0 * 2 ** (cents / 1200 * np.sin(2 * np.pi * 5 * t))) / RATE
        tone = sum(np.sin(k * phase) / k for k in range(1, 9) if k * f0 < 10000) * np.exp(-2 * t)
        tone[-200:] *= np.linspace(1, 0, 200)
        start = int(at_s * RATE)
        x[start:start + len(tone)] += 0.2 * tone
        at_s += length_s
    return x


PLAYING = {"vibrato": vibrato, "wide": lambda x: vibrato(x, 70, 6), "glides": glides, "dull": without_treble, "coded": coded, "noisy": noisy, "room": in_a_room}
TALK = {"deep": at_speed(0.82), "high": at_speed(1.15), "dull": without_treble, "coded": coded, "noisy": noisy, "room": in_a_room}


def main():
    if len(sys.argv) < 4 or sys.argv[1] not in ("playing", "talk"):
        sys.exit(__doc__)
    kind, out, paths = sys.argv[1], sys.argv[2], sys.argv[3:]
    os.makedirs(out, exist_ok=True)
    ways = PLAYING if kind == "playing" else TALK
    for number, path in enumerate(paths):
        x = read(path)
        for way in CHANCE.sample(sorted(ways), 3 if kind == "playing" else 1):
            write(os.path.join(out, "%d_%s.wav" % (number, way)), ways[way](x))
    for k in range(10 if kind == "playing" else 0):
        write(os.path.join(out, "tones%d.wav" % k), tones() if k % 2 else noisy(tones(), -45))


if __name__ == "__main__":
    main()
