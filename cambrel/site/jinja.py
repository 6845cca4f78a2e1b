"""The second template language: Jinja2 for the bench's own parts, of which a page has hundreds. It knows the same words as the first."""

from functools import cache
from typing import Any

from django.urls import reverse
from django.utils.safestring import SafeString
from jinja2 import Environment, StrictUndefined
from jinja2.compiler import CodeGenerator, Frame
from markupsafe import Markup, escape

from cambrel.inputs.widgets import escaped
from cambrel.site.templatetags import figures


class Writing(CodeGenerator):
    """What is put into a text is joined to it at once, so that it need not be marked as safe before."""

    def _output_child_pre(self, node: Any, frame: Frame, finalize: Any) -> None:
        if frame.eval_ctx.autoescape and not frame.eval_ctx.volatile and finalize.src is None:
            self.write("environment.written(")
        else:
            super()._output_child_pre(node, frame, finalize)


class Parts(Environment):
    code_generator_class = Writing

    @staticmethod
    def written(value: Any) -> str:
        """A value as it stands in a page: what `escape` says, without a new object around each."""
        of = type(value)
        if of is str:
            return escaped(value)
        if of is Markup or of is SafeString:
            return str.__str__(value)
        return str(value) if of is int else escape(value)


@cache
def _address(name: str, *args: Any) -> str:
    """An address by its name; found once, as a bench has a hundred of them."""
    return reverse(name, args=args)


def environment(**options: Any) -> Any:
    made = Parts(**{**options, "undefined": StrictUndefined, "trim_blocks": True, "lstrip_blocks": True})
    made.globals |= {
        "url": _address,
        "draw": figures.draw,
        "slider": figures.slider,
    }
    made.filters |= {"explained": figures.explained, "explained_each": figures.explained_each}
    return made
