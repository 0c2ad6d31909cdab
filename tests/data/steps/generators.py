def times(start, step):
    now = start
    while True:
        sent = yield now
        now += sent or step


def outer():
    yield from inner()
    yield 9


def inner():
    yield 1
    yield 2


clock = times(8, 2)
print(next(clock), next(clock), clock.send(5))
for t in times(1, 1):
    if t > 2:
        break
print(list(outer()), sum(v for v in inner() if (w := v) > 1), w)
