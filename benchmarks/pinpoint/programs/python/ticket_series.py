def numbers(start):
    number = start
    while True:
        yield number
        number += 1


def with_check(series):
    for number in series:
        total = sum(int(d) for d in str(number))
        yield f"{number:04d}-{total % 9}"


def without(series, banned):
    for number in series:
        if not any(part in str(number) for part in banned):
            yield number


def take(series, amount):
    taken = []
    for item in series:
        if len(taken) == amount:
            break
        taken.append(item)
    return taken


def roll(start, amount, banned=()):
    return take(with_check(without(numbers(start), banned)), amount)


def split(tickets, size):
    return [tickets[at:at + size] for at in range(0, len(tickets), size)]
