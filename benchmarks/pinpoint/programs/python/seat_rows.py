"""A plan of the seats: which are free, and how many in each row."""


def free_in_rows(plan):
    counts = []
    for row in plan:
        free = 0
        for seat in row:
            if seat == ".":
                free += 1
        counts.append(free)
    return counts


def seat_at(plan, row, place):
    return plan[row - 1][place - 1]


def column(plan, place):
    seats = ""
    for row in range(len(plan)):
        seats += plan[row][place]
    return seats
