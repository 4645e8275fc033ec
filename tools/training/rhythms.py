"""Invented rhythms in symbols, to learn from where beats lie: strummed, picked, plucked, on a bass, in all kinds of metres and at all tempi.

A rhythm is a list of (place in beats, pitches). Nothing in it is taken from any recording or piece.
"""
import math, random

GRIPS = [[40, 47, 52, 56, 59, 64], [45, 52, 57, 60, 64], [43, 47, 50, 55, 59, 67], [48, 52, 55, 60, 64], [50, 57, 62, 66], [41, 48, 53, 57, 60, 65]]
SCALE = [0, 2, 3, 5, 7, 8, 10]
UNEVEN = [[3, 3, 2], [3, 3, 3, 3, 2, 2], [3, 5], [2, 3, 3], [3, 3, 3, 3, 4]]  # accents that are not the beat's


def grips(chance, bars, every=1):
    order = [chance.choice(GRIPS) for _ in range(chance.choice([2, 4]))]
    return [order[(bar // every) % len(order)] for bar in range(bars)]


def uneven_accents(chance, slots):
    groups, accents, at, k = chance.choice(UNEVEN), set(), 0, 0
    while at < slots:
        accents.add(at)
        at += groups[k % len(groups)]
        k += 1
    return accents


def strummed(chance, bars, beats):
    parts = 4 if chance.random() < 0.4 else 2
    slots = beats * parts
    pattern = [0] + [s for s in range(1, slots) if chance.random() < (0.62 if s % parts else 0.9)]
    accents = {s for s in range(slots) if s % parts == 0}
    if chance.random() < 0.3:
        accents = uneven_accents(chance, slots)
        pattern = sorted(set(pattern) | accents) if chance.random() < 0.6 else sorted(accents)
    for bar, grip in enumerate(grips(chance, bars)):
        for s in pattern:
            if chance.random() < 0.06:
                continue
            strings = grip if s in accents or chance.random() < 0.5 else grip[-4:]
            if s not in accents and chance.random() < 0.3:
                strings = grip[-3:]
            yield bar * beats + s / parts, strings


def off_beats(chance, bars, beats):
    with_bass = chance.random() < 0.4
    for bar, grip in enumerate(grips(chance, bars)):
        for k in range(beats):
            yield bar * beats + k + 0.5, grip[-4:]
            if with_bass and k == 0 and chance.random() < 0.7:
                yield bar * beats + k, grip[:1]


def picked(chance, bars, beats):
    parts = chance.choice([2, 4, 4])
    length = chance.choice([beats * parts, parts * 2 if beats % 2 == 0 else beats * parts, parts])
    cell = [0] + [chance.choice([2, 3, 3, 4, 4, 5]) for _ in range(length - 1)]
    if length >= 8:
        cell[length // 2] = chance.choice([0, 1, 1])
    for bar, grip in enumerate(grips(chance, bars, chance.choice([1, 1, 2]))):
        for s in range(beats * parts):
            strings = [grip[min(cell[s % length], len(grip) - 1)]]
            if s % length == 0 and chance.random() < 0.3:
                strings.append(grip[-1])
            yield bar * beats + s / parts, strings


def in_thirds(chance, bars, beats):
    """Picked or strummed in six eight and twelve eight: a bass on the beats or on every second, thirds between, some of them left out."""
    cell = chance.choice([[0, 2, 3, 4, 3, 2], [0, 3, 4, 5, 4, 3], [0, 2, 3], [0, 3, 4, 1, 3, 4], [0] + [chance.choice([2, 3, 4, 5]) for _ in range(5)]])
    left_out = [0.0] + [chance.choice([0.0, 0.0, 0.0, 0.5]) for _ in range(2)]
    strum, both = chance.random() < 0.25, chance.random() < 0.3
    parts = chance.choice([3, 3, 3, 6])
    for bar, grip in enumerate(grips(chance, bars, chance.choice([1, 1, 2]))):
        for s in range(parts * beats):
            if chance.random() < left_out[s % 3]:
                continue
            strings = grip[-4:] if strum and s % parts else grip if strum else [grip[min(cell[s % len(cell)], len(grip) - 1)]]
            if both and not strum and s % parts == 0:
                strings = strings + [grip[-1]]
            yield bar * beats + s / parts, strings


def line(chance, bars, beats):
    parts = chance.choice([1, 2, 2, 2, 4])
    root, step, motif = chance.choice([57, 59, 62, 64]), 0, None
    for bar in range(bars):
        if motif is None or chance.random() >= 0.35:
            motif, at = [], 0.0
            while at < beats - 1e-9:
                length = min(chance.choices([1 / parts, 2 / parts, 1.0, 0.5], [5, 2, 1, 1])[0], beats - at)
                if at % 1 and at % 1 + length > 1 and chance.random() < 0.7:
                    length = 1 - at % 1
                step += chance.choice([-2, -1, -1, 0, 1, 1, 2])
                if chance.random() > 0.08:
                    motif.append((at, root + SCALE[step % 7] + 12 * ((step // 7) % 2) - 12))
                at += length
        for at, midi in motif:
            yield bar * beats + at, [midi]


def bass(chance, bars, beats):
    kind = chance.choice(["eighths", "syncopated", "walking", "walking", "sixteenths"])
    steps = [0] + [chance.choice([0, 3, 4, 7, 5, -1, 2]) for _ in range(beats - 1)]
    same, passing = chance.random() < 0.5, chance.choice([None, beats - 0.4, chance.randrange(beats) + 0.5])
    cell = [(0, 0)] + [(s / 4, chance.choice([0, 0, 7, 12, 10, 5])) for s in range(1, beats * 4)
                       if chance.random() < (0.35 if kind == "syncopated" else 0.6)]
    for bar, grip in enumerate(grips(chance, bars)):
        root = grip[0] - 12 if grip[0] > 44 else grip[0]
        if kind == "eighths":
            for s in range(beats * 2):
                if chance.random() > 0.05:
                    yield bar * beats + s / 2, [root + (12 if chance.random() < 0.08 else 0)]
        elif kind == "walking":
            for s in range(beats):
                yield bar * beats + s, [root + (steps[s] if same or not s else chance.choice([0, 3, 4, 7, 5, -1, 2]))]
            if passing is not None and (same or chance.random() < 0.6):
                yield bar * beats + passing, [root + chance.choice([0, 2, 5])]
        else:
            for at, interval in cell:
                if chance.random() > 0.07:
                    yield bar * beats + at, [root + interval]


def thumb_and_tune(chance, bars, beats):
    for bar, grip in enumerate(grips(chance, bars)):
        for k in range(beats):
            strings = [grip[k % 2]] if beats != 3 else grip[:1] if k == 0 else grip[2:4]
            if chance.random() < 0.5:
                strings = strings + [grip[-1] + chance.choice([0, 2, 3])]
            yield bar * beats + k, strings
            if chance.random() < 0.5:
                yield bar * beats + k + 0.5, [grip[-1] + chance.choice([0, -2, 2])]


def riff(chance, bars, beats):
    parts, low = chance.choice([2, 4]), chance.choice([38, 40])
    uneven = uneven_accents(chance, beats * parts) if chance.random() < 0.3 else None
    cell = []
    for s in range(beats * parts):
        if uneven is None and (s == 0 or chance.random() < 0.75):
            cell.append((s / parts, chance.choice([0, 0, 0, 3, 5, 7, 10])))
        elif uneven is not None and (s in uneven or chance.random() < 0.25):
            cell.append((s / parts, chance.choice([0, 0, 0, 3, 5, 7, 10]) if s in uneven else 0))
    for bar in range(bars):
        for at, interval in cell:
            if chance.random() > 0.05:
                yield bar * beats + at, [low + interval] + ([low + interval + 7] if interval else [])


def driven(chance, bars, beats):
    """Fifths or single low strings in even eighths, gallops or tremolo, as fast music has them: a grip for half a bar, a bar or two."""
    cell = chance.choice([[0.0, 0.5], [0.0, 0.5], [0.0, 0.5, 0.75], [0.0, 0.25, 0.5], [0.0, 0.25, 0.5, 0.75]])
    every, low = chance.choice([0.5, 1, 1, 2]), chance.choice([38, 40, 33])
    order = [chance.choice([0, 0, 3, 5, 7, 8, 10, 1]) for _ in range(chance.choice([2, 4, 4, 8]))]
    fifths, accents = chance.random() < 0.6, chance.random() < 0.3
    for bar in range(bars):
        for k in range(beats):
            root = low + order[int((bar + k / beats) / every) % len(order)]
            new = k == 0 and (bar % max(1, int(every)) == 0) or every == 0.5 and k == beats // 2
            for at in cell:
                if chance.random() < 0.05:
                    continue
                pedal = accents and not (new and at == 0.0) and chance.random() < 0.7
                yield bar * beats + k + at, [low] if pedal else [root, root + 7] if fifths else [root]


def in_half_beats(strokes):
    """Whether some strokes fall on the second half of a beat, and none between halves: only then can it be swung."""
    halves = [abs(at * 2 - round(at * 2)) < 1e-6 for at, _ in strokes]
    return all(halves) and any(round(at * 2) % 2 for at, _ in strokes)


# How often, slowest and fastest tempo, beats of a bar.
KINDS = {strummed: (10, 50, 190, (4, 3)), off_beats: (5, 60, 180, (4,)), picked: (10, 50, 180, (4, 4, 3)), in_thirds: (6, 40, 120, (2, 2, 4)),
         line: (10, 50, 190, (4, 4, 3)), bass: (13, 50, 190, (4,)), thumb_and_tune: (10, 50, 180, (4, 3)), riff: (10, 50, 200, (4,)), driven: (12, 80, 200, (4,))}
FASTEST_S = 0.085  # between two strokes
# Felt beats lie about 110 to 120 a minute (after Moelants, "Preferred tempo reconsidered", ICMPC 2002, from memory), widely.
USUAL_BPM, SPREAD_OCTAVES = 110.0, 0.6


def rhythm(seed):
    """(kind, feel: 0 in halves, 1 in thirds, 2 swung, beats in seconds, [(seconds, pitches)]), as played and heard: uneven, with notes left out and made up."""
    while True:
        chance = random.Random(seed)
        kind = chance.choices(list(KINDS), [k[0] for k in KINDS.values()])[0]
        _, slowest, fastest, metres = KINDS[kind]
        bpm = USUAL_BPM * 2 ** chance.gauss(0, SPREAD_OCTAVES)
        if not slowest <= bpm <= fastest:
            seed += 1000003
            continue
        beats = chance.choice(metres)
        bars = max(4, int(chance.uniform(12, 26) * bpm / 60 / beats))
        strokes = sorted(kind(chance, bars, beats))
        feel = 1 if kind is in_thirds else 0
        if feel == 0 and chance.random() < 0.3 and in_half_beats(strokes):
            late = chance.choice([0.1, 0.14, 1 / 6, 1 / 6])
            strokes, feel = [(at + late if round(at * 2) % 2 else at, pitches) for at, pitches in strokes], 2
        places = sorted({at for at, _ in strokes})
        if len(places) > 12 and min(b - a for a, b in zip(places, places[1:])) * 60 / bpm >= FASTEST_S:
            break
        seed += 1000003
    uneven_s, drift = chance.uniform(0.004, 0.014), chance.gauss(0, 0.004)
    when = lambda at: (at + drift * at * at / (2 * bars * beats)) * 60 / bpm
    heard = []
    for at, strings in strokes:
        kept = [m + (12 if chance.random() < 0.02 else 0) for m in strings if chance.random() > 0.05]
        if kept:
            heard.append((when(at) + chance.gauss(0, uneven_s), kept))
    heard.sort()
    if chance.random() < 0.12:
        heard += [(chance.uniform(heard[0][0], heard[-1][0]), [chance.choice(heard)[1][0] + chance.choice([0, 12, -12, 7])]) for _ in range(len(heard) // 15)]
        heard.sort()
    if chance.random() < 0.25:  # a recording that begins in the middle
        heard = heard[chance.randrange(1, 8):]
    return kind.__name__, feel, [when(k) for k in range(bars * beats + 1)], heard
