#!/usr/bin/env python3
"""Learns what tells talk from playing: core/signal/talk_weights.h.

  tools/training/learn_talk.py [--train PROGRAM] [--hold-out] PLAYING ... --talk TALK ...

PLAYING and TALK are folders or files of sound. Each file weighs the same; one that is named twice weighs twice. With --hold-out nothing is written: every
tenth file of playing and the last of the folders of talk are left out of learning, and how they are told is printed.
Recorded speech is in Debian (asterisk-core-sounds-fr-g722 and others), synthetic speech in espeak-ng; neither is shipped.
A small network (one hidden layer), the figures scaled to their scatter and no further out than four of it. Takes made worse on
purpose (vibrato, glides, rooms, noise, lossy coding, no treble: make_worse.py) and voices made deeper and higher belong into what it learns from.
Needs python3-sklearn.
"""
import argparse, glob, os, subprocess, sys, tempfile

import numpy as np
from sklearn.neural_network import MLPClassifier

HERE = os.path.dirname(os.path.abspath(__file__))
ROOT = os.path.dirname(os.path.dirname(HERE))
HIDDEN = 10
DECAY = 3e-2
FURTHEST = 4.0
FRAMES = 40000  # of each kind


def files(path):
    if os.path.isfile(path):
        return [path]
    return sorted(f for end in ("wav", "flac", "ogg", "mp3", "mp4", "g722") for f in glob.glob(os.path.join(path, "**", "*." + end), recursive=True))


def figures(program, paths):
    """One array a file."""
    out = subprocess.run([program] + paths, stdout=subprocess.PIPE, text=True, check=True).stdout
    rows = np.array([line.split() for line in out.splitlines()], float)
    return [rows[rows[:, 0] == i][:, 1:] for i in range(len(paths)) if np.any(rows[:, 0] == i)]


def learn(playing, talk):
    chance = np.random.RandomState(0)
    x, y = [], []
    for kind, files_of_it in enumerate((playing, talk)):
        each = FRAMES // len(files_of_it)
        for f in files_of_it:
            x.append(f[chance.choice(len(f), each, replace=len(f) < each)])
            y.append(np.full(each, kind))
    x, y = np.concatenate(x), np.concatenate(y)
    mean, sd = x.mean(0), x.std(0) + 1e-6
    network = MLPClassifier((HIDDEN,), alpha=DECAY, max_iter=60, random_state=2, early_stopping=True)
    network.fit(np.clip((x - mean) / sd, -FURTHEST, FURTHEST), y)
    return mean, sd, network.coefs_[0], network.intercepts_[0], network.coefs_[1][:, 0], network.intercepts_[1][0]


def odds(model, x):
    mean, sd, first, first_bias, last, last_bias = model
    seen = np.clip((x - mean) / sd, -FURTHEST, FURTHEST)
    return np.maximum(0, seen @ first + first_bias) @ last + last_bias


def write(model, path="core/signal/talk_weights.h", name="Talk", by="learn_talk.py"):
    rows = lambda values: ", ".join("%.6gF" % v if "." in "%.6g" % v or "e" in "%.6g" % v else "%.6g.0F" % v for v in np.ravel(values))
    parts = ("Means", "Scatter", "First", "FirstBias", "Last")
    arrays = "\n".join("inline constexpr std::array<float, %d> k%s%s = {%s};" % (np.size(values), name, part, rows(values))
                       for part, values in zip(parts, model))
    with open(os.path.join(ROOT, path), "w", encoding="utf-8") as out:
        out.write("""// Written by tools/training/%s; not to be edited.
#pragma once

#include <array>

namespace wirenote {

// By figure, then by hidden unit.
%s
inline constexpr float k%sLastBias = %.6gF;

} // namespace wirenote
""" % (by, arrays, name, model[-1]))


def main():
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("playing", nargs="+")
    parser.add_argument("--talk", nargs="+", required=True)
    parser.add_argument("--train", default=os.path.join(ROOT, "build/release/bin/train_talk"))
    parser.add_argument("--hold-out", action="store_true")
    options = parser.parse_args()
    played = [f for path in options.playing for f in files(path)]
    playing = figures(options.train, played)
    talk = [figures(options.train, files(path)) for path in options.talk]
    if not options.hold_out:
        write(learn(playing, sum(talk, [])))
        return
    kept = [f for i, f in enumerate(playing) if i % 10 != 9]
    model = learn(kept, sum(talk[:-1], []))
    for name, some in (("playing", playing[9::10]), ("talk", talk[-1])):
        all_odds = np.concatenate([odds(model, f) for f in some])
        print("%s held out: %d files, talk in %.3f of %d frames; odds at tenths %s" % (
            name, len(some), np.mean(all_odds > 0), len(all_odds), np.round(np.percentile(all_odds, [10, 50, 90]), 1)))


if __name__ == "__main__":
    main()
