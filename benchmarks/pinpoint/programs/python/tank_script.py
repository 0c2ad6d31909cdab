"""Follows the level of a fuel tank through a list of moves."""
level = float(input("Level? "))
moves = int(input("Moves? "))
low = level
used = 0
for _ in range(moves):
    amount = float(input("Change? "))
    level += amount
    if amount < 0:
        used -= amount
    if level < low:
        low = level
print("level", round(level, 1))
print("lowest", round(low, 1))
print("used", round(used, 1))
