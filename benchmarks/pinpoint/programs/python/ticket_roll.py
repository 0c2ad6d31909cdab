"""Finds gaps and doubles in the numbers of sold tickets, and checks their last digit."""


def check_digit(number):
    total = 0
    place = 1
    while number > 0:
        total += number % 10 * place
        number //= 10
        place += 1
    return total % 7


def valid(ticket):
    return check_digit(ticket // 10) == ticket % 10


def doubles(tickets):
    seen = set()
    twice = []
    for ticket in tickets:
        if ticket in seen and ticket not in twice:
            twice.append(ticket)
        seen.add(ticket)
    return twice


def missing(tickets):
    gone = []
    ordered = sorted(tickets)
    for i in range(len(ordered) - 1):
        for number in range(ordered[i] + 1, ordered[i + 1]):
            gone.append(number)
    return gone


def count_valid(tickets):
    good = 0
    for ticket in tickets:
        if valid(ticket):
            good += 1
    return good
