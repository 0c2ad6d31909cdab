MILE = 1.852


def hours(miles, knots):
    """Hours a crossing takes."""
    return miles / knots


def fuel(miles, knots, rate):
    """Litres burned: the rate is per hour at ten knots, and grows with the square of the speed."""
    return rate * hours(miles, knots) * (knots / 10) ** 2


def cost(miles, knots, rate, price):
    litres = fuel(miles, knots, rate)
    return round(litres * price / 100, 2)


def kilometres(miles):
    return round(miles * MILE, 1)


def report(miles, knots, rate, price):
    minutes = hours(miles, knots) * 60
    return f"{kilometres(miles)} km in {minutes:.0f} min, {cost(miles, knots, rate, price):.2f} marks"
