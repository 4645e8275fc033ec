#!/usr/bin/env python3
"""Learns what tells that somebody talks over playing, and which notes there are the voice's.

  tools/training/learn_over.py TAKES.json ... --speech DIR ... [--playing PLAYING ...] [--hold-out]

Takes with known truth get recorded talk over their second half, 9 dB below them (tools/talked.py), one folder of speech a list of takes, in turn. From the
moments of both halves, and of PLAYING (folders of sound without talk), comes core/signal/over_weights.h; from the notes heard
under the talk, held against the truth, core/hearing/voice_weights.h. Networks with one hidden layer. With --hold-out nothing is
written: every second take is left out of learning and heard with the last folder of speech, which is only for that.
Needs python3-sklearn, train_talk and train_over.
"""
import argparse, json, os, subprocess, sys, tempfile

import numpy as np
from sklearn.neural_network import MLPClassifier

HERE = os.path.dirname(os.path.abspath(__file__))
ROOT = os.path.dirname(os.path.dirname(HERE))
sys.path[:0] = [os.path.dirname(HERE), HERE]
import learn_talk, talked, wear

HIDDEN = 12
DECAY = 0.1
FURTHEST = learn_talk.FURTHEST
BIN = os.path.join(ROOT, "build/release/bin")


def mixtures(lists, speech, scratch):
    """(name, sound with talk over its second half, truth, arguments, when the talk begins and ends)."""
    for number, path in enumerate(lists):
        folder = os.path.dirname(os.path.abspath(path))
        with open(path, encoding="utf-8") as file:
            takes = json.load(file)["takes"]
        for take in takes:
            with open(os.path.join(folder, take["truth"]), encoding="utf-8") as file:
                truth = json.load(file)
            voice = speech[number % len(speech)]
            out, moved, spans = talked.talked(os.path.join(folder, take["media"]), truth, voice, True, take["name"] + voice, scratch)
            kept = os.path.join(scratch, "%s-%d.wav" % (take["name"], number))
            os.replace(out, kept)
            yield take["name"], kept, moved, take["args"], talked.over_span(spans)


def halves(path, over):
    """The clear and the talked-over half as sounds of their own."""
    samples = wear.read(path)
    begin, middle, end = (int(s * wear.RATE) for s in (2 * over[0] - over[1], over[0], over[1]))
    for kind, a, b in (("clear", begin, middle), ("over", middle, end)):
        wear.write(path + "." + kind + ".wav", samples[a:b])


def heard_notes(path, truth, args, over):
    """Figures of the notes heard under the talk, and which of them were played."""
    kind = args[args.index("--instrument") + 1]
    out = subprocess.run([os.path.join(BIN, "train_over"), path, kind], stdout=subprocess.PIPE, text=True, check=True).stdout
    rows = np.array([line.split() for line in out.splitlines()], float)
    used, played = set(), []
    for onset_s, midi in rows[:, :2]:
        near = [(abs(n["onset_s"] - onset_s), i) for i, n in enumerate(truth["notes"])
                if i not in used and abs(n["midi"] - midi) <= 0.5 and abs(n["onset_s"] - onset_s) <= 0.05]
        used |= {min(near)[1]} if near else set()
        played.append(bool(near))
    under = (rows[:, 0] >= over[0]) & (rows[:, 0] < over[1])
    return rows[under, 2:], np.array(played)[under]


def learn(x, y):
    mean, sd = x.mean(0), x.std(0) + 1e-6
    network = MLPClassifier((HIDDEN,), alpha=DECAY, max_iter=300, random_state=0, early_stopping=True)
    network.fit(np.clip((x - mean) / sd, -FURTHEST, FURTHEST), y)
    return mean, sd, network.coefs_[0], network.intercepts_[0], network.coefs_[1][:, 0], network.intercepts_[1][0]


def balanced(over, clear):
    x, chance = np.concatenate(over), np.random.RandomState(0)
    rest = np.concatenate(clear)
    rest = rest[chance.choice(len(rest), min(len(rest), 2 * len(x)), replace=False)]
    return np.concatenate([x, rest]), np.concatenate([np.ones(len(x)), np.zeros(len(rest))])


def main():
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("takes", nargs="+")
    parser.add_argument("--speech", nargs="+", required=True)
    parser.add_argument("--playing", nargs="*", default=[])
    parser.add_argument("--hold-out", action="store_true")
    options = parser.parse_args()
    train = os.path.join(BIN, "train_talk")
    with tempfile.TemporaryDirectory() as scratch:
        voices = options.speech[:-1] if options.hold_out else options.speech
        made = list(mixtures(options.takes, voices, scratch))
        for _, path, _, _, over in made:
            halves(path, over)
        frames = {kind: learn_talk.figures(train, [m[1] + "." + kind + ".wav" for m in made]) for kind in ("clear", "over")}
        notes = [heard_notes(path, truth, args, over) for _, path, truth, args, over in made]
        extra = [f[::4] for f in learn_talk.figures(train, [f for p in options.playing for f in learn_talk.files(p)])] if options.playing else []
        names = sorted({m[0] for m in made})
        learned = [not options.hold_out or names.index(m[0]) % 2 == 0 for m in made]
        of = lambda some: [s for s, use in zip(some, learned) if use]
        x, y = balanced(of(frames["over"]), of(frames["clear"]) + extra)
        meter = learn(x, y)
        voice = learn(np.concatenate([n[0] for n in of(notes)]), 1 - np.concatenate([n[1] for n in of(notes)]))
        if not options.hold_out:
            learn_talk.write(meter, "core/signal/over_weights.h", "Over", "learn_over.py")
            learn_talk.write(voice, "core/hearing/voice_weights.h", "Voice", "learn_over.py")
            return
        with tempfile.TemporaryDirectory() as other:
            held = [m for m in mixtures(options.takes, options.speech[-1:], other) if names.index(m[0]) % 2 == 1]
            for _, path, _, _, over in held:
                halves(path, over)
            for kind in ("clear", "over"):
                odds = np.concatenate([learn_talk.odds(meter, f) for f in learn_talk.figures(train, [m[1] + "." + kind + ".wav" for m in held])])
                print("%s, held out: called talked over in %.3f of %d moments" % (kind, np.mean(odds > 0), len(odds)))
            heard = [heard_notes(path, truth, args, over) for _, path, truth, args, over in held]
            true = sum(1 for _, _, truth, _, over in held for n in truth["notes"] if over[0] <= n["onset_s"] < over[1])
            for most in (1.01, 0.7, 0.6, 0.5, 0.4):
                kept = [(1 / (1 + np.exp(-learn_talk.odds(voice, f))) < most, y) for f, y in heard]
                right, count = sum((k & y).sum() for k, y in kept), sum(k.sum() for k, _ in kept)
                print("voice at most %.2f: note F1 under talk %.3f" % (most, 2 * right / (count + true)))


if __name__ == "__main__":
    main()
