def free_runs(row):
    runs = []
    start = None
    for place, seat in enumerate(row):
        if seat == "." and start is None:
            start = place
        elif seat != "." and start is not None:
            runs.append((start, place - start))
            start = None
    if start is not None:
        runs.append((start, len(row) - start))
    return runs


def best_place(rows, party):
    best = None
    for number, row in enumerate(rows, 1):
        for start, length in free_runs(row):
            if length < party:
                continue
            waste = length - party
            if best is None or waste < best[0]:
                best = (waste, number, start)
    return best


def seat(rows, party):
    found = best_place(rows, party)
    if found is None:
        return "no room", rows
    waste, number, start = found
    row = rows[number - 1]
    taken = row[:start] + "x" * party + row[start + party:]
    return f"row {number}, seat {start + 1}", rows[:number - 1] + [taken] + rows[number:]


def evening(rows, parties):
    told = []
    for party in parties:
        answer, rows = seat(rows, party)
        told.append(answer)
    return told, rows
