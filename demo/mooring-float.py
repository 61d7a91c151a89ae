#!/usr/bin/env python3
"""The mooring float as a scanner would see it, as an STL file of text without a unit.

Usage: mooring-float.py > float.stl; then
kervo-cli convert float.stl demo/mooring-float.kervo --unit mm, and the steps of mooring-float.json after its first.

A body of revolution, 180 mm across, with noise of 0.15 mm across its skin, nine holes, a third of the triangles turned
over, and two crumbs of dust beside it. The same every time.
"""
import math
import random

AROUND, RINGS = 72, 45
random.seed(4)


def radius(share):
    """From the lower eye to the upper one, mm: a belly between two necks."""
    belly = 90 * math.sin(math.pi * share) ** 0.55
    return max(14 + 4 * math.cos(2 * math.pi * share), belly)


def place(ring, turn):
    share = ring / RINGS
    r = radius(share)
    noise = random.uniform(-0.15, 0.15)
    angle = 2 * math.pi * turn / AROUND
    z = -120 + 240 * share
    return ((r + noise) * math.cos(angle), (r + noise) * math.sin(angle), z)


def main():
    points = [[place(ring, turn) for turn in range(AROUND)] for ring in range(RINGS + 1)]
    low, high = (0, 0, -120), (0, 0, 120)
    triangles = []
    for turn in range(AROUND):
        after = (turn + 1) % AROUND
        triangles.append((low, points[0][after], points[0][turn]))
        triangles.append((high, points[RINGS][turn], points[RINGS][after]))
        for ring in range(RINGS):
            a, b = points[ring][turn], points[ring][after]
            c, d = points[ring + 1][after], points[ring + 1][turn]
            triangles.append((a, b, c))
            triangles.append((a, c, d))
    for place_of_hole in sorted(random.sample(range(len(triangles)), 9), reverse=True):
        del triangles[place_of_hole]
    for x in (130, 140):
        tip = (x, 0, 3)
        base = [(x + 1, 0, 0), (x - 1, 1, 0), (x - 1, -1, 0)]
        triangles.append((base[0], base[2], base[1]))
        for i in range(3):
            triangles.append((base[i], base[(i + 1) % 3], tip))
    print("solid Mooring float")
    for i, (a, b, c) in enumerate(triangles):
        corners = (a, c, b) if i % 3 == 0 else (a, b, c)
        print("facet normal 0 0 0\nouter loop")
        for corner in corners:
            print("vertex %.5f %.5f %.5f" % corner)
        print("endloop\nendfacet")
    print("endsolid Mooring float")


main()
