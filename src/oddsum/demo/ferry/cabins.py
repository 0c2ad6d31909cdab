# cabins.py: who sleeps where on the night boat


def empty_plan(decks, cabins):
    """A plan of free cabins: a row for each deck."""
    row = []
    for cabin in range(cabins):
        row.append("free")
    plan = []
    for deck in range(decks):
        plan.append(row)
    return plan


def give(plan, deck, cabin, name):
    """Write a guest into a cabin; decks and cabins count from 0."""
    if plan[deck][cabin] != "free":
        return False
    plan[deck][cabin] = name
    return True


def free_cabins(plan):
    """How many cabins are free."""
    count = 0
    for row in plan:
        for cabin in row:
            if cabin == "free":
                count = count + 1
    return count
