"""What the Shelf's card shows of a part, computed with its loading."""

from collections.abc import Sequence

import msgspec

from eider.bodies.pictures.body_scene import BodyScene, body_scene
from eider.bodies.solids.materials import MaterialTable
from eider.drawings.land_drawing import LandOptions, pattern_drawing
from eider.drawings.primitives import Drawing
from eider.drawings.symbol_drawing import symbol_drawing
from eider.errors import EiderError
from eider.library.git.revision_trailers import ItemRevision
from eider.library.index.part_index import PartRow
from eider.model.bundle import Bundle
from eider.model.wording import counted

# The copper that is soldered, and what keeps others away: all that can be told at the size of a card.
LAYERS = frozenset(("copper", "silkscreen", "courtyard"))
FACTS = 6
REVISIONS = 2


class PartCardView(msgspec.Struct, frozen=True):
    """The card: texts, drawings, and the body on its lands (empty where it cannot be computed)."""

    name: str
    state: str
    description: str
    symbol: Drawing | None
    lands: Drawing | None
    scene: BodyScene
    facts: str
    more: str


def part_card(
    record: PartRow,
    bundle: Bundle,
    history: Sequence[ItemRevision],
    shared_with: Sequence[str],
    materials: MaterialTable | None = None,
) -> PartCardView:
    """The card of a part; `shared_with` are the other parts that use its footprint, `materials` the library's."""
    found = bundle.part.withdrawn
    states = {"draft": "Draft, not released yet", "released": f"Released, revision {record.revision}",
              "withdrawn": f"Withdrawn: {found.reason}" if found else "Withdrawn"}  # fmt: skip
    pattern = bundle.footprint.pattern
    try:
        scene = body_scene(bundle.sheet, bundle.body, pattern, materials)
    except EiderError:
        scene = BodyScene()
    facts = [f"{name}: {fact.value}" for name, fact in list(bundle.part.facts.items())[:FACTS]]
    more = [f"r{r.revision}, {r.at[:10]}, {r.by}: {r.note}" for r in reversed(history[-REVISIONS:])]
    if shared_with:
        more.append(f"Its footprint is also used by {counted(len(shared_with), 'other part')}")
    return PartCardView(
        name=record.name,
        state=states.get(record.state, f"Changed since revision {record.revision}"),
        description=record.description,
        symbol=symbol_drawing(bundle.symbol, record.name) if bundle.symbol.units else None,
        lands=pattern_drawing(pattern, (), LandOptions(LAYERS)) if pattern else None,
        scene=scene,
        facts="\n".join([bundle.footprint.name, *facts]).strip() or "No facts yet",
        more="\n".join(more),
    )
