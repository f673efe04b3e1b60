"""A document as a whole: what it holds (`document_survey`), what a click in it means (`click_capture`), and how it
differs from an earlier edition.
"""
