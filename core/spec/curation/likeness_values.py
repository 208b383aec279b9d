# Writes likeness_values.json in plain Python: python3 likeness_values.py
# The two-dimensional DCT-II, each coefficient by its own double sum (Ahmed, Natarajan, Rao, "Discrete Cosine Transform",
# IEEE Transactions on Computers C-23, 1974; without the constants before the sums), of how paint is spread on 32 x 32 grey
# tones: the low frequencies that a perceptual hash is made of.
import json
import math
import os
import random

SIDE = 32
NONE = 1e-4
chance = random.Random(4)


def coefficient(grid, row, column):
    return math.fsum(
        grid[y][x] * math.cos(math.pi * (2 * y + 1) * row / (2 * SIDE)) * math.cos(math.pi * (2 * x + 1) * column / (2 * SIDE))
        for y in range(SIDE) for x in range(SIDE))


def stroke(thick, wave):
    return [[round(255 * min(1, max(0, (abs(y - 15.5 - 6 * math.sin(x * wave)) - thick) / 2))) for x in range(SIDE)] for y in range(SIDE)]


pictures = [stroke(2, 0.2), stroke(5, 0.35), stroke(0.5, 0.1), [[chance.randrange(256) for _ in range(SIDE)] for _ in range(SIDE)]]
cases = []
for tones in pictures:
    ink = [[1 - tone / 255 for tone in row] for row in tones]
    amount = sum(map(sum, ink)) / SIDE ** 2 + NONE
    spread = [[value / amount for value in row] for row in ink]
    low = [(row, diagonal - row) for diagonal in range(1, 7) for row in range(diagonal + 1)][:18]
    cases.append({"tones": tones, "features": [math.log(amount), *(coefficient(spread, *at) for at in low)]})
with open(os.path.join(os.path.dirname(os.path.abspath(__file__)), "likeness_values.json"), "w") as file:
    json.dump(cases, file)
