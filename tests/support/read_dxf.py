#!/usr/bin/env python3
"""Reads a DXF with ezdxf, a reader that is not Kervo's, and prints what it finds as lines of "key value".

errors N, fixes N            of ezdxf's audit
LAYER area A, LAYER length L, LAYER count N, LAYER hatch A    of each layer; areas of closed entities, mm²
"""
import math
import sys

import ezdxf


def bulged(points):
    """Area, with sign, and length of a closed polyline of (x, y, bulge), exactly."""
    area = length = 0.0
    for (x, y, bulge), (nx, ny, _) in zip(points, points[1:] + points[:1]):
        area += (x * ny - nx * y) / 2
        chord = math.hypot(nx - x, ny - y)
        if bulge == 0:
            length += chord
            continue
        turn = 4 * math.atan(bulge)
        radius = chord / 2 / math.sin(turn / 2)
        area += radius * radius / 2 * (turn - math.sin(turn))
        length += abs(radius * turn)
    return area, length


def measure(entity):
    kind = entity.dxftype()
    if kind == "LWPOLYLINE":
        points = [(x, y, b) for x, y, b in entity.get_points("xyb")]
        if not entity.closed:
            points[-1] = (*points[-1][:2], 0)
            area, length = bulged(points)
            return 0.0, length - math.dist(points[-1][:2], points[0][:2])
        area, length = bulged(points)
        return abs(area), length
    if kind == "CIRCLE":
        return math.pi * entity.dxf.radius**2, 2 * math.pi * entity.dxf.radius
    if kind == "LINE":
        return 0.0, math.dist(entity.dxf.start, entity.dxf.end)
    points = [(p.x, p.y, 0) for p in entity.flattening(1e-7)]
    closed = math.dist(points[0][:2], points[-1][:2]) < 1e-6
    area, length = bulged(points[:-1] if closed else points)
    return (abs(area) if closed else 0.0), (length if closed else length - math.dist(points[0][:2], points[-1][:2]))


document = ezdxf.readfile(sys.argv[1])
audit = document.audit()
print("errors", len(audit.errors))
for error in audit.errors:
    print(error.message, file=sys.stderr)
print("fixes", len(audit.fixes))
print("units", document.units)
found = {}
for entity in document.modelspace():
    layer = found.setdefault(entity.dxf.layer, {"area": 0.0, "length": 0.0, "count": 0, "hatch": 0.0})
    if entity.dxftype() == "HATCH":
        for loop in entity.paths:
            sign = 1 if loop.path_type_flags & 1 else -1
            layer["hatch"] += sign * abs(bulged([tuple(v) for v in loop.vertices])[0])
        continue
    area, length = measure(entity)
    layer["area"] += area
    layer["length"] += length
    layer["count"] += 1
for name, values in found.items():
    for key, value in values.items():
        print(name, key, repr(value))
