"""What a pattern from elsewhere, or one changed by hand, did wrong: one slip a module, told in one sentence."""
