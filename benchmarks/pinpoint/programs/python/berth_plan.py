class Berth:
    def __init__(self, length):
        self.length = length
        self.stays = []

    def is_free(self, start, end):
        for first, last, _ in self.stays:
            if start < last and first < end:
                return False
        return True

    def take(self, start, end, boat):
        self.stays.append((start, end, boat))
        self.stays.sort()


class Harbour:
    def __init__(self, lengths):
        self.berths = [Berth(n) for n in lengths]
        self.refused = []

    def book(self, boat, length, start, end):
        best = None
        for berth in self.berths:
            if berth.length >= length and berth.is_free(start, end):
                if best is None or berth.length < best.length:
                    best = berth
        if best is None:
            self.refused.append(boat)
            return None
        best.take(start, end, boat)
        return best.length

    def busy(self, day):
        return sum(1 for b in self.berths if not b.is_free(day, day + 1))


def season(lengths, wishes, day):
    harbour = Harbour(lengths)
    told = [harbour.book(*wish) for wish in wishes]
    return told, harbour.refused, harbour.busy(day)
