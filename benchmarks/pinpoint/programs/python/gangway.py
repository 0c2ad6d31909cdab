"""Lets people on in groups, and keeps count of what is left."""


def groups(people, size):
    result = []
    start = 0
    while start < people:
        result.append(min(size, people - start))
        start += size
    return result


def board(queue, places):
    on = []
    while queue and len(on) < places:
        on.append(queue.pop(0))
    return on, queue
