"""Decides whether the ferry sails."""


def sails(wind, waves, fog):
    if fog:
        return False
    if wind > 9 or waves > 3:
        return False
    return True


def days_out(reports):
    out = 0
    for wind, waves, fog in reports:
        if not sails(wind, waves, fog):
            out += 1
    return out


def longest_run(reports):
    longest = 0
    run = 0
    for wind, waves, fog in reports:
        if sails(wind, waves, fog):
            run += 1
            if run > longest:
                longest = run
        else:
            run = 0
    return longest
