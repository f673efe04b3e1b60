"""One page of a PDF as words, lines of text, rulings and paths, whatever is wrong with the file.

`document` opens it; `page_trial` tries it in a process of its own first.
"""
