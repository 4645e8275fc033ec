#!/usr/bin/python3
"""Learns what tells a slur: core/hearing/slur_weights.h.

  tools/training/learn_slurs.py DIR COUNT [--hold-out]

Makes COUNT invented takes of lines in DIR, as hard_takes does but with numbers it never learned from (5000 on), and weighs the
figures of hearing/slurs (train_slurs) by a logistic regression. In these takes one note in three is slurred; one in twelve is what
is believed elsewhere (a working figure). With --hold-out nothing is written: the second half of the takes is left out, and told of.
"""
import json, math, os, subprocess, sys

import numpy as np
from sklearn.linear_model import LogisticRegression

import hard_takes

FIRST = 5000
USUAL_SHARE = 1 / 12


def figures(folder, count):
    hard_takes.KEPT = FIRST + count
    os.makedirs(folder, exist_ok=True)
    rows, takes = [], []
    for number in range(FIRST, FIRST + count):
        hard_takes.make((folder, number))
        name = os.path.join(folder, "%04d" % number)
        with open(name + ".meta", encoding="utf-8") as file:
            if json.load(file)["style"] not in ("legato", "bass_line", "line", "slurs_over_held"):
                continue
        said = subprocess.run([os.path.join(hard_takes.BIN, "train_slurs"), name + ".wav", name + ".json"], capture_output=True, text=True, check=True).stdout
        rows += [[float(v) for v in line.split()] for line in said.splitlines()]
        takes += [number] * (len(rows) - len(takes))
    return np.array(rows), np.array(takes)


def learn(rows):
    """Weights of the figures as they are, and the odds of a note of which nothing is known."""
    x, y = rows[:, 1:], rows[:, 0] > 0
    mean, sd = x.mean(0), x.std(0) + 1e-6
    model = LogisticRegression(max_iter=1000).fit((x - mean) / sd, y)
    weights = model.coef_[0] / sd
    logit = lambda p: math.log(p / (1 - p))
    return weights, model.intercept_[0] - (weights * mean).sum() + logit(USUAL_SHARE) - logit(y.mean())


def main():
    rows, takes = figures(sys.argv[1], int(sys.argv[2]))
    if "--hold-out" in sys.argv:
        later = takes >= FIRST + int(sys.argv[2]) // 2
        weights, odds = learn(rows[~later])
        said, true = rows[later, 1:] @ weights + odds > 0, rows[later, 0] > 0
        print("%d notes, %d slurred, %d named, %d right" % (len(true), true.sum(), said.sum(), (said & true).sum()))
        return
    weights, odds = learn(rows)
    with open(os.path.join(hard_takes.BIN, "../../../core/hearing/slur_weights.h"), "w", encoding="utf-8") as out:
        out.write("""// Written by tools/training/learn_slurs.py; not to be edited.
#pragma once

#include <array>

namespace wirenote {

// By figure (SlurFigures).
inline constexpr std::array<double, %d> kSlurWeights = {%s};
inline constexpr double kSlurOdds = %.5g;

} // namespace wirenote
""" % (len(weights), ", ".join("%.5g" % w for w in weights), odds))


if __name__ == "__main__":
    main()
