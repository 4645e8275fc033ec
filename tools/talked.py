"""Recordings with somebody talking in them, for tools/evaluate --talk."""
import copy, glob, os, random

import wear

GAP_S = 0.5
BEFORE_S = 8.0
AFTER_S = 6.0
OVER_DB = -9.0
AFTER_THAT_S = 0.3  # between what is said and what is said next
TIMES = ("onset_s", "offset_s", "start_s", "end_s")


def speech(folder, seconds, chance, scratch):
    """Utterances one after the other, as loud as each other."""
    files = sorted(f for end in ("g722", "wav") for f in glob.glob(os.path.join(folder, "**", "*." + end), recursive=True)
                   if os.path.getsize(f) > 12000 and os.sep + "silence" + os.sep not in f)
    if not files:
        raise SystemExit("evaluate: there is no speech (.g722 or .wav) in %s" % folder)
    said = []
    plain = os.path.join(scratch, "said.wav")
    while len(said) < seconds * wear.RATE:
        path = chance.choice(files)
        wear.ffmpeg(*(["-f", "g722"] if path.endswith(".g722") else []), "-i", path, "-ac", "1", "-ar", str(wear.RATE), "-c:a", "pcm_s16le", plain)
        one = wear.read(plain)
        scale = 2600.0 / max(1.0, wear.rms(one))
        said += [v * scale for v in one] + [0.0] * int(AFTER_THAT_S * wear.RATE)
    return said[:int(seconds * wear.RATE)]


def moved(truth, by_s):
    truth = copy.deepcopy(truth)
    for key in ("notes", "sections"):
        for one in truth.get(key) or []:
            for field in TIMES:
                if one.get(field) is not None:
                    one[field] += by_s
    for key in ("beats_s", "downbeats_s"):
        truth[key] = [t + by_s for t in truth.get(key) or []]
    return truth


def talked(media, truth, folder, over, seed, scratch):
    """The take with talk before and after it, and with `over` also over its second half: its path, its truth, and
    the spans [(from_s, to_s, kind)]."""
    chance = random.Random(seed)
    plain = os.path.join(scratch, "plain.wav")
    wear.ffmpeg("-i", media, "-ac", "1", "-ar", str(wear.RATE), "-c:a", "pcm_s16le", plain)
    played = list(wear.read(plain))
    loud = wear.rms(played)
    before, after = (speech(folder, s, chance, scratch) for s in (BEFORE_S, AFTER_S))
    scale = loud / max(1.0, wear.rms(before))
    gap = [0.0] * int(GAP_S * wear.RATE)
    if over:
        half = len(played) // 2
        said = speech(folder, (len(played) - half) / wear.RATE, chance, scratch)
        level = loud * 10 ** (OVER_DB / 20) / max(1.0, wear.rms(said))
        for i, v in enumerate(said[:len(played) - half]):
            played[half + i] += v * level
    samples = [v * scale for v in before] + gap + played + gap + [v * scale for v in after]
    out = os.path.join(scratch, os.path.basename(media) + ".talked.wav")
    wear.write(out, samples)
    start_s = BEFORE_S + GAP_S
    end_s = start_s + len(played) / wear.RATE
    truth = moved(truth, start_s)
    first, last = truth["notes"][0]["onset_s"], max(n["offset_s"] for n in truth["notes"])
    return out, truth, [(0.0, BEFORE_S - AFTER_THAT_S, "talk"), (first, min(last, end_s), "playing"),
                        (end_s + GAP_S, end_s + GAP_S + AFTER_S - AFTER_THAT_S, "talk")]


def over_span(spans):
    """Where talk lies over the playing, with `over`: its second half."""
    start_s, end_s = BEFORE_S + GAP_S, spans[2][0] - GAP_S
    return (start_s + end_s) / 2, end_s


def shares(spans, found):
    """How much of the time of talk and of playing is called so, in seconds: {kind: (called so, all)}."""
    out = {"talk": [0.0, 0.0], "playing": [0.0, 0.0]}
    for start_s, end_s, kind in spans:
        out[kind][1] += end_s - start_s
        for one in found:
            inside = min(end_s, one["end_s"]) - max(start_s, one["start_s"])
            silent = one["kind"] == "silence"  # a pause is neither
            if inside > 0 and (one["kind"] == kind or silent or (kind == "playing" and one["kind"] == "talk-over-playing")):
                out[kind][0] += inside
    return out


def false_notes(spans, notes):
    return sum(1 for n in notes if any(s <= n["onset_s"] <= e for s, e, kind in spans if kind == "talk"))
