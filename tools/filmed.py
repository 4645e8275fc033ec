"""Films with known truth: where the neck lies, as a person would say it once, and what was seen at each note."""
import bisect, json


def neck_file(truth, path):
    """Writes the neck of the first picture as "wirenote-neck/1"."""
    first = truth["video"]["neck_keyframes"][0]
    points = [{"fret": fret, "edge": edge, "x": first[name][0], "y": first[name][1]}
              for fret, word in ((0, "nut"), (12, "fret12")) for edge in ("low", "high") for name in (word + "_" + edge,)]
    with open(path, "w", encoding="utf-8") as file:
        json.dump({"format": "wirenote-neck/1", "t_s": first["t_s"], "points": points}, file)
    return path


def hand_positions(score, truth, estimate):
    """(matched notes at which the hand was visible, of them the position within one fret)."""
    frames = truth["video"]["hand_frames"]
    times = [f["t_s"] for f in frames]
    late_s = truth["video"]["av_offset_ms"] / 1000.0
    seen, right = 0, 0
    for i, j in score.match_notes(truth["notes"], estimate["notes"]).items():
        at = min(len(frames) - 1, bisect.bisect_left(times, truth["notes"][i]["onset_s"] + late_s))
        if not frames[at]["hand_visible"]:
            continue
        seen += 1
        said = estimate["notes"][j].get("hand_position")
        right += said is not None and abs(said - frames[at]["position"]) <= 1
    return seen, right


CORNERS = ("nut_low", "nut_high", "fret12_low", "fret12_high")


def corners_off(truth, estimate):
    """Of each frame said to show the neck, how far its worst corner is off, as a share of the width of the neck at the nut."""
    frames = truth["video"]["neck_keyframes"]
    times = [f["t_s"] for f in frames]
    for one in (estimate.get("video") or {}).get("neck_keyframes") or []:
        at = min(range(len(times)), key=lambda k: abs(times[k] - one["t_s"]))
        true = frames[at]
        apart = lambda a, b: ((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2) ** 0.5
        yield max(apart(true[c], one[c]) for c in CORNERS) / apart(true["nut_low"], true["nut_high"])


def found(truth, estimate):
    """One line: how far the neck and the offset are from the truth."""
    off = sorted(corners_off(truth, estimate))
    if not off:
        return "no neck"
    said = estimate["video"]["av_offset_ms"]
    return "corners off by %.2f of the nut's width (middle), %.2f (nine tenths); offset %d ms, truth %d" % (
        off[len(off) // 2], off[len(off) * 9 // 10], said, truth["video"]["av_offset_ms"])
