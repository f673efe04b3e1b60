from msgspec.structs import replace

from eider.bodies.pictures.body_scene import BodyScene
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.demo.parts import converter_part
from eider.library import Library
from eider.library.index.part_index import PartRow
from eider.model.part import DatasheetLink
from eider.rulebooks import standard_rulebook
from eider.services.releasing.part_releasing import release_part
from eider.views.part_card import part_card


def _released(library: Library) -> tuple[PartRow, str]:
    part = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    release_part(library, part, "first release")
    return library.find("NVK-1216T"), part.part.id


def test_the_card_of_a_released_part(library: Library) -> None:
    record, part_id = _released(library)
    card = part_card(record, library.load(part_id), library.history(part_id), ("OTHER",))
    assert (card.name, card.state) == ("NVK-1216T", "Released, revision 1")
    assert card.symbol is not None
    assert card.lands is not None
    assert {solid.material for solid in card.scene.solids} >= {"copper", "board", "silkscreen"}
    assert card.facts.splitlines()[0] == "SOP65P640X120-16N"
    assert card.more.endswith("Its footprint is also used by 1 other part")
    assert "first release" in card.more


def test_a_part_without_dimensions_has_a_card_without_a_body(library: Library) -> None:
    part = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    bare = replace(part, sheet=replace(part.sheet, dims={}))
    made = evaluate_part(bare, EvaluationRules(standard_rulebook(), library.settings)).bundle
    record, _id = _released(library)
    card = part_card(replace(record, state="draft"), made, (), ())
    assert card.state == "Draft, not released yet"
    assert card.scene == BodyScene()
    assert card.more == ""
