class Room:
    def __init__(self, number, beds):
        self.number = number
        self.beds = beds
        self.guests = []

    def free(self):
        return self.beds - len(self.guests)


class House:
    def __init__(self, beds):
        self.rooms = [Room(number, count) for number, count in enumerate(beds, 1)]
        self.turned_away = 0

    def arrive(self, party):
        best = None
        for room in self.rooms:
            if room.free() >= len(party):
                if best is None or room.free() < best.free():
                    best = room
        if best is None:
            self.turned_away += len(party)
            return 0
        best.guests.extend(party)
        return best.number

    def leave(self, guest):
        for room in self.rooms:
            if guest in room.guests:
                room.guests.remove(guest)
                return True
        return False

    def free(self):
        return sum(room.free() for room in self.rooms)


def weekend(beds, events):
    house = House(beds)
    told = []
    for what, who in events:
        if what == "+":
            told.append(house.arrive(who.split()))
        else:
            told.append(house.leave(who))
    return told, house.free(), house.turned_away
