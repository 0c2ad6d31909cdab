class Boat:
    def __init__(self, name, handicap):
        self.name = name
        self.handicap = handicap
        self.points = 0
        self.best = None

    def race(self, minutes):
        corrected = minutes * 100 / self.handicap
        if self.best is None or corrected < self.best:
            self.best = corrected
        return corrected


class Regatta:
    def __init__(self):
        self.boats = {}

    def enter(self, name, handicap):
        self.boats[name] = Boat(name, handicap)

    def sail(self, minutes):
        placed = []
        for name, taken in minutes.items():
            placed.append((self.boats[name].race(taken), name))
        placed.sort()
        for place, (_, name) in enumerate(placed, 1):
            self.boats[name].points += place
        return [name for _, name in placed]

    def table(self):
        order = sorted(self.boats.values(), key=lambda b: (b.points, b.best))
        return [(b.name, b.points, round(b.best, 1)) for b in order]


def season(races):
    regatta = Regatta()
    regatta.enter("Tern", 100)
    regatta.enter("Gull", 110)
    regatta.enter("Auk", 90)
    orders = [regatta.sail(race) for race in races]
    return orders, regatta.table()
