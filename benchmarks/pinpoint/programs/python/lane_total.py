"""Metres of car on each lane, and the lane with most room."""


def lane_total(lengths):
    total = 0
    for i in range(len(lengths)):
        total = total + lengths[i]
    return total


def roomiest(lanes, size):
    best = 0
    for number in range(1, len(lanes)):
        left = size - lane_total(lanes[number])
        if left > size - lane_total(lanes[best]):
            best = number
    return best
