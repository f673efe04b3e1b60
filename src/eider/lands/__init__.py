"""Land-pattern mathematics: solder-joint equations and their inverse, pads, dressing, adjustments."""
