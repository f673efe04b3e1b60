"""From what a datasheet says into a part: captured values, and the pieces of a draft.

`found_parts` and `datasheet_draft` choose package and family; `drafted_pins`, `drafted_facts` and `drafted_lands`
fill the part; `captured_values` puts single values in.
"""
