#!/usr/bin/python3
"""Learns what begins at an attack: tools/training/learn_attacks.py DIR OUT.bin [--epochs N] [--hold-out KEY=VALUE,VALUE …] [--start OLD.bin]

  tools/training/hard_takes.py DIR 3000
  tools/training/learn_attacks.py DIR core/hearing/data/attack_network.bin

The network of core/hearing/attack_network: for each pitch the same weights look at its harmonics (and at those of the pitches whose
harmonics these could be) in seven spectra; two layers then look at the pitches that share harmonics with it and beside it. It says
how likely each pitch begins, sounds a tenth of a second later, and, if it begins, is slurred (hammered, pulled off, slid to). The first takes of DIR (hard_takes.KEPT) are never learned from.
With --start it goes on from weights that were learned before. With --hold-out, takes whose font, amplifier or style is named are left out too, and told of apart. Needs python3-torch.
"""
import argparse, glob, json, math, os, sys

import numpy as np
import torch
from torch import nn
import torch.nn.functional as F

import hard_takes

SPECTRA, ROWS, FACTS = 7, 258, 6
AXIS_LOWEST, LOWEST, HIGHEST = 21, 23, 88
PITCHES = HIGHEST - LOWEST + 1
RECORD = np.dtype([("levels", "u1", (SPECTRA, ROWS)), ("facts", "<f4", (FACTS,)), ("truth", "u1", (PITCHES,))])
RATIOS = (1 / 3, 1 / 2, 2 / 3, 1, 3 / 2, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 16)
HARMONICS = [round(36 * math.log2(k)) for k in RATIOS]
AROUND = (-28, -24, -19, -16, -15, -12, -9, -8, -7, -5, -4, -3, -2, -1, 0, 1, 2, 3, 4, 5, 7, 8, 9, 12, 15, 16, 19, 24, 28)
FIRST, SECOND, THIRD, FOURTH, LAST = 64, 32, 40, 24, 32


MARGIN = 150  # rows of nought on either side


class Network(nn.Module):
    def __init__(self):
        super().__init__()
        self.height = (torch.arange(LOWEST, HIGHEST + 1).float() - 58) / 12
        self.first = nn.Linear(SPECTRA * len(HARMONICS) + FACTS + 1, FIRST)
        self.second = nn.Linear(FIRST, SECOND)
        self.third = nn.Linear(len(AROUND) * SECOND + SECOND, THIRD)
        self.fourth = nn.Linear(THIRD, FOURTH)
        self.fifth = nn.Linear(len(AROUND) * FOURTH + THIRD, LAST)
        self.sixth = nn.Linear(LAST, 3)

    def beside(self, h):
        wide = max(AROUND)
        padded = F.pad(h, (0, 0, wide, wide))
        return torch.cat([padded[:, wide + a:wide + a + PITCHES] for a in AROUND], 2)

    def forward(self, levels, facts):
        widest = F.pad(F.max_pool1d(levels, 3, 1, 1), (MARGIN, MARGIN))  # the neighbours: what is a little out of tune
        start = MARGIN + 3 * (LOWEST - AXIS_LOWEST) + 1
        x = torch.stack([widest[:, :, start + rows:start + rows + 3 * PITCHES:3] for rows in HARMONICS], 3)
        n = x.shape[0]
        x = torch.cat([x.permute(0, 2, 1, 3).flatten(2), facts[:, None, :].expand(n, PITCHES, FACTS),
                       self.height[None, :, None].expand(n, PITCHES, 1)], 2)
        h = F.relu(self.second(F.relu(self.first(x))))
        everywhere = h.mean(1, keepdim=True).expand(-1, PITCHES, -1)
        h = F.relu(self.third(torch.cat([self.beside(h), everywhere], 2)))
        narrow = F.relu(self.fourth(h))
        return self.sixth(F.relu(self.fifth(torch.cat([self.beside(narrow), h], 2))))


def load(folder):
    attacks, takes, metas = [], [], []
    for path in sorted(glob.glob(os.path.join(folder, "*.meta"))):
        with open(path, encoding="utf-8") as file:
            metas.append(json.load(file))
        records = np.fromfile(path[:-5] + ".pic", dtype=RECORD)
        attacks.append(records)
        takes.append(np.full(len(records), len(metas) - 1))
    return np.concatenate(attacks), np.concatenate(takes), metas


def batch_of(records, train):
    levels = torch.from_numpy(records["levels"].astype(np.float32) / 255)
    truth = torch.from_numpy(records["truth"].astype(np.int64))
    if train:
        n = len(levels)
        slope = torch.linspace(-1, 1, ROWS)[None, None, :] * (0.12 * torch.randn(n, 1, 1))
        bell_at, bell_wide = torch.rand(n, 1, 1) * ROWS, 8 + 40 * torch.rand(n, 1, 1)
        bell = 0.1 * torch.randn(n, 1, 1) * torch.exp(-((torch.arange(ROWS)[None, None, :] - bell_at) / bell_wide) ** 2)
        floor = torch.where(torch.rand(n, 1, 1) < 0.3, 0.35 * torch.rand(n, 1, 1), torch.zeros(1))
        levels = torch.where(levels > 0, levels + slope + bell, levels)
        levels = torch.maximum(levels, floor * (levels.amax(2, keepdim=True) > 0)).clamp(0, 1)
    return levels, torch.from_numpy(records["facts"].copy()), truth


