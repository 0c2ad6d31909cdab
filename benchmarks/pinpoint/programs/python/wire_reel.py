"""A reel of cable is cut into lengths."""


def cuts(reel, wanted):
    made = []
    for length in wanted:
        if length > reel:
            break
        made.append(length)
        reel -= length
    return made, reel


def pieces(reel, length):
    count = 0
    while reel >= length:
        reel -= length
        count += 1
    return count, reel


def longest_even(lengths):
    longest = None
    for length in lengths:
        if length % 2 != 0:
            continue
        if longest is None or length > longest:
            longest = length
    return longest
