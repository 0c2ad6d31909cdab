"""Positions of buoys as points; distances and the nearest."""


class Point:
    def __init__(self, x, y):
        self.x = x
        self.y = y

    def moved(self, dx, dy):
        return Point(self.x + dx, self.y + dy)

    def steps_to(self, other):
        return abs(self.x - other.x) + abs(self.y - other.y)


def nearest(start, points):
    best = None
    for point in points:
        if best is None or start.steps_to(point) < start.steps_to(best):
            best = point
    return best


def show(point):
    if point is None:
        return "none"
    return f"({point.x}, {point.y})"


def find(x, y, pairs):
    return show(nearest(Point(x, y), [Point(a, b) for a, b in pairs]))
