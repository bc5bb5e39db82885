"""Delivery specs: a client's limits, the rules that judge captions by them, and their mends."""

from dunlin.core.specs.files import file_as_asked, file_name
from dunlin.core.specs.judge import Judge, findings
from dunlin.core.specs.measures import Measures, least_gap_ms, measures
from dunlin.core.specs.mends import Mend, Mended, NoMend, mend_all, mend_of
from dunlin.core.specs.model import RuleName, Spec, SpecError, for_language, read_spec, write_spec
from dunlin.core.specs.rules import RULES, Finding, Rule, Setting, Weight
from dunlin.core.specs.shipped import shipped_specs

__all__ = [
    "RULES",
    "Finding",
    "Judge",
    "Measures",
    "Mend",
    "Mended",
    "NoMend",
    "Rule",
    "RuleName",
    "Setting",
    "Spec",
    "SpecError",
    "Weight",
    "file_as_asked",
    "file_name",
    "findings",
    "for_language",
    "least_gap_ms",
    "measures",
    "mend_all",
    "mend_of",
    "read_spec",
    "shipped_specs",
    "write_spec",
]
