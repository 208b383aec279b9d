# Writes catmull_rom_values.json in plain Python: python3 catmull_rom_values.py
# The centripetal Catmull-Rom spline by the pyramid of Barry and Goldman ("A recursive evaluation algorithm for a class
# of Catmull-Rom splines", SIGGRAPH 1988) with knots sqrt(distance) apart (Yuksel, Schaefer, Keyser 2011); beyond both
# ends the first and last step are mirrored.
import json
import math
import os
import random


def between(a, b, ta, tb, t):
    return [((tb - t) * p + (t - ta) * q) / (tb - ta) for p, q in zip(a, b)]


def point(p, part):
    t = [0.0]
    for a, b in zip(p, p[1:]):
        t.append(t[-1] + math.sqrt(math.dist(a, b)))
    u = t[1] + (t[2] - t[1]) * part
    first = [between(p[i], p[i + 1], t[i], t[i + 1], u) for i in range(3)]
    second = [between(first[i], first[i + 1], t[i], t[i + 2], u) for i in range(2)]
    return between(second[0], second[1], t[1], t[2], u)


chance = random.Random(9)
cases = []
for count, reach in [(4, 300), (6, 300), (9, 120), (5, 20), (7, 600)]:
    points = [[chance.uniform(0, reach), chance.uniform(0, reach)] for _ in range(count)]
    mirror = lambda end, beside: [2 * e - b for e, b in zip(end, beside)]
    all_points = [mirror(points[0], points[1]), *points, mirror(points[-1], points[-2])]
    on_it = [[i, part, *point(all_points[i:i + 4], part)] for i in range(count - 1) for part in (0.0, 0.25, 0.5, 0.75, 0.9)]
    cases.append({"points": points, "on_it": on_it})
with open(os.path.join(os.path.dirname(os.path.abspath(__file__)), "catmull_rom_values.json"), "w") as file:
    json.dump(cases, file)
