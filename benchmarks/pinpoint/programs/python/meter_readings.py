def reading(text):
    number, unit = text.split()
    if unit == "kWh":
        return float(number)
    return float(number) / 1000


class Meter:
    def __init__(self, house, first):
        self.house = house
        self.readings = [first]

    def add(self, value):
        if value < self.readings[-1]:
            return False
        self.readings.append(value)
        return True

    def used(self):
        return self.readings[-1] - self.readings[0]

    def months(self):
        return [after - before for before, after in zip(self.readings, self.readings[1:])]


class CheapMeter(Meter):
    FREE = 10

    def used(self):
        return max(0, super().used() - self.FREE)


def bill(meter, price, base):
    cost = base * len(meter.months()) + meter.used() * price
    return round(cost, 2)


def year(kind, texts, price, base):
    values = [reading(t) for t in texts]
    meter = CheapMeter("north", values[0]) if kind == "cheap" else Meter("north", values[0])
    refused = [v for v in values[1:] if not meter.add(v)]
    return bill(meter, price, base), meter.months(), refused
