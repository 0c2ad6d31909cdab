"""Writes a receipt with a line for each thing sold."""


def receipt(items):
    lines = []
    total = 0
    for name, count, price in items:
        cost = count * price
        total += cost
        lines.append(f"{name}: {cost}")
    lines.append(f"Total: {total}")
    return "\n".join(lines)


def change(total, paid):
    coins = []
    left = paid - total
    for coin in [10, 5, 2, 1]:
        while left >= coin:
            coins.append(coin)
            left -= coin
    return coins
