"""A formula in words as one of a spreadsheet: the same phrases, over cells in the place of names."""

from __future__ import annotations

import ast
import re
from collections.abc import Mapping, Sequence

# Each phrase of a formula as a call, which is then written as the spreadsheet's own.
_PHRASES = (
    (r"\bsum of (@\d+)", r"SUM_(\1)"),
    (r"\bmean of (@\d+)", r"AVERAGE_(\1)"),
    (r"\bproduct of (@\d+)", r"PRODUCT_(\1)"),
    (r"\bstandard deviation of (@\d+)", r"STDEV_(\1)"),
    (r"\bthe smaller of \(", "MIN_("),
    (r"\bthe larger of \(", "MAX_("),
    (r"\broot of \(?(@\d+)\)?", r"SQRT_(\1)"),
    (r"\bwhole part of (@\d+)", r"WHOLE_(\1)"),
    (r"^(.*) taken up to a multiple of (@\d+|\d+)$", r"TO_STEP_(\1, \2)"),
    (r"^(.*) taken up to the next of (@\d+)$", r"TO_NEXT_(\1, \2)"),
)
_SIGNS: dict[type[ast.operator], str] = {ast.Add: "+", ast.Sub: "-", ast.Mult: "*", ast.Div: "/", ast.Pow: "^"}
# What doubles leave of a division: an exact 9.80 is never 9.90.
_DUSTLESS = 9


class NoFormula(ValueError):
    """Words that no formula of a spreadsheet can be made of."""


def cell_formula(words: str, cells: Mapping[str, Sequence[str]]) -> str:
    """The words of a formula over cells: each name with its cells, which lie below one another.

    >>> cell_formula("EP / product of yields", {"EP": ["B2"], "yields": ["B3", "B4"]})
    'B2/PRODUCT(B3:B4)'
    >>> cell_formula("net price * (1 + tax rate) taken up to a multiple of step", {"net price": ["B2"], "tax rate": ["B3"],
    ... "step": ["B4"]})
    'ROUND(ROUNDUP(ROUND((B2*(1+B3))/B4,9),0)*B4,9)'
    """
    text, names = words.replace("²", "**2"), sorted(cells, key=len, reverse=True)
    for place, name in enumerate(names):
        text = re.sub(rf"(?<![\w@-]){re.escape(name)}(?![\w-])", f"@{place}", text)
    for phrase, call in _PHRASES:
        text = re.sub(phrase, call, text)
    try:
        tree = ast.parse(text.replace("@", "cell_"), mode="eval")
    except SyntaxError:
        raise NoFormula(words) from None
    return _written(tree.body, {f"cell_{place}": cells[name] for place, name in enumerate(names)}, words)


def _written(node: ast.expr, cells: Mapping[str, Sequence[str]], words: str) -> str:
    match node:
        case ast.Name(id=name) if name in cells:
            return _range(cells[name])
        case ast.Constant(value=number):
            return str(number)
        case ast.UnaryOp(op=ast.USub(), operand=operand):
            return f"-{_operand(operand, cells, words)}"
        case ast.BinOp(left=left, op=op, right=right) if type(op) in _SIGNS:
            sign = _SIGNS[type(op)]
            left_text, right_text = _written(left, cells, words), _written(right, cells, words)
            if isinstance(left, ast.BinOp) and sign in "*/^" and isinstance(left.op, ast.Add | ast.Sub):
                left_text = f"({left_text})"
            if isinstance(right, ast.BinOp) and (sign in "/^" or (sign in "*-" and isinstance(right.op, ast.Add | ast.Sub))):
                right_text = f"({right_text})"
            return f"{left_text}{sign}{right_text}"
        case ast.Call(func=ast.Name(id="WHOLE_"), args=[one]):
            return f"INT(ROUND({_written(one, cells, words)},{_DUSTLESS}))"
        case ast.Call(func=ast.Name(id="TO_STEP_"), args=[one, step]):
            by = _written(step, cells, words)
            return f"ROUND(ROUNDUP(ROUND(({_written(one, cells, words)})/{by},{_DUSTLESS}),0)*{by},{_DUSTLESS})"
        case ast.Call(func=ast.Name(id="TO_NEXT_"), args=[one, ast.Name(id=name)]):
            value = _written(one, cells, words)
            ends = [f"ROUNDUP(ROUND(({value})-{cell},{_DUSTLESS}),0)+{cell}" for cell in cells[name]]
            return f"ROUND(MIN({','.join(ends)}),{_DUSTLESS})"
        case ast.Call(func=ast.Name(id=name), args=given):
            return f"{name.rstrip('_')}({','.join(_written(one, cells, words) for one in given)})"
    raise NoFormula(words)


def _operand(node: ast.expr, cells: Mapping[str, Sequence[str]], words: str) -> str:
    text = _written(node, cells, words)
    return f"({text})" if isinstance(node, ast.BinOp) else text


def _range(cells: Sequence[str]) -> str:
    return cells[0] if len(cells) == 1 else f"{cells[0]}:{cells[-1]}"
