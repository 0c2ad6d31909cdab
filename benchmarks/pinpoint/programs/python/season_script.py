"""Reads passengers month by month and prints the season's figures."""
months = ["Jan", "Feb", "Mar", "Apr"]
figures = []
for month in months:
    figures.append(int(input(month + "? ")))
total = 0
best = figures[0]
best_month = months[0]
for i in range(len(figures)):
    total = total + figures[i]
    if figures[i] > best:
        best = figures[i]
        best_month = months[i]
average = total / len(figures)
above = 0
for figure in figures:
    if figure > average:
        above = above + 1
print("Total", total)
print("Best", best_month, best)
print("Average", average)
print("Above", above)
