from __future__ import annotations
"""not a docstring"""
fares = {
    "child": 3,
    "adult": 6,
}
total = sum(
    fares[kind]
    for kind in
    ["child",
     "adult"]
)
text = (f"{total}"
        " in all")
if (total > 3
        and text):
    print(
        text,
        total,
    )
@(lambda f: f)
def plain(a,
          b=2):
    """Doc."""
    return (a +
            b)
print(plain(
    1), plain.__doc__, end=""
)
exit(3)
