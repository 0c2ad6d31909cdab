# lighthouse.py: the sign over the ticket office, a lighthouse with its beam

import turtle


def tower(pen, wide, high):
    """The tower, from its lower left corner and back there."""
    pen.forward(wide)
    pen.left(90)
    pen.forward(high)
    pen.left(90)
    pen.forward(wide)
    pen.left(90)
    pen.forward(high)
    pen.left(90)


def lamp(pen, wide):
    """The roof over the lamp, from its left end to its right."""
    pen.left(60)
    pen.forward(wide)
    pen.left(120)
    pen.forward(wide)


def beam(pen, length):
    """Two rays from where the pen is."""
    for turn in (10, -10):
        pen.setheading(turn)
        pen.forward(length)
        pen.back(length)


pen = turtle.Turtle()
pen.speed(0)
tower(pen, 40, 120)
pen.penup()
pen.goto(0, 120)
pen.pendown()
lamp(pen, 40)
pen.penup()
pen.goto(40, 130)
pen.pendown()
beam(pen, 100)
turtle.done()
