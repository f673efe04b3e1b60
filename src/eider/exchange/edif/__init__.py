"""EDIF 2 0 0 (EIA-548, IEC 61690-1): symbols with their pins, units, graphics and properties."""
