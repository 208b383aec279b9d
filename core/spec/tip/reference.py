# Writes reference.json: what scikit-image 0.19 says of small pictures made by a fixed rule (run with Python 3, numpy).
import json
import numpy as np
from skimage import __version__, exposure, measure

def picture(seed, height, width):
    """Blobs and lone pixels by a linear congruential generator, so that Ruby makes the same."""
    state, values = seed, np.zeros((height, width))
    def chance():
        nonlocal state
        state = (state * 1103515245 + 12345) % 2**31
        return (state >> 8) / 2**23
    for _ in range(14):
        y, x, r = chance() * height, chance() * width, 1 + chance() * 5
        yy, xx = np.mgrid[:height, :width]
        values[(yy - y)**2 + (xx - x)**2 < r * r] = 0.2 + 0.8 * chance()
    for _ in range(30):
        values[int(chance() * height), int(chance() * width)] = chance()
    return values

out = {"version": __version__, "labels": [], "levels": []}
for seed, height, width in [(1, 40, 60), (2, 64, 32), (3, 50, 50), (4, 20, 90)]:
    values = picture(seed, height, width)
    labels = measure.label(values > 0.05, connectivity=2)
    out["labels"].append({
        "seed": seed, "height": height, "width": width, "sum": round(float(values.sum()), 6), "count": int(labels.max()),
        "regions": sorted([*map(int, r.bbox), int(r.area)] for r in measure.regionprops(labels))})
for black, white in [(0, 255), (20, 230), (64, 128)]:
    tones = np.arange(0, 256, 5)
    cover = exposure.rescale_intensity(255 - tones, in_range=(255 - white, 255 - black), out_range=(0, 1))
    out["levels"].append({"black": black, "white": white, "tones": tones.tolist(),
                          "cover": [round(float(v), 6) for v in np.clip(cover, 0, 1)]})
with open(__file__.replace(".py", ".json"), "w") as file:
    json.dump(out, file, separators=(",", ":"))
