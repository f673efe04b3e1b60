"""Pages that are pictures: scans, letters drawn as outlines, fonts without meaning.

`recognising_process` reads one page at a time in a process of its own (`page_recognition`: straightened by
`page_straightening`, rules by `picture_rules`, words by `letter_recognition`); `known_recognition` keeps what was read,
by the sum of the document, and `pages.document` gives such a page the words that were seen.
"""
