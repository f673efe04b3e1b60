"""Reports: the proof of a part as PDF."""
