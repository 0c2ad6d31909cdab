"""An expression with the parentheses that Python puts there in its mind."""

from __future__ import annotations

import ast

from oddsum.languages.python.parsing import module_of

_GROUPS = (ast.BinOp, ast.BoolOp, ast.Compare, ast.UnaryOp, ast.IfExp)


def grouped(line: str) -> str:
    """A line's expression with every operation in parentheses; blank where it has fewer than two.

    ``2 + 2 / 2`` becomes ``2 + (2 / 2)``. The outermost operation needs none.
    """
    expression = _expression_of(line.strip())
    if expression is None:
        return ""
    inner = [n for n in ast.walk(expression) if isinstance(n, _GROUPS)]
    return _written(expression) if len(inner) > 1 else ""


def _expression_of(line: str) -> ast.expr | None:
    for text in (line, line + "\n    pass", "while 0:\n    pass\n" + line):
        try:
            statement = module_of(text).body[-1]
        except (SyntaxError, ValueError, IndexError):
            continue
        for field in ("value", "test", "iter"):
            found = getattr(statement, field, None)
            if isinstance(found, ast.expr):
                return found
    if line.startswith("elif "):
        return _expression_of(line[2:])
    return None


def _written(node: ast.expr) -> str:
    """The expression, its parts in parentheses where they are operations themselves."""
    if not isinstance(node, _GROUPS):
        inner = _Marked().visit(node)
        return ast.unparse(inner)
    if isinstance(node, ast.BinOp):
        return f"{_inside(node.left)} {_sign(node.op)} {_inside(node.right)}"
    if isinstance(node, ast.BoolOp):
        word = " and " if isinstance(node.op, ast.And) else " or "
        return word.join(_inside(v) for v in node.values)
    if isinstance(node, ast.UnaryOp):
        sign = ast.unparse(ast.UnaryOp(node.op, ast.Name("x", ast.Load())))[:-1]
        return sign + _inside(node.operand)
    if isinstance(node, ast.Compare):
        signs = [ast.unparse(ast.Compare(ast.Name("x"), [s], [ast.Name("y")]))[2:-2]
                 for s in node.ops]  # fmt: skip
        pairs = zip(signs, node.comparators, strict=True)
        return _inside(node.left) + "".join(f" {s} {_inside(c)}" for s, c in pairs)
    return f"{_inside(node.body)} if {_inside(node.test)} else {_inside(node.orelse)}"


def _inside(node: ast.expr) -> str:
    text = _written(node)
    return f"({text})" if isinstance(node, _GROUPS) else text


def _sign(sign: ast.operator) -> str:
    return ast.unparse(ast.BinOp(ast.Name("x", ast.Load()), sign, ast.Name("y", ast.Load())))[2:-2]


class _Marked(ast.NodeTransformer):
    """Writes operations inside of calls and indexes with their parentheses, as names would be."""

    def visit(self, node: ast.AST) -> ast.AST:
        if isinstance(node, _GROUPS):
            return ast.Name(_written(node), ast.Load())
        return self.generic_visit(node)
