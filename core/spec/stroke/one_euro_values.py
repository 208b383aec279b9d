# Writes one_euro_values.json in plain Python: python3 one_euro_values.py
# The One-Euro filter as its authors publish it (Casiez, Roussel, Vogel, "1€ Filter", CHI 2012, algorithms 1 and 2;
# written down from memory): a first-order low-pass of the value whose cutoff is min_cutoff + beta * |low-passed
# derivative|, each low-pass with alpha = 1 / (1 + tau / te), tau = 1 / (2 * pi * cutoff).
import json
import math
import os
import random


class LowPass:
    def __init__(self):
        self.last = None

    def filter(self, value, alpha):
        self.last = value if self.last is None else alpha * value + (1 - alpha) * self.last
        return self.last


class OneEuro:
    def __init__(self, min_cutoff, beta, d_cutoff):
        self.min_cutoff, self.beta, self.d_cutoff = min_cutoff, beta, d_cutoff
        self.x, self.dx, self.before = LowPass(), LowPass(), None

    @staticmethod
    def alpha(cutoff, te):
        tau = 1 / (2 * math.pi * cutoff)
        return 1 / (1 + tau / te)

    # te in seconds; the derivative is told in px per millisecond, as beta is.
    def filter(self, value, te):
        dx = 0.0 if self.before is None else (value - self.before) / (te * 1000)
        self.before = value
        edx = self.dx.filter(dx, self.alpha(self.d_cutoff, te))
        return self.x.filter(value, self.alpha(self.min_cutoff + self.beta * abs(edx), te))


LIGHTEST, STRONGEST, BETA, D_CUTOFF = 30.0, 0.4, 1.5, 1.0
chance = random.Random(5)
cases = []
for strength, pace, shake in [(0.2, 2, 1.5), (0.5, 2, 1.5), (0.9, 2, 1.5), (0.5, 25, 1.5), (0.9, 25, 4), (1.0, 60, 0)]:
    rows, x, y, t = [], 10.0, 200.0, 0.0
    for i in range(40):
        rows.append([x + chance.uniform(-shake, shake), y + chance.uniform(-shake, shake), t])
        x, y, t = x + pace, y + pace * math.sin(i / 4), t + chance.choice([4, 8, 16])
    cutoff = LIGHTEST * (STRONGEST / LIGHTEST) ** strength
    out = []
    for axis in (0, 1):
        one = OneEuro(cutoff, BETA, D_CUTOFF)
        values, before = [], None
        for row in rows:
            values.append(one.filter(row[axis], 0.008 if before is None else (row[2] - before) / 1000))
            before = row[2]
        out.append(values)
    cases.append({"strength": strength, "rows": rows, "x": out[0], "y": out[1]})
with open(os.path.join(os.path.dirname(os.path.abspath(__file__)), "one_euro_values.json"), "w") as file:
    json.dump(cases, file)
