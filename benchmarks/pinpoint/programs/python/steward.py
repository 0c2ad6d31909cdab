"""Hands out meals by cabin, keeping a menu for each."""


def orders(cabins):
    menu = {"soup": 0, "fish": 0}
    for cabin in cabins:
        for meal in cabin["meals"]:
            if meal in menu:
                menu[meal] += 1
    return menu


def copies(menu, count):
    result = []
    for _ in range(count):
        result.append(dict(menu))
    return result


def with_extra(menu, count, which, meal):
    menus = copies(menu, count)
    menus[which][meal] += 1
    return menus
