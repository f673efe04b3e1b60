"""The demo: invented parts of Skerry Fieldworks, their datasheets, and the library made from them."""
