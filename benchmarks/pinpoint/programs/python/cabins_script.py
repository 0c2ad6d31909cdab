"""Gives out cabins for the night boat from typed requests, then prints the list."""
SIZES = [2, 2, 4, 4, 6]
taken = [0, 0, 0, 0, 0]
names = ["", "", "", "", ""]
refused = 0


def first_fit(people):
    """Index of the smallest free cabin that is large enough, -1 when there is none."""
    for i in range(len(SIZES)):
        if taken[i] == 0 and SIZES[i] >= people:
            return i
    return -1


def price(people, cabin):
    cost = 20 + 8 * people
    empty = SIZES[cabin] - people
    if empty > 1:
        cost += 5 * empty
    return cost


takings = 0
request = input("Name and people, or end: ")
while request != "end":
    parts = request.split()
    people = int(parts[1])
    cabin = first_fit(people)
    if cabin == -1:
        refused += 1
        print("Sorry,", parts[0])
    else:
        taken[cabin] = people
        names[cabin] = parts[0]
        takings += price(people, cabin)
    request = input("Name and people, or end: ")

for i in range(len(SIZES)):
    if taken[i] > 0:
        print("Cabin", i + 1, names[i], taken[i])
beds = sum(SIZES)
used = sum(taken)
print("Beds used:", used, "of", beds)
print("Takings:", takings)
print("Refused:", refused)
