class Book:
    def __init__(self, title, copies=1):
        self.title = title
        self.copies = copies
        self.queue = []


class Desk:
    def __init__(self):
        self.books = {}
        self.lent = {}

    def add(self, title, copies=1):
        if title in self.books:
            self.books[title].copies += copies
        else:
            self.books[title] = Book(title, copies)

    def lend(self, title, who):
        book = self.books.get(title)
        if book is None:
            return "unknown"
        if book.copies == 0:
            book.queue.append(who)
            return f"waits at {len(book.queue)}"
        book.copies -= 1
        self.lent.setdefault(who, []).append(title)
        return "lent"

    def bring_back(self, title, who):
        if title not in self.lent.get(who, []):
            return "not lent"
        self.lent[who].remove(title)
        book = self.books[title]
        book.copies += 1
        if book.queue:
            return f"now {book.queue[0]}: " + self.lend(title, book.queue.pop(0))
        return "back"


def day(stock, events):
    desk = Desk()
    for title, copies in stock:
        desk.add(title, copies)
    told = []
    for what, title, who in events:
        told.append(desk.lend(title, who) if what == "lend" else desk.bring_back(title, who))
    return told, {who: len(titles) for who, titles in desk.lent.items() if titles}
