#!/usr/bin/env python3
"""Learns at which level the beat is felt and where it lies, from invented rhythms (rhythms.py).

  tools/training/learn_beats.py [--count N] [--hold-out]

Of each rhythm every level and phase that form/beat_levels considers is measured by train_beats; a small network learns which is the right one.
Writes core/form/beat_weights.h. With --hold-out nothing is written: each kind of rhythm is left out of learning in turn, and what is
said of it is printed. Needs python3-torch, python3-sklearn and train_beats.
"""
import argparse, os, subprocess, sys

import numpy as np
import torch

HERE = os.path.dirname(os.path.abspath(__file__))
ROOT = os.path.dirname(os.path.dirname(HERE))
sys.path.insert(0, HERE)
import learn_talk, rhythms

HIDDEN, NETWORKS = 16, 4
DECAY = 0.1
FURTHEST = learn_talk.FURTHEST


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


def tables(examples, means, spreads):
    """Figures (rhythm, level, figure), nought or far below it where there is no such level, and the right level."""
    most = max(len(e[1]) for e in examples)
    figures = torch.zeros(len(examples), most, len(means))
    missing = torch.full((len(examples), most), -1e9)
    for i, e in enumerate(examples):
        figures[i, :len(e[1])] = torch.tensor(np.clip((e[1] - means) / spreads, -FURTHEST, FURTHEST))
        missing[i, :len(e[1])] = 0.0
    return figures, missing, torch.tensor([e[2] for e in examples])


def learn(examples, means, spreads):
    """The mean of several networks is one with as many times the units: what one seed makes of a close call is chance."""
    several = [learn_one(examples, means, spreads, seed) for seed in range(NETWORKS)]
    first, first_bias, last, last_bias = zip(*several)
    return [np.concatenate(first, 1), np.concatenate(first_bias), np.concatenate(last) / NETWORKS, np.mean(last_bias)]


def learn_one(examples, means, spreads, seed):
    """One hidden layer gives each level of a rhythm a score; their softmax is the probability (cross entropy)."""
    torch.manual_seed(seed)
    figures, missing, right = tables(examples, means, spreads)
    network = torch.nn.Sequential(torch.nn.Linear(len(means), HIDDEN), torch.nn.ReLU(), torch.nn.Linear(HIDDEN, 1))
    optimizer = torch.optim.AdamW(network.parameters(), lr=5e-3, weight_decay=DECAY)
    size, rounds = 128, 30
    schedule = torch.optim.lr_scheduler.OneCycleLR(optimizer, 1e-2, total_steps=rounds * (len(examples) // size) + 1)
    for _ in range(rounds):
        order = torch.randperm(len(examples))
        for i in range(0, len(order) - size + 1, size):
            some = order[i:i + size]
            loss = torch.nn.functional.cross_entropy(network(figures[some]).squeeze(-1) + missing[some], right[some])
            optimizer.zero_grad()
            loss.backward()
            optimizer.step()
            schedule.step()
    first, last = network[0], network[2]
    return [w.detach().numpy() for w in (first.weight.T, first.bias, last.weight[0], last.bias[0])]


def judge(examples, weights, means, spreads):
    """The shares with the right level and phase, the right level, and a level wrong by a factor with three."""
    told = []
    for _, figures, right, which in examples:
        first, first_bias, last, _ = weights
        seen = np.clip((figures - means) / spreads, -FURTHEST, FURTHEST)
        best = which[int(np.argmax(np.maximum(0, seen @ first + first_bias) @ last))]
        of_three = best[0] not in (0.5, 1.0, 2.0)
        same = best[0] == 1.0 and (best[2] == 1) == (which[right][2] == 1)
        told.append((same and best[1] == 0.0, same, of_three))
    return np.mean(np.array(told, float), axis=0)


def main():
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--count", type=int, default=16000)
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
    learn_talk.write((means, spreads, *learn(examples, means, spreads)), "core/form/beat_weights.h", "Beat", "learn_beats.py")
    return 0


if __name__ == "__main__":
    sys.exit(main())
