"""Use cases of datasheets: opened safely, drafted into parts, read again for verification.

`datasheet_opening` tries a document before it is used; `datasheet_drafts` makes a part of it step by step;
`evidence_verification` and `datasheet_rechecking` read cited places again.
"""
