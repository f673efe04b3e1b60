"""Use cases that meet the disk, the network or the clock: they report progress and can be cancelled."""
