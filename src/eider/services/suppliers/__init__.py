"""The supplier catalogue for one part (`supplier_lookup`) and for many (`supplier_refresh`)."""
