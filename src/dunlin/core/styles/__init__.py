"""How captions look, and the script that libass draws them from."""

from dunlin.core.styles.model import STYLES, Look, Style, StyleSheet, sheet_with, styled
from dunlin.core.styles.picture import Script
from dunlin.core.styles.render_script import event_lines, render_script, script_head
from dunlin.core.styles.stacking import raised_by

__all__ = [
    "STYLES",
    "Look",
    "Script",
    "Style",
    "StyleSheet",
    "event_lines",
    "raised_by",
    "render_script",
    "script_head",
    "sheet_with",
    "styled",
]
