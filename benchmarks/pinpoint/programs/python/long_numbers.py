def digits(text):
    return [int(d) for d in reversed(text)]


def text_of(places):
    while len(places) > 1 and places[-1] == 0:
        places = places[:-1]
    return "".join(str(d) for d in reversed(places))


def plus(one, other):
    a, b = digits(one), digits(other)
    made = []
    carry = 0
    for place in range(max(len(a), len(b))):
        here = carry
        if place < len(a):
            here += a[place]
        if place < len(b):
            here += b[place]
        made.append(here % 10)
        carry = here // 10
    if carry:
        made.append(carry)
    return text_of(made)


def times(one, digit):
    made = []
    carry = 0
    for d in digits(one):
        here = d * digit + carry
        made.append(here % 10)
        carry = here // 10
    if carry > 0:
        made.append(carry)
    return text_of(made)


def product(one, other):
    total = "0"
    for place, digit in enumerate(digits(other)):
        total = plus(total, times(one, digit) + "0" * place)
    return total
