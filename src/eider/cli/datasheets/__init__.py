"""Commands on datasheets: capture, draft, evidence, verify."""
