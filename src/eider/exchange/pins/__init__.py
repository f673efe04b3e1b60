"""Pin tables from elsewhere: one module each for spreadsheets, boundary-scan descriptions and buffer models."""
