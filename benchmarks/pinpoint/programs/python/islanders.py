"""Who may ride at the islanders' price."""


def is_resident(person):
    return person["island"] and not person["visitor"]


def price(person, month):
    cost = 8
    if is_resident(person):
        cost = 5
    if month in (6, 7, 8) and not is_resident(person):
        cost += 2
    return cost


def household(people, month):
    cost = 0
    for person in people:
        cost += price(person, month)
    return cost
