def spiral(grid):
    walked = []
    top, left = 0, 0
    bottom, right = len(grid) - 1, len(grid[0]) - 1
    while top <= bottom and left <= right:
        for column in range(left, right + 1):
            walked.append(grid[top][column])
        top += 1
        for row in range(top, bottom + 1):
            walked.append(grid[row][right])
        right -= 1
        if top <= bottom:
            for column in range(right, left - 1, -1):
                walked.append(grid[bottom][column])
            bottom -= 1
        if left <= right:
            for row in range(bottom, top - 1, -1):
                walked.append(grid[row][left])
            left += 1
    return walked


def fill(rows, columns):
    grid = []
    number = 1
    for _ in range(rows):
        line = []
        for _ in range(columns):
            line.append(number)
            number += 1
        grid.append(line)
    return grid


def deck(rows, columns):
    return spiral(fill(rows, columns))
