# Writes ssim_values.json with Debian's python3-skimage: /usr/bin/python3 ssim_values.py
# Gaussian weights, σ 1.5, no sample covariance: the settings of Wang et al. 2004.
import json
import os

import numpy as np
from skimage.metrics import structural_similarity


def value(x, y, k):
    """The test pictures, said by a formula so that the spec can draw them too."""
    return 0.5 + 0.35 * np.sin(x * (0.11 + 0.02 * k) + k) * np.cos(y * 0.17) + 0.12 * np.sin(x * y * 0.013 * (k + 1))


rows, columns = np.mgrid[0:48, 0:80].astype(float)
pictures = [value(columns, rows, k) for k in range(4)]
pictures.append(np.clip(pictures[0] * 0.6 + 0.3, 0, 1))
pictures.append(np.full_like(pictures[0], 0.25))
out = []
for i in range(len(pictures)):
    for j in range(i, len(pictures)):
        ssim = structural_similarity(pictures[i], pictures[j], gaussian_weights=True, sigma=1.5, use_sample_covariance=False, data_range=1.0)
        out.append([i, j, float(ssim)])
with open(os.path.join(os.path.dirname(__file__), "ssim_values.json"), "w") as file:
    json.dump(out, file)
