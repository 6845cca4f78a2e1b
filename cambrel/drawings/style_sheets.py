"""Style sheets read: rules with their selectors and what they declare. Pure."""

from __future__ import annotations

from collections.abc import Iterator

import tinycss2


def rules_of(css: str) -> Iterator[tuple[str, dict[str, str]]]:
    """The rules of a sheet as they come, those within others and of other kinds left out.

    Parameters
        css: the text of a sheet
    Returns
        of each rule its selector (for an @font-face "@font-face"), and its declarations by name
    """
    for rule in tinycss2.parse_stylesheet(css, skip_comments=True, skip_whitespace=True):
        if rule.type == "qualified-rule":
            yield tinycss2.serialize(rule.prelude).strip(), declared(rule.content)
        elif rule.type == "at-rule" and rule.at_keyword == "font-face" and rule.content is not None:
            yield "@font-face", declared(rule.content)


def declared(content: list[tinycss2.ast.Node]) -> dict[str, str]:
    """What stands within the braces of a rule, by name; a value as it is written.

    Parameters
        content: of the braces, as parsed
    Returns
        by name; a value as it is written
    """
    declarations = tinycss2.parse_blocks_contents(content, skip_comments=True, skip_whitespace=True)
    return {
        declaration.name: tinycss2.serialize(declaration.value).strip()
        for declaration in declarations
        if declaration.type == "declaration"
    }
