"""Family tables: `family_rows` reads rows from files and datasheets, `family_tables` plans, makes and releases
members.
"""
