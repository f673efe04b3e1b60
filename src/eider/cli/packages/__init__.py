"""Commands on package sheets, patterns, symbols and bodies: lands, joints, yield, pitch, body, align, symbol,
pinout.
"""
