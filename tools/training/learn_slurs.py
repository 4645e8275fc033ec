#!/usr/bin/python3
"""Learns what tells a slur: core/hearing/slur_weights.h.

  tools/training/learn_slurs.py DIR COUNT [--hold-out]

Makes COUNT invented takes of lines in DIR, as hard_takes does but with numbers it never learned from (5000 on), and weighs the
figures of hearing/slurs (train_slurs) by a logistic regression, twice: for guitars over the first 120 takes without the last figure,
for basses over all of theirs. In these takes one note in three is slurred; one in twelve is what
is believed elsewhere (a working figure). With --hold-out nothing is written: the second half of the takes is left out, and told of.
"""
import json, math, os, subprocess, sys

import numpy as np
from sklearn.linear_model import LogisticRegression

import hard_takes

FIRST = 5000
FOR_GUITARS = 120
USUAL_SHARE = 1 / 12


def figures(folder, count):
    hard_takes.KEPT = FIRST + count
    os.makedirs(folder, exist_ok=True)
    rows, takes, basses = [], [], []
    for number in range(FIRST, FIRST + count):
        hard_takes.make((folder, number))
        name = os.path.join(folder, "%04d" % number)
        with open(name + ".meta", encoding="utf-8") as file:
            made = json.load(file)
        if made["style"] not in ("legato", "bass_line", "line", "slurs_over_held"):
            continue
        said = subprocess.run([os.path.join(hard_takes.BIN, "train_slurs"), name + ".wav", name + ".json"], capture_output=True, text=True, check=True).stdout
        rows += [[float(v) for v in line.split()] for line in said.splitlines()]
        takes += [number] * (len(rows) - len(takes))
        basses += [made["kind"] == "bass"] * (len(rows) - len(basses))
    return np.array(rows), np.array(takes), np.array(basses)


def learn(rows):
    """Weights of the figures as they are, and the odds of a note of which nothing is known."""
    x, y = rows[:, 1:], rows[:, 0] > 0
    mean, sd = x.mean(0), x.std(0) + 1e-6
    model = LogisticRegression(max_iter=1000).fit((x - mean) / sd, y)
    weights = model.coef_[0] / sd
    logit = lambda p: math.log(p / (1 - p))
    return weights, model.intercept_[0] - (weights * mean).sum() + logit(USUAL_SHARE) - logit(y.mean())


def main():
    rows, takes, basses = figures(sys.argv[1], int(sys.argv[2]))
    if "--hold-out" in sys.argv:
        later = takes >= FIRST + int(sys.argv[2]) // 2
        for name, kind, seen in (("guitars", ~basses, ~later), ("basses", basses, ~later & basses)):
            weights, odds = learn(rows[seen])
            said, true = rows[later & kind, 1:] @ weights + odds > 0, rows[later & kind, 0] > 0
            print("%s: %d notes, %d slurred, %d named, %d right" % (name, len(true), true.sum(), said.sum(), (said & true).sum()))
        return
    # More takes won on the half held out, but named more notes wrongly in a take that has no slur.
    weights, odds = learn(rows[takes < FIRST + FOR_GUITARS][:, :-1])
    learned = [("kSlur", [*weights, 0.0], odds), ("kBassSlur", *learn(rows[basses]))]
    with open(os.path.join(hard_takes.BIN, "../../../core/hearing/slur_weights.h"), "w", encoding="utf-8") as out:
        out.write("""// Written by tools/training/learn_slurs.py; not to be edited.
#pragma once

#include <array>

namespace wirenote {

// By figure (SlurFigures).
""")
        for name, weights, odds in learned:
            out.write("inline constexpr std::array<double, %d> %sWeights = {%s};\n" % (len(weights), name, ", ".join("%.5g" % w for w in weights)))
            out.write("inline constexpr double %sOdds = %.5g;\n" % (name, odds))
        out.write("\n} // namespace wirenote\n")


if __name__ == "__main__":
    main()
