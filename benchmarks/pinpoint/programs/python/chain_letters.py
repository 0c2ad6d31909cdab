def linked(words):
    return all(a[-1] == b[0] for a, b in zip(words, words[1:]))


def longest_from(word, others):
    best = [word]
    for place, other in enumerate(others):
        if other[0] == word[-1]:
            rest = others[:place] + others[place + 1:]
            tried = [word] + longest_from(other, rest)
            if len(tried) > len(best):
                best = tried
    return best


def longest(words):
    best = []
    for place, word in enumerate(words):
        chain = longest_from(word, words[:place] + words[place + 1:])
        if len(chain) > len(best):
            best = chain
    return best


def groups(words):
    found = {}
    for word in words:
        found.setdefault(word[0], []).append(word)
    return {letter: sorted(group, key=len) for letter, group in sorted(found.items())}
