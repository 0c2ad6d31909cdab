def key(word):
    return "".join(sorted(word.lower()))


def groups(words):
    found = {}
    for word in words:
        found.setdefault(key(word), []).append(word)
    return sorted((sorted(group) for group in found.values()), key=lambda g: (-len(g), g))


def same_both_ways(text):
    letters = [c.lower() for c in text if c.isalpha()]
    left, right = 0, len(letters) - 1
    while left < right:
        if letters[left] != letters[right]:
            return False
        left += 1
        right -= 1
    return True


def chain(words):
    best = []
    for first in words:
        line = [first]
        for word in words:
            if word not in line and word[0].lower() == line[-1][-1].lower():
                line.append(word)
        if len(line) > len(best):
            best = line
    return best


def told(words):
    both = [w for w in words if same_both_ways(w)]
    return groups(words), both, chain(words)
