def neighbours(grid, row, column):
    found = []
    for down, right in ((1, 0), (-1, 0), (0, 1), (0, -1)):
        r, c = row + down, column + right
        if 0 <= r < len(grid) and 0 <= c < len(grid[r]):
            found.append((r, c))
    return found


def flood(grid, row, column, seen):
    todo = [(row, column)]
    size = 0
    while todo:
        place = todo.pop()
        if place in seen:
            continue
        seen.add(place)
        size += 1
        for r, c in neighbours(grid, *place):
            if grid[r][c] == "#":
                todo.append((r, c))
    return size


def sizes(grid):
    seen = set()
    found = []
    for row, line in enumerate(grid):
        for column, sign in enumerate(line):
            if sign == "#" and (row, column) not in seen:
                found.append(flood(grid, row, column, seen))
    return sorted(found, reverse=True)


def chart(text):
    grid = text.split("/")
    found = sizes(grid)
    return len(found), found
