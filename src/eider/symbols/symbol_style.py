"""The measures of symbols (IPC-2612-1 and common practice), in mm."""

import math

import msgspec

from eider.model.symbol import SymbolMeasures


class SymbolStyle(msgspec.Struct, frozen=True):
    """Grid, lengths and text heights of a library's symbols.

    `advance` is the width of a character as a share of the text height: texts are measured without a font, a little
    too wide rather than too narrow.
    """

    grid: float = 2.54
    pin_grids: int = 2
    text: float = 1.27
    number_text: float = 0.95
    stacks: bool = False
    lists_unconnected: bool = False
    advance: float = 0.95
    outline: float = 0.25

    @property
    def pin_length(self) -> float:
        """From connection end to body."""
        return self.grid * self.pin_grids

    def text_width(self, text: str) -> float:
        """How wide a text is at most."""
        return len(text) * self.text * self.advance

    def number_width(self, text: str) -> float:
        """How wide a pin number is at most."""
        return len(text) * self.number_text * self.advance

    @property
    def shape_width(self) -> float:
        """How much room a mark beside a name takes."""
        return 1.4 * self.text

    def name_width(self, text: str, shape: str) -> float:
        """How wide a name is at most, with the mark beside it."""
        return self.text_width(text) + (self.shape_width if shape else 0.0)

    def on_grid(self, length: float) -> float:
        """The next multiple of the grid that is not below a length."""
        return math.ceil(length / self.grid - 1e-9) * self.grid


DEFAULT_STYLE = SymbolStyle()


def style_of(measures: SymbolMeasures) -> SymbolStyle:
    """What follows from a symbol's own measures."""
    return SymbolStyle(
        grid=measures.grid,
        pin_grids=measures.pin_grids,
        text=measures.text,
        number_text=measures.number_text,
        stacks=measures.same_names == "stacked",
        lists_unconnected=measures.unconnected == "listed",
    )
