"""Picks out the latest and the earliest of the sailings of a day."""


def earliest(times):
    first = times[0]
    for time in times:
        if time < first:
            first = time
    return first


def sort_times(times):
    result = list(times)
    for i in range(len(result)):
        for j in range(i + 1, len(result)):
            if result[j] < result[i]:
                hold = result[i]
                result[i] = result[j]
                result[j] = hold
    return result


def gaps(times):
    times = sort_times(times)
    found = []
    for i in range(1, len(times)):
        found.append(times[i] - times[i - 1])
    return found
