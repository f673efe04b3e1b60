"""SVG from elsewhere: outlines of lands, and graphics of symbols."""
