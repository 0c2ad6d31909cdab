"""Counts the buoys along a line, in nested steps."""


def chain(depth):
    if depth == 0:
        return 1
    return 2 * chain(depth - 1)


def total(depth):
    if depth == 0:
        return 0
    return chain(depth) + total(depth - 1)


def digits(number):
    if number < 10:
        return number
    return number % 10 + digits(number // 10)
