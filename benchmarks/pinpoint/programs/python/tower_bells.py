bells = int(input("How many bells? "))
rounds = int(input("How many rounds? "))

order = list(range(1, bells + 1))
seen = [tuple(order)]
repeated = 0
strikes = 0
for number in range(rounds):
    start = number % 2
    for place in range(start, bells - 1, 2):
        order[place], order[place + 1] = order[place + 1], order[place]
    strikes += bells
    if tuple(order) in seen:
        repeated += 1
    else:
        seen.append(tuple(order))
    print(number + 1, "-".join(str(b) for b in order))

print("different:", len(seen))
print("repeated:", repeated)
home = "yes" if order == sorted(order) else "no"
print("home:", home)
print("strikes:", strikes)
