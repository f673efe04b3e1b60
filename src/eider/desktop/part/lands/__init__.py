"""The step Lands."""
