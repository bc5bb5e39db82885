"""How captions look, and the script that libass draws them from."""

from dunlin.core.styles.model import STYLES, Style
from dunlin.core.styles.script import Script, event_lines, render_script, script_head

__all__ = ["STYLES", "Script", "Style", "event_lines", "render_script", "script_head"]
