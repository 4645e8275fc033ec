"""Takes with a band under them, for tools/evaluate --band: recorded drums, and a recorded bass string, at the take's beats.

Neither the drums (avldrums.lv2-soundfont) nor the bass (sonic-pi-samples) is among what the networks learned from.
Needs both packages and fluidsynth.
"""
import os, random, subprocess

import wear

DRUMS = "/usr/share/sounds/sf2/Black_Pearl_4_LV2.sf2"
BASS = "/usr/share/sonic-pi/samples/bass_woodsy_c.flac"
BASS_MIDI = 36  # C2
KICK, SNARE, HAT, OPEN_HAT, CRASH = 36, 38, 42, 46, 49
TICKS = 1000  # a second
BLOCK = 2048
WAYS = {"drums-12": (False, -12.0), "drums-6": (False, -6.0), "bass-12": (True, -12.0), "bass-6": (True, -6.0)}


def variable(value):
    """A length in a MIDI file: seven bits a byte."""
    out = [value & 127]
    while value > 127:
        value >>= 7
        out.insert(0, 128 | (value & 127))
    return bytes(out)


def midi_file(path, hits):
    """[(seconds, drum, velocity)] on channel 1: the font has no bank for drums."""
    track, last = b"\x00\xff\x51\x03" + (1000000).to_bytes(3, "big"), 0
    for at_s, drum, velocity in sorted(hits):
        tick = round(at_s * TICKS)
        track += variable(tick - last) + bytes((0x90, drum, velocity))
        last = tick
    track += variable(2 * TICKS) + b"\xff\x2f\x00"
    with open(path, "wb") as out:
        out.write(b"MThd" + (6).to_bytes(4, "big") + (0).to_bytes(2, "big") + (1).to_bytes(2, "big") + TICKS.to_bytes(2, "big"))
        out.write(b"MTrk" + len(track).to_bytes(4, "big") + track)


def pattern(beats_s, chance):
    """Kick on one and three and now and then between, snare on two and four, hats on every half beat."""
    between = [k for k in (1, 3, 5, 7) if chance.random() < 0.3]
    hits = []
    for k, (at_s, next_s) in enumerate(zip(beats_s, beats_s[1:])):
        for half in (0, 1):
            slot = 2 * (k % 4) + half
            when = max(0.0, at_s + half * (next_s - at_s) / 2 + chance.gauss(0.0, 0.004))
            hits.append((when, OPEN_HAT if slot == 7 and chance.random() < 0.3 else HAT, chance.randint(60, 100)))
            if slot in (0, 4) or slot in between:
                hits.append((when, KICK, chance.randint(85, 115)))
            if slot in (2, 6):
                hits.append((when, SNARE, chance.randint(85, 115)))
        if k % 16 == 0:
            hits.append((at_s, CRASH, 80))
    return hits


def drums(beats_s, chance, scratch):
    file, out = os.path.join(scratch, "drums.mid"), os.path.join(scratch, "drums.wav")
    midi_file(file, pattern(beats_s, chance))
    subprocess.run(["fluidsynth", "-ni", "-q", "-g", "0.5", "-R", "0", "-C", "0", "-r", str(wear.RATE), "-F", out + ".stereo.wav", DRUMS, file],
                   check=True, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    wear.ffmpeg("-i", out + ".stereo.wav", "-ac", "1", "-c:a", "pcm_s16le", out)
    return [float(v) for v in wear.read(out)]


def bass(beats_s, notes, chance, scratch):
    """The lowest note that sounds at each beat, in the bass's own octave: on the beat, and now and then between."""
    plain = os.path.join(scratch, "bass.wav")
    wear.ffmpeg("-i", BASS, "-ac", "1", "-ar", str(wear.RATE), "-c:a", "pcm_s16le", plain)
    string = wear.read(plain)
    out = [0.0] * int((beats_s[-1] + 1.0) * wear.RATE)
    for at_s, next_s in zip(beats_s, beats_s[1:]):
        low = [n["midi"] for n in notes if n["onset_s"] < at_s + 0.1 and n["offset_s"] > at_s]
        if not low or chance.random() < 0.15:
            continue
        midi = 28 + (round(min(low)) - 28) % 12
        for when, length_s in ((at_s, 0.8 * (next_s - at_s)),) if chance.random() < 0.7 else ((at_s, 0.4 * (next_s - at_s)), ((at_s + next_s) / 2, 0.4 * (next_s - at_s))):
            step, start = 2 ** ((midi - BASS_MIDI) / 12), int(when * wear.RATE)
            for i in range(min(int(length_s * wear.RATE), len(out) - start, int((len(string) - 2) / step))):
                at = i * step
                whole = int(at)
                out[start + i] += string[whole] + (at - whole) * (string[whole + 1] - string[whole])
    return out


def loud_where_both(a, b):
    """RMS of each over the blocks in which both sound."""
    powers = [[], []]
    for i in range(0, min(len(a), len(b)) - BLOCK, BLOCK):
        one, other = (sum(v * v for v in x[i:i + BLOCK]) / BLOCK for x in (a, b))
        if one > 100.0 and other > 100.0:
            powers[0].append(one)
            powers[1].append(other)
    return [(sum(p) / max(1, len(p))) ** 0.5 for p in powers]


def scaled(x, factor):
    return [v * factor for v in x]


def summed(a, b):
    return [(a[i] if i < len(a) else 0.0) + (b[i] if i < len(b) else 0.0) for i in range(max(len(a), len(b)))]


def banded(media, truth, way, is_bass, seed, scratch):
    """The take with a band under it: the path of a WAV in `scratch`."""
    for needed, package in ((DRUMS, "avldrums.lv2-soundfont"), (BASS, "sonic-pi-samples")):
        if not os.path.exists(needed):
            raise SystemExit("evaluate: --band needs %s; install %s" % (needed, package))
    with_bass, below_db = WAYS[way]
    chance = random.Random(seed)
    plain = os.path.join(scratch, "plain.wav")
    wear.ffmpeg("-i", media, "-ac", "1", "-ar", str(wear.RATE), "-c:a", "pcm_s16le", plain)
    played = [float(v) for v in wear.read(plain)]
    beats_s = truth["beats_s"]
    band = drums(beats_s, chance, scratch)
    if with_bass and not is_bass:
        low = bass(beats_s, truth["notes"], chance, scratch)
        loud, of_drums = loud_where_both(low, band)
        band = summed(band, scaled(low, of_drums / max(1.0, loud)))
    part, under = loud_where_both(played, band)
    together = summed(played, scaled(band, part / max(1.0, under) * 10 ** (below_db / 20)))
    most = max(1.0, max(abs(v) for v in together) / 32000.0)
    out = os.path.join(scratch, os.path.basename(media) + ".banded.wav")
    wear.write(out, [v / most for v in together])
    return out
