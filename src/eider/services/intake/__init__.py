"""Parts from elsewhere, from the files that arrive to working copies.

`arrivals` unpacks and reads, `intake_reading` compares with the library, `intake_mapping` translates names and layers,
`intake_taking` makes drafts, `intake_waiting` keeps what is not decided.
"""
