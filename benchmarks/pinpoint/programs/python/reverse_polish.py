def work_out(text):
    stack = []
    for piece in text.split():
        if piece in "+-*/":
            right = stack.pop()
            left = stack.pop()
            if piece == "+":
                stack.append(left + right)
            elif piece == "-":
                stack.append(left - right)
            elif piece == "*":
                stack.append(left * right)
            else:
                stack.append(left // right)
        else:
            stack.append(int(piece))
    return stack.pop()


def depth(text):
    deepest = 0
    now = 0
    for piece in text.split():
        if piece in "+-*/":
            now -= 1
        else:
            now += 1
            deepest = max(deepest, now)
    return deepest


def answer(text):
    return work_out(text), depth(text)
