"""What users do to lands and their rules: adjustments, suggested lands, kept distances, drafts of a rulebook."""
