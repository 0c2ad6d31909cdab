def minutes(clock):
    hours, rest = clock.split(":")
    return int(hours) * 60 + int(rest)


def told(total):
    return f"{total // 60}:{total % 60:02d}"


inside = {}
stays = {}
line = input()
while line != "end":
    clock, what, car = line.split()
    if what == "in":
        inside[car] = minutes(clock)
    elif car in inside:
        stay = minutes(clock) - inside.pop(car)
        stays[car] = stays.get(car, 0) + stay
    else:
        print("never came in:", car)
    line = input()

for car in sorted(stays, key=lambda c: (-stays[c], c)):
    print(car, told(stays[car]))
print("still inside:", len(inside))
if stays:
    longest = max(stays.values())
    print("longest:", told(longest))
