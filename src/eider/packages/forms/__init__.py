"""What families share: rows of leads in their forms (dual, quad, array, two ends), terminals and lands, codes of
names.
"""
