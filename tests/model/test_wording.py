from eider.model.wording import counted, named, sentence


def test_counts_have_the_right_number() -> None:
    assert [counted(n, "part") for n in (0, 1, 2, 1024)] == ["0 parts", "1 part", "2 parts", "1,024 parts"]
    assert counted(1, "footprint uses", "footprints use") == "1 footprint uses"


def test_things_are_listed_as_said_aloud() -> None:
    assert named("pad", ["3"]) == "pad 3"
    assert named("pad", ["3", "14"]) == "pads 3 and 14"
    assert named("pad", ["1", "2", "3"]) == "pads 1, 2 and 3"
    assert named("pad", [str(n) for n in range(1, 41)], most=3) == "pads 1, 2, 3 and 37 more"


def test_a_sentence_begins_large_but_a_letter_of_the_sheet_stays() -> None:
    assert sentence("pin 3 has no name") == "Pin 3 has no name"
    assert sentence("b: the maximum is below the minimum") == "b: the maximum is below the minimum"
    assert sentence("toe: short") == "Toe: short"
    assert sentence("NVK: no lands") == "NVK: no lands"
