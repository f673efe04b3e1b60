"""What a library keeps beside its items: working copies, attached files, tables that parts share, rulebooks,
family tables.
"""
