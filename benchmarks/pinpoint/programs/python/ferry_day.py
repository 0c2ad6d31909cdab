"""A whole day of the ferry: bookings are read, boarded by lane, and the day is summed up.

Lanes have a length in metres. Cars are put on the first lane with room; what does not
fit waits for the next sailing. Foot passengers only count against the safety limit.
"""
LANE_LENGTH = 20
LANES = 3
SAFE = 40
CHILD_AGE = 16
FARES = {"adult": 6, "child": 3, "car": 14, "van": 22}


class Booking:
    """One party: the ages of its people and the lengths of its vehicles."""

    def __init__(self, name, ages, vehicles):
        self.name = name
        self.ages = ages
        self.vehicles = vehicles

    def people(self):
        return len(self.ages)

    def children(self):
        count = 0
        for age in self.ages:
            if age < CHILD_AGE:
                count += 1
        return count

    def fare(self):
        total = self.children() * FARES["child"]
        total += (self.people() - self.children()) * FARES["adult"]
        for length in self.vehicles:
            if length > 5:
                total += FARES["van"]
            else:
                total += FARES["car"]
        return total


class Sailing:
    """One sailing: lanes that fill up and people who come aboard."""

    def __init__(self, clock):
        self.clock = clock
        self.lanes = [[] for _ in range(LANES)]
        self.people = 0
        self.takings = 0

    def room(self, number):
        return LANE_LENGTH - sum(self.lanes[number])

    def park(self, length):
        for number in range(LANES):
            if self.room(number) >= length:
                self.lanes[number].append(length)
                return True
        return False

    def take(self, booking):
        if self.people + booking.people() > SAFE:
            return False
        parked = []
        for length in booking.vehicles:
            if not self.park(length):
                self.leave(parked)
                return False
            parked.append(length)
        self.people += booking.people()
        self.takings += booking.fare()
        return True

    def leave(self, lengths):
        for length in lengths:
            for lane in self.lanes:
                if length in lane:
                    lane.remove(length)
                    break


def parse(line):
    """Turn 'Name; 34 9; 4.5' into a booking."""
    name, ages, vehicles = line.split(";")
    return Booking(
        name.strip(),
        [int(age) for age in ages.split()],
        [float(length) for length in vehicles.split()],
    )


def run_day(clocks, lines):
    """Board every booking on the first sailing that takes it; returns sailings and who is left."""
    sailings = [Sailing(clock) for clock in clocks]
    left = []
    for line in lines:
        booking = parse(line)
        for sailing in sailings:
            if sailing.take(booking):
                break
        else:
            left.append(booking.name)
    return sailings, left


def report(clocks, lines):
    sailings, left = run_day(clocks, lines)
    rows = []
    total = 0
    for sailing in sailings:
        used = sum(sum(lane) for lane in sailing.lanes)
        rows.append((sailing.clock, sailing.people, used, sailing.takings))
        total += sailing.takings
    return rows, total, left
