class Card:
    def __init__(self, owner, credit=0):
        self.owner = owner
        self.credit = credit
        self.trips = []

    def fare(self, zones):
        return 2 + 1.5 * zones

    def ride(self, zones):
        cost = self.fare(zones)
        if cost > self.credit:
            return False
        self.credit -= cost
        self.trips.append(zones)
        return True

    def load(self, amount):
        self.credit += amount
        if amount >= 50:
            self.credit += 5

    def told(self):
        return f"{self.owner}: {len(self.trips)} trips, {self.credit:.2f} left"


class IslanderCard(Card):
    def fare(self, zones):
        full = super().fare(zones)
        if len(self.trips) >= 3:
            return full / 2
        return full * 0.8


def week(kind, credit, events):
    card = kind("Ann", credit)
    refused = 0
    for what, amount in events:
        if what == "load":
            card.load(amount)
        elif not card.ride(amount):
            refused += 1
    return card.told(), refused
