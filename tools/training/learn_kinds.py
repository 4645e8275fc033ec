#!/usr/bin/python3
"""Learns what kind of guitar a recording is of: core/hearing/kind_weights.h.

  tools/training/hard_takes.py DIR 4300
  tools/training/learn_kinds.py DIR [--hold-out]

The figures of core/hearing/kind_guess, from the pictures of attacks of invented takes. With --hold-out nothing is written: each font
in turn is left out of learning, and how its takes are told is printed. Needs python3-sklearn and python3-torch (for learn_attacks).
"""
import glob, json, math, os, sys

import numpy as np
from sklearn.neural_network import MLPClassifier

from learn_attacks import AXIS_LOWEST, LOWEST, RECORD
from learn_talk import FURTHEST, ROOT

DEPTH_DB = 66.0
PARTIALS = [round(36 * math.log2(k)) for k in range(1, 17)]
KINDS = ("guitar", "acoustic", "nylon")
HIDDEN, DECAY, LEAST = 16, 3.0, 8
TEMPERS = (0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0)


def figures(records):
    """The middle of each figure over the attacks of a take; NaN where no attack tells it."""
    levels = np.pad(records["levels"].astype(np.float32) / 255 * DEPTH_DB, ((0, 0), (0, 0), (20, 220)))
    rows = []
    for seen, truth in zip(levels, records["truth"]):
        begins = np.nonzero((truth & 1 > 0) & (truth & 2 == 0))[0]
        if not len(begins):
            continue
        midi = LOWEST + begins[0]
        own = 3 * (midi - AXIS_LOWEST) + 1 + 20
        on = np.stack([seen[:, own + d - 1:own + d + 2].max(1) for d in PARTIALS], 1)
        between = np.stack([seen[:, own + d + (PARTIALS[i + 1] - d) // 2 if i + 1 < len(PARTIALS) else own + d + 2] for i, d in enumerate(PARTIALS)], 1)
        later = on[3] - on[2] if on[3].max() > 0 else np.full(len(PARTIALS), np.nan)
        rows.append(np.concatenate([on[2] - on[2].max(), later, on[5] - on[5].max(), between[5] - on[5].max(), between[2] - on[2].max(), on[6] - on[5], [midi / 12]]))
    return np.nanmedian(rows, 0) if len(rows) >= LEAST else None


def load(folder):
    x, y, fonts = [], [], []
    for path in sorted(glob.glob(os.path.join(folder, "*.meta"))):
        with open(path, encoding="utf-8") as file:
            meta = json.load(file)
        if meta["kind"] not in KINDS:
            continue
        row = figures(np.fromfile(path[:-5] + ".pic", dtype=RECORD))
        if row is not None:
            x.append(row)
            y.append(KINDS.index(meta["kind"]))
            fonts.append(meta["font"])
    return np.array(x), np.array(y), np.array(fonts)


def learn(x, y, seed=1):
    mean, sd = np.nanmean(x, 0), np.nanstd(x, 0) + 1e-3
    network = MLPClassifier((HIDDEN,), alpha=DECAY, max_iter=300, random_state=seed).fit(scaled(x, mean, sd), y)
    return mean, sd, network


def scaled(x, mean, sd):
    return np.clip(np.nan_to_num((x - mean) / sd), -FURTHEST, FURTHEST)


def odds(model, x):
    mean, sd, network = model
    hidden = np.maximum(0, scaled(x, mean, sd) @ network.coefs_[0] + network.intercepts_[0])
    return hidden @ network.coefs_[1] + network.intercepts_[1]


def softmax(z):
    e = np.exp(z - z.max(1, keepdims=True))
    return e / e.sum(1, keepdims=True)


def fonts_left_out(x, y, fonts):
    """The odds of each take by a network that knows nothing of its font."""
    out = np.zeros((len(x), len(KINDS)))
    for font in sorted(set(fonts)):
        out[fonts == font] = odds(learn(x[fonts != font], y[fonts != font]), x[fonts == font])
    return out


def temper(held, y):
    """How far the odds are to be believed of a sound that was not learned: the likelihood of the left-out fonts decides."""
    return min(TEMPERS, key=lambda t: -np.log(softmax(t * held)[np.arange(len(y)), y] + 1e-9).mean())


def report(held, y, fonts, by):
    p = softmax(by * held)
    for font in sorted(set(fonts)) + [None]:
        some = fonts == font if font else np.ones(len(y), bool)
        right, sure = p[some].argmax(1) == y[some], p[some].max(1) >= 0.9
        print("%-10s %4d takes: right %.3f; of %.2f that are sure %.3f" % (font or "all", some.sum(), right.mean(), sure.mean(), right[sure].mean() if sure.any() else 0))


def numbers(values):
    return ", ".join("%.6gF" % v if "." in "%.6g" % v or "e" in "%.6g" % v else "%.6g.0F" % v for v in np.ravel(values))


def write(model, by):
    mean, sd, network = model
    arrays = "\n".join("inline constexpr std::array<float, %d> kKind%s = {%s};" % (np.size(v), name, numbers(v)) for name, v in (
        ("Means", mean), ("Scatter", sd), ("First", network.coefs_[0]), ("FirstBias", network.intercepts_[0])))
    last = ", ".join("{%s}" % numbers(network.coefs_[1][:, k]) for k in range(len(KINDS)))
    with open(os.path.join(ROOT, "core/hearing/kind_weights.h"), "w", encoding="utf-8") as out:
        out.write("""// Written by tools/training/learn_kinds.py; not to be edited.
#pragma once

#include <array>
#include <cstddef>

namespace wirenote {

inline constexpr std::size_t kKindFigures = %d;
// By figure, then by hidden unit.
%s
// By kind (%s), then by hidden unit.
inline constexpr std::array<std::array<float, %d>, %d> kKindLast = {{%s}};
inline constexpr std::array<float, %d> kKindLastBias = {%s};
// How far the odds are believed of a sound that is none of those.
inline constexpr double kKindTemper = %.2f;

} // namespace wirenote
""" % (len(mean), arrays, ", ".join(KINDS), HIDDEN, len(KINDS), last, len(KINDS), numbers(network.intercepts_[1]), by))


def main():
    x, y, fonts = load(sys.argv[1])
    held = fonts_left_out(x, y, fonts)
    by = temper(held, y)
    report(held, y, fonts, by)
    print("temper %.2f" % by)
    if "--hold-out" not in sys.argv:
        write(learn(x, y), by)


if __name__ == "__main__":
    main()
