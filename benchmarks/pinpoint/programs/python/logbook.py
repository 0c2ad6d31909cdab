"""The log of a ferry: entries are added, the log is read."""


def add_entry(text, log=None):
    if log is None:
        log = []
    log.append(text)
    return log


def two_logs(first, second):
    one = add_entry(first)
    two = add_entry(second)
    return one, two


def last_words(log):
    words = []
    for entry in log:
        words.append(entry.split()[-1])
    return words
