"""A shelf of things found on board, kept by day."""


class Shelf:
    def __init__(self, keep):
        self.keep = keep
        self.items = {}

    def add(self, name, day):
        if name not in self.items:
            self.items[name] = []
        self.items[name].append(day)

    def take(self, name):
        days = self.items.get(name, [])
        if not days:
            return None
        day = days.pop(0)
        if not days:
            del self.items[name]
        return day

    def old(self, today):
        found = []
        for name, days in self.items.items():
            for day in days:
                if today - day > self.keep:
                    found.append(name)
        return sorted(found)


def story(keep, adds, takes, today):
    shelf = Shelf(keep)
    for name, day in adds:
        shelf.add(name, day)
    taken = [shelf.take(name) for name in takes]
    return taken, shelf.old(today), len(shelf.items)
