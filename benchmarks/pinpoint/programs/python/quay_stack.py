PAIRS = {")": "(", "]": "[", "}": "{"}


def balanced(text):
    waiting = []
    for place, sign in enumerate(text, 1):
        if sign in PAIRS.values():
            waiting.append((sign, place))
        elif sign in PAIRS:
            if not waiting or waiting[-1][0] != PAIRS[sign]:
                return place
            waiting.pop()
    return waiting[0][1] if waiting else 0


def moves(crates, target):
    stack = list(crates)
    aside = []
    while stack and stack[-1] != target:
        aside.append(stack.pop())
    if not stack:
        return None
    stack.pop()
    while aside:
        stack.append(aside.pop())
    return stack


def sorted_by_two(crates):
    waiting = list(crates)
    done = []
    steps = 0
    while waiting:
        crate = waiting.pop()
        while done and done[-1] > crate:
            waiting.append(done.pop())
            steps += 1
        done.append(crate)
        steps += 1
    return done, steps
