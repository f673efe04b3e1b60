"""A whole library under the checks.

`library_checking` runs them over parts and files, `check_baseline` holds known findings, `library_health` and
`duplicates` measure the library.
"""
