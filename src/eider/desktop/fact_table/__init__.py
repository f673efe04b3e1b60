"""Facts across parts: one table over many parts."""
