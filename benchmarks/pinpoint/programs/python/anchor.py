"""How much chain to let out, by depth and wind."""


def chain_length(depth, wind):
    length = depth * 3
    if wind > 5:
        length = depth * 5
    if length < 10:
        length = 10
    return length


def enough(depth, wind, have):
    return have >= chain_length(depth, wind)


def spare(depths, have):
    worst = 0
    for depth in depths:
        need = chain_length(depth, 0)
        worst = max(worst, need)
    return have - worst
