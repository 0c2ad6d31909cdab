"""The harbour's account book: reads entries, keeps balances, and writes a statement.

An entry is a line like 'in Skerry 40' or 'out Holm 12.50'; 'move Skerry Holm 5' shifts
money between two berths. Blank lines and lines that begin with * are remarks.
"""
import math

START = 100
FEE = 0.5
ROUND_TO = 2


def words_of(line):
    """The words of an entry; none for a remark."""
    line = line.strip()
    if line == "" or line.startswith("*"):
        return []
    return line.split()


def amount_of(text):
    amount = float(text)
    if amount < 0:
        raise ValueError("amounts are never negative")
    return amount


def new_book(names):
    book = {}
    for name in names:
        book[name] = START
    return book


def take_in(book, name, amount):
    book[name] = book[name] + amount


def pay_out(book, name, amount):
    needed = amount + FEE
    if book[name] < needed:
        return False
    book[name] = book[name] - needed
    return True


def move(book, source, target, amount):
    if pay_out(book, source, amount):
        take_in(book, target, amount)
        return True
    return False


def enter(book, line, refused):
    words = words_of(line)
    if not words:
        return 0
    kind = words[0].lower()
    amount = amount_of(words[-1])
    if kind == "in":
        take_in(book, words[1], amount)
    elif kind == "out":
        if not pay_out(book, words[1], amount):
            refused.append(line)
            return 0
    elif kind == "move":
        if not move(book, words[1], words[2], amount):
            refused.append(line)
            return 0
    else:
        refused.append(line)
        return 0
    return 1


def poorest(book):
    low = math.inf
    found = ""
    for name in sorted(book):
        if book[name] < low:
            low = book[name]
            found = name
    return found


def statement(names, lines):
    """Enter all lines; returns balances, how many were entered, the refused, and who is poorest."""
    book = new_book(names)
    refused = []
    entered = 0
    for line in lines:
        entered += enter(book, line, refused)
    rows = []
    total = 0
    for name in sorted(book):
        rows.append(name + " " + str(round(book[name], ROUND_TO)))
        total += book[name]
    return rows, round(total, ROUND_TO), entered, refused, poorest(book)
