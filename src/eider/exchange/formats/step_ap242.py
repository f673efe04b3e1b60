"""STEP (ISO 10303-21, AP242): the 3D body, as the format step has it, by the newer protocol."""

from functools import partial

from eider.exchange.format_spec import FormatSpec
from eider.exchange.formats.step import write_step

FORMAT = FormatSpec(
    key="step-ap242",
    title="Body as STEP (AP242)",
    suffixes=(),
    order=11,
    loses="symbol, lands and facts",
    is_default=False,
    write=partial(write_step, protocol="AP242"),
)
