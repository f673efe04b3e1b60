"""What a page is laid out of: its furniture (frame, running head and foot), its sections under their headings."""
