"""Recordings made worse on purpose: noise, a light room, lossy coding, another speed. For tools/evaluate."""
import array, math, os, random, subprocess, wave

RATE = 44100
WAYS = {
    "noise": "white noise 25 dB below the sound",
    "room": "a light room: 0.4 s of reverberation, 6 dB below the direct sound",
    "mp3": "MP3 at 96 kbit/s and back",
    "slower": "at 0.8 of its tempo, at its pitch",
    "faster": "at 1.25 of its tempo, at its pitch",
}
SPEEDS = {"slower": 0.8, "faster": 1.25}


def ffmpeg(*args):
    subprocess.run(["ffmpeg", "-v", "error", "-y", *args], check=True, stdin=subprocess.DEVNULL)


def read(path):
    with wave.open(path) as file:
        return array.array("h", file.readframes(file.getnframes()))


def write(path, samples):
    with wave.open(path, "w") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(RATE)
        file.writeframes(array.array("h", (max(-32768, min(32767, round(v))) for v in samples)).tobytes())


def rms(samples):
    return math.sqrt(sum(v * v for v in samples) / max(1, len(samples)))


def with_noise(samples):
    chance = random.Random(25)
    level = rms(samples) * 10 ** (-25 / 20)
    return [v + chance.gauss(0.0, level) for v in samples]


def impulse_of_room(path):
    chance = random.Random(4)
    tail = [chance.gauss(0.0, 1.0) * 10 ** (-3.0 * i / (0.4 * RATE)) if i > 0.005 * RATE else 0.0 for i in range(int(0.5 * RATE))]
    scale = 10 ** (-6 / 20) / math.sqrt(sum(v * v for v in tail))
    write(path, [16000.0] + [16000.0 * scale * v for v in tail[1:]])


def worn(media, way, scratch):
    """A worn copy of a recording: its path in the folder `scratch`."""
    name = os.path.splitext(os.path.basename(media))[0]
    plain = os.path.join(scratch, name + ".plain.wav")
    out = os.path.join(scratch, name + "." + way + ".wav")
    ffmpeg("-i", media, "-ac", "1", "-ar", str(RATE), "-c:a", "pcm_s16le", plain)
    if way == "noise":
        write(out, with_noise(read(plain)))
    elif way == "room":
        impulse = os.path.join(scratch, "room.wav")
        if not os.path.exists(impulse):
            impulse_of_room(impulse)
        ffmpeg("-i", plain, "-i", impulse, "-lavfi", "[0][1]afir=gtype=none,volume=-3dB", "-c:a", "pcm_s16le", out)
    elif way in SPEEDS:
        ffmpeg("-i", plain, "-af", f"atempo={SPEEDS[way]}", "-c:a", "pcm_s16le", out)
    else:
        coded = os.path.join(scratch, name + ".mp3")
        ffmpeg("-i", plain, "-b:a", "96k", coded)
        ffmpeg("-i", coded, "-c:a", "pcm_s16le", out)
    return out


def truth_of(truth, way):
    """What is true of the worn copy: another speed moves all times."""
    if way not in SPEEDS:
        return truth

    def moved(value, name=""):
        if isinstance(value, dict):
            return {k: moved(v, k) for k, v in value.items()}
        if isinstance(value, list):
            return [moved(v, name) for v in value]
        return value / SPEEDS[way] if name.endswith("_s") and isinstance(value, (int, float)) else value

    out = moved(truth)
    if out.get("tempo_bpm"):
        out["tempo_bpm"] *= SPEEDS[way]
    return out
