#!/usr/bin/python3
"""Learns how far each pitch is believed at an attack: tools/training/learn_belief.py DIR > core/hearing/note_belief_weights.cpp

  tools/training/make_takes.py DIR 360
  for each take: build/release/bin/train_candidates TAKE.wav TAKE.json > TAKE.csv
  tools/training/learn_belief.py DIR

A small network (two hidden layers) with strong weight decay, so that it holds for instruments it has not heard. A fifth of the
takes is kept back to tell how good it is; the figures go to standard error. Needs python3-sklearn.
"""
import glob, os, sys

import numpy as np
from sklearn.metrics import f1_score, log_loss
from sklearn.neural_network import MLPClassifier
from sklearn.preprocessing import StandardScaler

LAYERS = (24, 12)


def load(folder):
    evidence, begins, take = [], [], []
    for number, path in enumerate(sorted(glob.glob(os.path.join(folder, "*.csv")))):
        with open(path, encoding="utf-8") as lines:
            for line in lines:
                cells = line.split(",")
                evidence.append([float(c) for c in cells[4:]])
                begins.append(int(cells[3]))
                take.append(number)
    return np.array(evidence), np.array(begins), np.array(take)


def learn(evidence, begins):
    scaler = StandardScaler().fit(evidence)
    network = MLPClassifier(LAYERS, alpha=1.0, max_iter=150, random_state=1, early_stopping=True, n_iter_no_change=12, batch_size=256)
    return scaler, network.fit(scaler.transform(evidence), begins)


def folded(scaler, network):
    """The scaling goes into the first layer."""
    weights = [np.array(w) for w in network.coefs_]
    biases = [np.array(b) for b in network.intercepts_]
    biases[0] = biases[0] - (scaler.mean_ / scaler.scale_) @ weights[0]
    weights[0] = weights[0] / scaler.scale_[:, None]
    return weights, biases


def print_table(name, values):
    values = np.asarray(values).ravel()
    print("const std::array<float, %d> %s = {" % (len(values), name))
    for i in range(0, len(values), 10):
        print("    " + " ".join("%.4fF," % v for v in values[i:i + 10]))
    print("};\n")


def main():
    evidence, begins, take = load(sys.argv[1])
    kept = take % 5 == 0
    scaler, network = learn(evidence[~kept], begins[~kept])
    p = network.predict_proba(scaler.transform(evidence[kept]))[:, 1]
    print("kept back: F1 %.3f, log loss %.3f of %d candidates" % (f1_score(begins[kept], p > 0.5), log_loss(begins[kept], p), kept.sum()), file=sys.stderr)
    weights, biases = folded(*learn(evidence, begins))
    print("// Written by tools/training/learn_belief.py from invented takes; not to be edited.")
    print('#include "hearing/note_belief.h"\n\nnamespace wirenote {\n')
    for layer, (w, b) in enumerate(zip(weights, biases), 1):
        print_table("kBeliefWeights%d" % layer, w.T)
        print_table("kBeliefBias%d" % layer, b)
    print("} // namespace wirenote")


if __name__ == "__main__":
    main()
