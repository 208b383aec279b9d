# Writes pchip_values.json with Debian's python3-scipy: python3 pchip_values.py
import json
import os

import numpy as np
from scipy.interpolate import PchipInterpolator

sets = [
    [[0, 0], [1, 1]],
    [[0, 0], [0.5, 0.12], [1, 1]],
    [[0, 0.2], [0.3, 0.2], [0.31, 0.9], [1, 1]],
    [[0, 1], [0.25, 0.3], [0.6, 0.8], [0.8, 0.1], [1, 0]],
    [[0.1, 0.4], [0.4, 0.9], [0.5, 0.95], [0.9, 1.0]],
    [[0, 0], [0.01, 1], [1, 0.99]],
]
rows = []
for points in sets:
    x, y = zip(*points)
    at = np.linspace(x[0], x[-1], 41)
    rows.append({"points": points, "x": at.tolist(), "y": PchipInterpolator(x, y)(at).tolist()})
with open(os.path.join(os.path.dirname(__file__), "pchip_values.json"), "w") as file:
    json.dump(rows, file)
