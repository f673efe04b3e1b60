"""The steps of the trail, a folder each: its page (`step`) and its panels. A step knows no other step."""
