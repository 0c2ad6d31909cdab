"""What one passenger pays, by age, with a discount for islanders."""


def fare(age, islander):
    if age < 4:
        price = 0
    elif age < 16:
        price = 3
    elif age >= 65:
        price = 4
    else:
        price = 6
    if islander and price > 0:
        price = price - 1
    return price
