class Tank:
    def __init__(self, name, size, level=0):
        self.name = name
        self.size = size
        self.level = level

    def room(self):
        return self.size - self.level

    def fill(self, amount):
        taken = min(amount, self.room())
        self.level += taken
        return amount - taken

    def drain(self, amount):
        given = min(amount, self.level)
        self.level -= given
        return given


def pour(source, target, amount):
    given = source.drain(amount)
    back = target.fill(given)
    source.fill(back)
    return given - back


def cascade(tanks, amount):
    for tank in tanks:
        amount = tank.fill(amount)
        if amount == 0:
            break
    return amount


def day(sizes, rain, uses):
    tanks = [Tank(f"t{n}", size) for n, size in enumerate(sizes, 1)]
    spilt = 0
    short = []
    for hour, (fell, used) in enumerate(zip(rain, uses)):
        spilt += cascade(tanks, fell)
        for tank in reversed(tanks):
            used -= tank.drain(used)
        if used > 0:
            short.append((hour, used))
    return [t.level for t in tanks], spilt, short


def moved(levels, amount):
    a, b = Tank("a", 10, levels[0]), Tank("b", 5, levels[1])
    return pour(a, b, amount), a.level, b.level
