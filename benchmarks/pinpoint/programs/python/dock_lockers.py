def toggled(count, walks):
    doors = [False] * (count + 1)
    for step in range(1, walks + 1):
        for door in range(step, count + 1, step):
            doors[door] = not doors[door]
    return [number for number in range(1, count + 1) if doors[number]]


def codes(owner, numbers):
    made = {}
    for number in numbers:
        letters = owner[:2].upper()
        made[number] = f"{letters}{number * 7 % 100:02d}"
    return made


def free(count, walks, taken):
    opened = toggled(count, walks)
    return [number for number in opened if number not in taken]


def hand_out(count, walks, people):
    taken = []
    given = {}
    for person in people:
        places = free(count, walks, taken)
        if not places:
            given[person] = None
            continue
        given[person] = codes(person, [places[0]])[places[0]]
        taken.append(places[0])
    return given
