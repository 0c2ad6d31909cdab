BANDS = [(10, 2.0), (25, 1.5), (50, 1.0)]
ABOVE = 0.5


def dues(tonnes):
    owed = 0.0
    below = 0
    for limit, rate in BANDS:
        if tonnes > limit:
            owed += (limit - below) * rate
        else:
            owed += (tonnes - below) * rate
            return round(owed, 2)
        below = limit
    owed += (tonnes - below) * ABOVE
    return round(owed, 2)


def bill(ships):
    lines = []
    total = 0.0
    for name, tonnes, nights in ships:
        owed = dues(tonnes) * nights
        if nights >= 7:
            owed = owed * 0.9
        total += owed
        lines.append(f"{name}: {owed:.2f}")
    lines.append(f"total: {total:.2f}")
    return lines
