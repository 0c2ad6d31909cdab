def pages(names, size):
    made = []
    page = []
    for name in names:
        page.append(name)
        if len(page) == size:
            made.append(page)
            page = []
    if page:
        made.append(page)
    return made


def page_of(name, names, size):
    for number, page in enumerate(pages(names, size), 1):
        if name in page:
            return number
    return 0


def footer(number, names, size):
    last = len(pages(names, size))
    if last == 0:
        return "no pages"
    return f"page {number} of {last}"


def book(names, size, wanted):
    number = page_of(wanted, names, size)
    return pages(names, size), number, footer(number, names, size)
