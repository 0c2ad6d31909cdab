"""Takes cancelled names off the list and counts what is left."""


def clear(names, cancelled):
    for name in names[:]:
        if name in cancelled:
            names.remove(name)
    return names


def merge(first, second):
    result = first[:]
    for name in second:
        if name not in result:
            result.append(name)
    return result


def changed(first, second):
    both = merge(first, second)
    return len(both) - len(first), first
