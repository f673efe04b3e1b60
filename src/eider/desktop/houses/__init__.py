"""Houses: what was learned of the datasheets of each, to be looked at, switched off and taken back."""
