"""Template filters and tags for figures and drawings; the wording itself is in cambrel.wording."""

from django import template
from django.utils.safestring import mark_safe

from cambrel import wording
from cambrel.drawings import svg

register = template.Library()


@register.filter
def sentence(said, units):
    """A computed sentence with its figures."""
    return wording.sentence(said, units)


@register.simple_tag
def draw(drawing, identity):
    """A drawing as SVG; its texts are escaped by the writer."""
    return mark_safe(svg.write(drawing, identity))


@register.filter
def item(sequence, index):
    """One item of a list by its number."""
    return sequence[index]


@register.filter
def key(mapping, name):
    """An entry of a mapping by its key."""
    return mapping[name]


@register.filter
def field(form, name):
    """A form's field by its name."""
    return form[name]


@register.filter
def error(messages, name):
    """The message beside a field, if there is one."""
    return messages.get(name, "")
