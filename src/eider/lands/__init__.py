"""Land-pattern mathematics: solder-joint equations and their inverse, pads, silkscreen, courtyard, adjustments."""
