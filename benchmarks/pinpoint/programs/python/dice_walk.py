def moves(board, throws):
    place = 0
    path = [place]
    for throw in throws:
        goal = place + throw
        if goal > len(board):
            goal = len(board) - (goal - len(board))
        place = goal
        jump = board.get(place) if isinstance(board, dict) else board[place - 1]
        if jump:
            place += jump
        path.append(place)
        if place == len(board):
            break
    return path


def turns(count, throws):
    order = list(range(count))
    sums = [0] * count
    at = 0
    for throw in throws:
        who = order[at]
        sums[who] += throw
        if throw != 6:
            at = (at + 1) % count
    return sums


def winner(sums, target):
    best = None
    for who, total in enumerate(sums):
        if total <= target and (best is None or total > sums[best]):
            best = who
    return best
