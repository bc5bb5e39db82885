"""Delivery specs: a client's limits, and the rules that judge captions by them."""

from dunlin.core.specs.findings import Finding, findings, findings_of
from dunlin.core.specs.measures import Measures, measures
from dunlin.core.specs.model import Spec, SpecError, read_spec, write_spec
from dunlin.core.specs.shipped import shipped_specs

__all__ = [
    "Finding",
    "Measures",
    "Spec",
    "SpecError",
    "findings",
    "findings_of",
    "measures",
    "read_spec",
    "shipped_specs",
    "write_spec",
]
