#!/usr/bin/env python3
"""Learns at which level the beat is felt and where it lies, from invented rhythms (rhythms.py).

  tools/training/learn_beats.py [--count N] [--hold-out]

Of each rhythm every level and phase that form/beat_levels considers is measured by train_beats; a multinomial logistic regression learns which is the right one.
Writes core/form/beat_weights.h. With --hold-out nothing is written: each kind of rhythm is left out of learning in turn, and what is
said of it is printed. Needs python3-numpy, python3-scipy and train_beats.
"""
import argparse, os, subprocess, sys

import numpy as np
from scipy.optimize import minimize

HERE = os.path.dirname(os.path.abspath(__file__))
ROOT = os.path.dirname(os.path.dirname(HERE))
sys.path.insert(0, HERE)
import rhythms

DECAY = 0.01


def measured(count):
    """[(kind, figures of each level, index of the right one, [(tempo against the true one, phase, feel)])]."""
    made = [rhythms.rhythm(seed) for seed in range(count)]
    said = []
    for _, _, beats, strokes in made:
        said.append("rhythm %d %d" % (len(beats), len(strokes)))
        said.append(" ".join("%.5f" % b for b in beats))
        said += ["%.5f %s" % (max(0.0, at), " ".join(map(str, pitches))) for at, pitches in strokes]
    done = subprocess.run([os.path.join(ROOT, "build/release/bin/train_beats")], input="\n".join(said) + "\n", capture_output=True, text=True, check=True)
    rows = [[] for _ in made]
    for row in done.stdout.splitlines():
        fields = row.split()
        rows[int(fields[0])].append([float(f) for f in fields[1:]])
    examples = []
    for (kind, feel, _, _), levels in zip(made, rows):
        which = [(row[0], row[1], int(row[2])) for row in levels]
        if (1.0, 0.0, feel) in which:
            examples.append((kind, np.array([row[3:] for row in levels]), which.index((1.0, 0.0, feel)), which))
    return examples


def learn(examples, means, spreads):
    figures = [(e[1] - means) / spreads for e in examples]
    right = [e[2] for e in examples]

    def loss(weights):
        total, slope = 0.0, np.zeros_like(weights)
        for x, y in zip(figures, right):
            scores = x @ weights
            odds = np.exp(scores - scores.max())
            odds /= odds.sum()
            total -= np.log(odds[y] + 1e-12)
            slope -= x[y] - odds @ x
        n = len(figures)
        return total / n + DECAY * weights @ weights, slope / n + 2 * DECAY * weights

    return minimize(loss, np.zeros(len(means)), jac=True, method="L-BFGS-B", options={"maxiter": 300}).x


def judge(examples, weights, means, spreads):
    """The shares with the right level and phase, the right level, and a level wrong by a factor with three."""
    told = []
    for _, figures, right, which in examples:
        best = which[int(np.argmax((figures - means) / spreads @ weights))]
        of_three = best[0] not in (0.5, 1.0, 2.0)
        same = best[0] == 1.0 and (best[2] == 1) == (which[right][2] == 1)
        told.append((same and best[1] == 0.0, same, of_three))
    return np.mean(np.array(told, float), axis=0)


def header(means, spreads, weights):
    def array(name, values):
        return "inline constexpr std::array<double, %d> %s = {%s};" % (len(values), name, ",\n    ".join("%.6g" % v for v in values))
    return "\n".join(["// Written by tools/training/learn_beats.py; not to be edited.", "#pragma once", "", "#include <array>", "", "namespace wirenote {", "",
                      array("kBeatMeans", means), array("kBeatSpreads", spreads), array("kBeatWeights", weights), "", "} // namespace wirenote", ""])


def main():
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--count", type=int, default=4000)
    parser.add_argument("--hold-out", action="store_true")
    args = parser.parse_args()
    examples = measured(args.count)
    every = np.concatenate([e[1] for e in examples])
    means, spreads = every.mean(0), every.std(0) + 1e-9
    if args.hold_out:
        for kind in sorted({e[0] for e in examples}):
            weights = learn([e for e in examples if e[0] != kind], means, spreads)
            print("%-16s right %.2f  level %.2f  wrong by three %.2f" % (kind, *judge([e for e in examples if e[0] == kind], weights, means, spreads)))
        half = len(examples) // 2
        weights = learn(examples[:half], means, spreads)
        print("%-16s right %.2f  level %.2f  wrong by three %.2f" % ("other half", *judge(examples[half:], weights, means, spreads)))
        return 0
    path = os.path.join(ROOT, "core/form/beat_weights.h")
    with open(path, "w", encoding="utf-8") as out:
        out.write(header(means, spreads, learn(examples, means, spreads)))
    subprocess.run(["clang-format", "-i", path], check=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
