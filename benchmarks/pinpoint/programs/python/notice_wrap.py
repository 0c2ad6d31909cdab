def wrap(text, width):
    lines = []
    line = ""
    for word in text.split():
        if line and len(line) + 1 + len(word) > width:
            lines.append(line)
            line = word
        elif line:
            line += " " + word
        else:
            line = word
    if line:
        lines.append(line)
    return lines


def centred(line, width):
    left = (width - len(line)) // 2
    return " " * left + line + " " * (width - len(line) - left)


def notice(text, width):
    edge = "+" + "-" * (width + 2) + "+"
    shown = [edge]
    for line in wrap(text, width):
        shown.append("| " + centred(line, width) + " |")
    shown.append(edge)
    return "\n".join(shown)


width = int(input("Width: "))
text = input("Notice: ")
print(notice(text, width))
print(len(wrap(text, width)), "lines")
