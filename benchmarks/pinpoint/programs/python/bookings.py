"""Keeps the bookings of one sailing."""


class Sailing:
    def __init__(self, places):
        self.places = places
        self.names = []
        self.waiting = []

    def book(self, name):
        if len(self.names) < self.places:
            self.names.append(name)
            return True
        self.waiting.append(name)
        return False

    def cancel(self, name):
        if name not in self.names:
            return False
        self.names.remove(name)
        if self.waiting:
            self.names.append(self.waiting.pop(0))
        return True

    def free(self):
        return self.places - len(self.names)


def run(places, moves):
    sailing = Sailing(places)
    for move, name in moves:
        if move == "book":
            sailing.book(name)
        else:
            sailing.cancel(name)
    return sailing.names, sailing.waiting, sailing.free()
