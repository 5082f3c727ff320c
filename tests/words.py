"""Reads the words of a formula and reckons with them: a second opinion on every working, which knows none of the code."""

from __future__ import annotations

import ast
import operator
import re
from collections.abc import Callable, Mapping, Sequence
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal, localcontext
from typing import Any

Value = Decimal | list[Decimal]

_BINARY: dict[type[ast.operator], Callable[[Any, Any], Any]] = {
    ast.Add: operator.add, ast.Sub: operator.sub, ast.Mult: operator.mul, ast.Div: operator.truediv, ast.Pow: operator.pow,
}  # fmt: skip


def _product(values: Sequence[Decimal]) -> Decimal:
    whole = Decimal(1)
    for one in values:
        whole *= one
    return whole


def _spread(values: Sequence[Decimal]) -> Decimal:
    mean = sum(values, Decimal(0)) / len(values)
    return (sum(((one - mean) ** 2 for one in values), Decimal(0)) / (len(values) - 1)).sqrt()


def _up_to_step(value: Decimal, step: Decimal) -> Decimal:
    return _settled(value / step).to_integral_value(ROUND_CEILING) * step


def _up_to_next(value: Decimal, ends: Sequence[Decimal]) -> Decimal:
    return min(_settled(value - end).to_integral_value(ROUND_CEILING) + end for end in ends)


def _settled(value: Decimal) -> Decimal:
    """A value without what is left over of divisions; here the reckoning has 60 digits."""
    return value.quantize(Decimal("1e-18"))


_CALLS: dict[str, Callable[..., Decimal]] = {
    "sum_of": lambda values: sum(values, Decimal(0)),
    "mean_of": lambda values: sum(values, Decimal(0)) / len(values),
    "product_of": _product,
    "spread_of": _spread,
    "smaller": min,
    "larger": max,
    "root": Decimal.sqrt,
    "whole": lambda value: _settled(value).to_integral_value(ROUND_FLOOR),
    "to_step": _up_to_step,
    "to_next": _up_to_next,
}
_PHRASES = (
    (r"\bsum of (@\d+)", r"sum_of(\1)"),
    (r"\bmean of (@\d+)", r"mean_of(\1)"),
    (r"\bproduct of (@\d+)", r"product_of(\1)"),
    (r"\bstandard deviation of (@\d+)", r"spread_of(\1)"),
    (r"\bthe smaller of \(", "smaller("),
    (r"\bthe larger of \(", "larger("),
    (r"\broot of \(?(@\d+)\)?", r"root(\1)"),
    (r"\bwhole part of (@\d+)", r"whole(\1)"),
    (r"^(.*) taken up to a multiple of (@\d+|\d+)$", r"to_step(\1, \2)"),
    (r"^(.*) taken up to the next of (@\d+)$", r"to_next(\1, \2)"),
)


def reckon(words: str, values: Mapping[str, Value]) -> Decimal:
    """What the words of a formula come to; `values` are by the names that stand in the words."""
    text, names = words.replace("²", "**2"), sorted(values, key=len, reverse=True)
    for place, name in enumerate(names):
        text = re.sub(rf"(?<![\w@-]){re.escape(name)}(?![\w-])", f"@{place}", text)
    for phrase, call in _PHRASES:
        text = re.sub(phrase, call, text)
    tree = ast.parse(text.replace("@", "value_"), mode="eval")
    with localcontext() as context:
        context.prec = 60
        found = _value(tree.body, {f"value_{place}": values[name] for place, name in enumerate(names)})
    assert isinstance(found, Decimal), words
    return found


def _value(node: ast.expr, values: Mapping[str, Value]) -> Value:
    match node:
        case ast.Name(id=name):
            return values[name]
        case ast.Constant(value=number):
            return Decimal(str(number))
        case ast.UnaryOp(op=ast.USub(), operand=operand):
            return -_number(operand, values)
        case ast.BinOp(left=left, op=op, right=right):
            made: Decimal = _BINARY[type(op)](_number(left, values), _number(right, values))
            return made
        case ast.Call(func=ast.Name(id=name), args=given):
            return _CALLS[name](*(_value(one, values) for one in given))
    raise ValueError(f"not understood: {ast.unparse(node)}")


def _number(node: ast.expr, values: Mapping[str, Value]) -> Decimal:
    found = _value(node, values)
    assert isinstance(found, Decimal)
    return found
