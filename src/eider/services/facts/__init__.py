"""Facts across parts: the table of many parts, bills of materials, and the designs they are for."""
