def longest_calm(winds, limit):
    best_start, best_length = 0, 0
    start = 0
    for day, wind in enumerate(winds):
        if wind > limit:
            start = day + 1
            continue
        length = day - start + 1
        if length > best_length:
            best_start, best_length = start, length
    return best_start, best_length


def mean(values):
    return sum(values) / len(values) if values else 0.0


def smooth(winds, width):
    made = []
    for day in range(len(winds)):
        first = max(0, day - width + 1)
        made.append(round(mean(winds[first:day + 1]), 1))
    return made


def forecast(winds, limit, width):
    start, length = longest_calm(winds, limit)
    calm = winds[start:start + length]
    return start, length, round(mean(calm), 1), smooth(winds, width)
