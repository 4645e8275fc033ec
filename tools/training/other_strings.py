#!/usr/bin/python3
"""Makes invented takes on strings of other gauges and makes than anybody said: tools/training/other_strings.py DIR COUNT

Lines on a bass and on guitars, in positions of a hand that moves now and then, by the simulated instrument; the cores of each set are
thicker or thinner than the shipped table has them, all strings together and each a little by itself. DIR/takes.json is for
tools/evaluate, whose arguments say nothing of the strings. The same count gives the same takes.
"""
import json, math, os, random, subprocess, sys

BIN = os.path.join(os.path.dirname(os.path.abspath(__file__)), "../../build/release/bin")
OPEN = {"bass": [43, 38, 33, 28], "guitar": [64, 59, 55, 50, 45, 40]}
GAUGES_MM = {"bass": [1.143, 1.651, 2.159, 2.667], "guitar": [0.254, 0.330, 0.432, 0.660, 0.914, 1.168]}
STEEL, WOUND = 7850.0, 7850.0 * 0.85


def strings(r, kind):
    set_share, built = math.exp(r.gauss(0, 0.14)), []
    for number, (midi, gauge) in enumerate(zip(OPEN[kind], GAUGES_MM[kind]), 1):
        gauge *= r.choice([0.9, 1.0, 1.0, 1.1])
        wound = kind == "bass" or number > 3
        core = 0.3393 * (gauge / 0.6096) ** 0.3467 * set_share * math.exp(r.gauss(0, 0.03)) if wound else gauge
        mass = math.pi / 4 * 1e-6 * (core ** 2 * STEEL + (gauge ** 2 - core ** 2) * WOUND)
        built.append({"number": number, "open_midi": midi, "gauge_mm": gauge, "material": "wound-steel" if wound else "plain-steel",
                      "unit_mass_kg_m": mass, "core_mm": core, "modulus_gpa": 200})
    return built


def line(r, kind):
    """Positions of four frets; a step to a near string or finger, a new position now and then."""
    notes, t, beat_s = [], 0.4, 60.0 / r.uniform(70, 130)
    position, string, count = r.choice([1, 2, 3, 5, 7]), len(OPEN[kind]), len(OPEN[kind])
    while t < 20.0:
        if r.random() < 0.06:
            position = r.choice([1, 2, 3, 5, 7, 9])
        string = min(count, max(1, string + r.choice([-1, -1, 0, 0, 0, 1, 1])))
        fret = 0 if position < 4 and r.random() < 0.2 else position + r.randint(0, 3)
        length_s = beat_s * r.choice([0.5, 0.5, 1.0])
        notes.append({"onset_s": t, "offset_s": t + length_s * r.choice([0.7, 0.96]), "midi": OPEN[kind][string - 1] + fret, "string": string,
                      "fret": fret, "velocity": r.uniform(0.55, 0.85), "techniques": []})
        t += length_s
    return notes


def main():
    folder, count = sys.argv[1], int(sys.argv[2])
    os.makedirs(folder, exist_ok=True)
    takes = []
    for number in range(count):
        r = random.Random(91000 + number)
        kind = ["bass", "bass", "guitar"][number % 3]
        name = os.path.join(folder, "%03d-%s" % (number, kind))
        truth = {"format": "wirenote-notes/1", "notes": line(r, kind), "instrument": {"kind": kind, "capo": 0, "strings": strings(r, kind)}}
        with open(name + ".json", "w", encoding="utf-8") as out:
            json.dump(truth, out)
        subprocess.run([os.path.join(BIN, "train_render"), name + ".json", name + ".wav", "%.3f" % r.uniform(0.08, 0.28)], check=True)
        takes.append({"name": os.path.basename(name), "group": kind, "media": os.path.basename(name) + ".wav",
                      "truth": os.path.basename(name) + ".json", "args": ["--instrument", kind]})
    with open(os.path.join(folder, "takes.json"), "w", encoding="utf-8") as out:
        json.dump({"takes": takes}, out, indent=1)


if __name__ == "__main__":
    main()
