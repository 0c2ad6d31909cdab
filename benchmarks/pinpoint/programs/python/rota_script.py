names = input("Names? ").split()
days = int(input("Days? "))
shifts = {name: 0 for name in names}
turn = 0
for day in range(1, days + 1):
    first = names[turn % len(names)]
    second = names[(turn + 1) % len(names)]
    shifts[first] += 1
    shifts[second] += 1
    print("day", day, first, second)
    turn += 2
fewest = min(shifts.values())
most = max(shifts.values())
for name in sorted(names):
    print(name, shifts[name])
if most - fewest > 1:
    print("uneven by", most - fewest)
else:
    print("even")
