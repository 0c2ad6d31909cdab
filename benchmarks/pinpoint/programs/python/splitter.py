"""Splits takings between the partners and keeps the rest."""


def shares(amount, people):
    if people == 0:
        return [], amount
    each = amount // people
    rest = amount % people
    result = []
    for number in range(people):
        if number < rest:
            result.append(each + 1)
        else:
            result.append(each)
    return result, amount - sum(result)


def percent(part, whole):
    if whole == 0:
        return 0
    return round(part * 100 / whole, 1)
