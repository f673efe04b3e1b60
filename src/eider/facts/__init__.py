"""What a part is besides its drawings: categories with their facts, values with units, templates for texts."""
