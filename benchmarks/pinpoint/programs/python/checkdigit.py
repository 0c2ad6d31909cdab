def digits(text):
    return [int(sign) for sign in text if sign.isdigit()]


def check_digit(text):
    total = 0
    for place, digit in enumerate(reversed(digits(text))):
        if place % 2 == 0:
            digit *= 2
            if digit > 9:
                digit -= 9
        total += digit
    return (10 - total % 10) % 10


def ticket_number(island, number):
    body = f"{island:02d}{number:05d}"
    return f"{body[:2]}-{body[2:]}-{check_digit(body)}"


def is_good(ticket):
    body, last = ticket[:-1], ticket[-1]
    return check_digit(body) == int(last)


def sell(island, numbers):
    made = [ticket_number(island, n) for n in numbers]
    return made, [is_good(t) for t in made], is_good("07-00012-0")
