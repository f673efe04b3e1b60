"""What users do to a package sheet: family, options and dimensions, copies of sheets, the scale of an outline
picture.
"""