def losses(out, truth):
    begins, unsure, sounds = (truth & 1).float(), (truth & 2) > 0, ((truth & 4) > 0).float()
    of_begins = F.binary_cross_entropy_with_logits(out[..., 0], begins, reduction="none")
    of_sounds = F.binary_cross_entropy_with_logits(out[..., 1], sounds, reduction="none")
    slurred = ((truth & 8) > 0).float()
    of_slurs = F.binary_cross_entropy_with_logits(out[..., 2], slurred, reduction="none")
    return (of_begins * ~unsure).sum(1).mean() + 0.3 * of_sounds.sum(1).mean() + 0.5 * (of_slurs * begins).sum(1).mean()


def believed(network, attacks):
    with torch.no_grad():
        parts = [torch.sigmoid(network(*batch_of(attacks[i:i + 512], False)[:2])) for i in range(0, len(attacks), 512)]
    return torch.cat(parts).numpy()


def report(name, p, attacks):
    truth = attacks["truth"]
    sure = (truth & 2) == 0
    begins, said = (truth & 1 > 0) & sure, (p[..., 0] > 0.5) & sure
    hits = (begins & said).sum()
    sounds, heard = (truth & 4) > 0, p[..., 1] > 0.5
    both = (sounds & heard).sum()
    slurs, said_so = begins & (truth & 8 > 0), begins & (p[..., 2] > 0.5)
    print("%-22s begins: F1 %.3f (precision %.3f, recall %.3f); sounds: F1 %.3f; slurs: F1 %.3f of %d; %d attacks" % (
        name, 2 * hits / max(1, begins.sum() + said.sum()), hits / max(1, said.sum()), hits / max(1, begins.sum()),
        2 * both / max(1, sounds.sum() + heard.sum()), 2 * (slurs & said_so).sum() / max(1, slurs.sum() + said_so.sum()), slurs.sum(),
        len(attacks)), flush=True)


def tell(network, attacks, takes, metas, which, label):
    if not which.any():
        return
    p = believed(network, attacks[which])
    report(label, p, attacks[which])
    for key in ("font", "style", "amplifier"):
        for value in sorted({metas[t][key] for t in np.unique(takes[which])}):
            some = np.array([metas[t][key] == value for t in takes[which]])
            report("  %s %s" % (key, value), p[some], attacks[which][some])


def learn(network, attacks, epochs, fastest, seed=1):
    torch.manual_seed(seed)
    rng = np.random.RandomState(seed)
    size, steps = 256, epochs * (len(attacks) // 256)
    optimizer = torch.optim.AdamW(network.parameters(), lr=fastest, weight_decay=1e-3)
    schedule = torch.optim.lr_scheduler.OneCycleLR(optimizer, fastest, total_steps=steps + 1)
    for epoch in range(epochs):
        order, total = rng.permutation(len(attacks)), 0.0
        for i in range(0, len(order) - size + 1, size):
            levels, facts, truth = batch_of(attacks[np.sort(order[i:i + size])], True)
            loss = losses(network(levels, facts), truth)
            optimizer.zero_grad()
            loss.backward()
            optimizer.step()
            schedule.step()
            total += loss.item()
        print("pass %d: loss %.4f" % (epoch + 1, total * size / len(order)), flush=True)


def layers(network):
    return network.first, network.second, network.third, network.fourth, network.fifth, network.sixth


def read(network, path):
    """What write() wrote."""
    values, at = torch.from_numpy(np.fromfile(path, dtype="<f4")), 0
    with torch.no_grad():
        for tensor in (t for layer in layers(network) for t in (layer.weight, layer.bias)):
            tensor.copy_(values[at:at + tensor.numel()].view_as(tensor))
            at += tensor.numel()


def write(network, path):
    """Little-endian floats, layer by layer: weights row by row (a row a unit), then what each unit adds."""
    with open(path, "wb") as out:
        for layer in layers(network):
            out.write(layer.weight.detach().numpy().astype("<f4").tobytes())
            out.write(layer.bias.detach().numpy().astype("<f4").tobytes())


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("folder")
    parser.add_argument("out")
    parser.add_argument("--epochs", type=int, default=12)
    parser.add_argument("--start")
    parser.add_argument("--hold-out", nargs="*", default=[])
    options = parser.parse_args()
    torch.set_num_threads(1)  # as fast as two: two of these can run at once
    attacks, takes, metas = load(options.folder)
    held = [h.split("=") for h in options.hold_out]
    out_of_it = np.array([any(m[key] in values.split(",") for key, values in held) for m in metas])[takes]
    kept = np.array([int(m["name"]) < hard_takes.KEPT for m in metas])[takes]
    learned = ~kept & ~out_of_it
    print("%d attacks of %d takes, %d to learn from" % (len(attacks), len(metas), learned.sum()), flush=True)
    network = Network()
    if options.start:
        read(network, options.start)
    learn(network, attacks[learned], options.epochs, 1e-3 if options.start else 3e-3)
    network.eval()
    tell(network, attacks, takes, metas, kept & ~out_of_it, "kept back")
    tell(network, attacks, takes, metas, out_of_it, "held out")
    write(network, options.out)


if __name__ == "__main__":
    sys.exit(main())
