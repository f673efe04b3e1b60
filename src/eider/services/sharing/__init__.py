"""A library shared through a git server.

`synchronising` shares, opens and follows; `claims` and `reviews` are refs on the server; `roles` and `people` say who
may do what; `conflicts` settles what two people changed.
"""
