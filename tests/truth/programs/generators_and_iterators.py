def steps(top):
    n = 0
    while n < top:
        yield n
        n += 1


def both():
    yield "first"
    yield from steps(2)
    yield "last"


class Tide:
    def __init__(self, hours):
        self.hours = hours

    def __iter__(self):
        return self

    def __next__(self):
        if self.hours == 0:
            raise StopIteration
        self.hours -= 1
        return self.hours


seen = []
for n in steps(3):
    seen.append(n)
for word in both():
    seen.append(word)
for hour in Tide(2):
    seen.append(hour)
source = steps(5)
first = next(source)
second = next(source)
for n in source:
    if n == 3:
        break
rest = list(Tide(3))
last = next(Tide(0), "none")
squares = sum(n * n for n in steps(4))
print(seen, first, second, rest, last, squares)
