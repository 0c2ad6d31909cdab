def minutes(text):
    hours, mins = text.split(":")
    return int(hours) * 60 + int(mins)


def clock(total):
    return f"{total // 60 % 24:02d}:{total % 60:02d}"


def worked(start, end, pause):
    time = minutes(end) - minutes(start)
    if time < 0:
        time += 24 * 60
    if time > 6 * 60:
        time -= pause
    return time


def pay(start, end, pause=30, rate=12):
    time = worked(start, end, pause)
    normal = min(time, 8 * 60)
    extra = time - normal
    return round((normal + extra * 1.5) / 60 * rate, 2)


def sheet(rows):
    made = []
    total = 0
    for name, start, end in rows:
        time = worked(start, end, 30)
        total += time
        made.append(f"{name} {clock(time)} {pay(start, end):.2f}")
    return made, clock(total)
