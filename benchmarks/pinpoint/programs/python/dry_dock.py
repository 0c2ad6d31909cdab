"""Plans the days in dock: jobs with their length, none overlapping."""


class Dock:
    def __init__(self, first_day):
        self.day = first_day
        self.jobs = []

    def add(self, name, length):
        start = self.day
        end = start + length - 1
        self.jobs.append((name, start, end))
        self.day = end + 1
        return end

    def busy(self, day):
        for name, start, end in self.jobs:
            if start <= day <= end:
                return name
        return ""

    def days(self):
        total = 0
        for name, start, end in self.jobs:
            total += end - start + 1
        return total


def plan(first, jobs, ask):
    dock = Dock(first)
    for name, length in jobs:
        dock.add(name, length)
    return dock.jobs, dock.busy(ask), dock.days()
