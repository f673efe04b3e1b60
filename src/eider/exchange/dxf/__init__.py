"""DXF: land patterns by layer, lengths in mm, through ezdxf."""
