"""What users do to a part as a whole: created, copied, varied; its recipes run (`evaluation`), its history
(`edit_history`).
"""
