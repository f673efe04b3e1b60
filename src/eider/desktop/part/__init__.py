"""The open part: page, trail, controller, and one folder for each step."""
