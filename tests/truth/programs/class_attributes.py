class Boat:
    count = 0
    names = []
    rate = 2

    def __init__(self, name):
        self.name = name
        Boat.count += 1
        self.names.append(name)

    @classmethod
    def reset(cls):
        cls.count = 0
        cls.log = [1]

    def price(self, cars):
        return self.rate * cars


class Ferry(Boat):
    rate = 3


one = Boat("Tern")
two = Ferry("Gull")
before = Boat.count
prices = one.price(2) + two.price(2)
one.rate = 7
prices += one.price(1)
Boat.reset()
Boat.log.append(2)
Ferry.rate = 4
prices += two.price(1)
del Boat.log
print(before, prices, Boat.names, Boat.count)
