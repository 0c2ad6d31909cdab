def minutes(clock):
    hours, mins = clock.split(":")
    return int(hours) * 60 + int(mins)


def clock(total):
    total = total % (24 * 60)
    return f"{total // 60:02d}:{total % 60:02d}"


def arrival(leaves, takes):
    return clock(minutes(leaves) + takes)


def between(first, last):
    gap = minutes(last) - minutes(first)
    if gap < 0:
        gap += 24 * 60
    return gap


def longest_wait(times):
    longest = 0
    for number in range(len(times) - 1):
        wait = between(times[number], times[number + 1])
        if wait > longest:
            longest = wait
    return longest


def sheet(times, takes):
    lines = [f"{t} {arrival(t, takes)}" for t in times]
    lines.append(f"longest wait {longest_wait(times)}")
    return lines
