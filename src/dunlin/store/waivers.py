"""Findings that somebody accepted as they are, with the reason."""

from collections.abc import Iterable
from dataclasses import asdict, dataclass

from dunlin.core.captions import Caption, Track
from dunlin.core.project.records import Record
from dunlin.core.specs import Finding

__all__ = ["Waiver", "Waivers", "waiver_key", "waivers_that_stand", "with_waivers"]


@dataclass(frozen=True)
class Waiver:
    """Why a finding is waived, and the caption as it was then."""

    reason: str
    in_ms: int
    out_ms: int
    text: str

    @classmethod
    def of(cls, caption: Caption, reason: str) -> "Waiver":
        """The waiver of a finding about a caption as it is now."""
        return cls(reason, caption.in_ms, caption.out_ms, caption.text)

    def stands(self, caption: Caption) -> bool:
        """Whether the caption still is what was waived."""
        return (caption.in_ms, caption.out_ms, caption.text) == (self.in_ms, self.out_ms, self.text)

    def entry(self) -> dict[str, object]:
        """As the record keeps it."""
        return asdict(self)


Waivers = dict[tuple[str, str], Waiver]
"""Waivers by rule and caption."""


def waiver_key(rule: str, caption: str) -> str:
    """The key of a waiver in its record."""
    return f"{rule} {caption}"


def waivers_that_stand(record: Record, track: Track) -> Waivers:
    """The waivers of a record whose captions are what they were when they were waived."""
    found: Waivers = {}
    for key, value in record.items():
        rule, caption = key.split(" ", 1)
        waiver = Waiver(**value)
        if caption in track and waiver.stands(track[caption]):
            found[rule, caption] = waiver
    return found


def with_waivers(found: Iterable[Finding], waivers: Waivers) -> list[Finding]:
    """Findings, those that are waived with the reason."""
    findings = list(found)
    if waivers:
        for finding in findings:
            if waiver := waivers.get((finding.rule, finding.caption)):
                finding.waived = waiver.reason
    return findings
